<?php

declare(strict_types=1);

namespace Fasti\Core\Value;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Quotes;
use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Dialect\ProfileSql;

/**
 * Which values a field may hold, as a steward writes it: parts with semicolons between, all of which hold.
 *
 *     one of G, S, "a, b"      code list quality flag
 *     0 to 100                 at least 2020-01-01      less than 5
 *     6 characters             2 to 6 characters        at most 40 characters
 *     capital letters          letters and digits       matches [A-Z]{3}-[0-9]+
 */
final readonly class Allowed
{
    private const END = '-?\d+(?:\.\d+)?|\d{4}-\d\d-\d\d(?:[T ]\d\d:\d\d(?::\d\d)?)?';

    /** @param non-empty-list<Part> $parts */
    private function __construct(public array $parts)
    {
    }

    /**
     * @param callable(string): (list<string>|null) $codes name of a code list → its codes, null where there is none of that name
     *
     * @throws AllowedError
     */
    public static function parse(string $text, callable $codes): self
    {
        $parts = [];
        foreach (self::pieces($text) as [$piece, $at]) {
            try {
                $parts[] = self::part($piece, $codes);
            } catch (AllowedError $e) {
                throw new AllowedError($e->getMessage(), $at + $e->at);
            }
        }
        if ([] === $parts) {
            throw new AllowedError(
                'Nothing is said of the values yet. Write, for example: 0 to 100, one of G, S, B, code list countries, 6 characters, matches [A-Z]{3}.',
            );
        }

        return new self($parts);
    }

    public function fits(string $value): bool
    {
        foreach ($this->parts as $part) {
            if (!$part->fits($value)) {
                return false;
            }
        }

        return true;
    }

    /** @return string a condition that holds for rows with a value that is not allowed; '' where the engine cannot tell */
    public function breaks(ProfileSql $sql, Column $column, TypeFamily $family): string
    {
        $fit = [];
        foreach ($this->parts as $part) {
            $condition = $part->sql($sql, $column, $family);
            if ('' === $condition) {
                return '';
            }
            $fit[] = $condition;
        }

        return $sql->quoted($column->name).' IS NOT NULL AND NOT ('.implode(' AND ', $fit).')';
    }

    /** @return list<string> names of the code lists that it speaks of */
    public function lists(): array
    {
        $lists = [];
        foreach ($this->parts as $part) {
            if ($part instanceof OneOf && '' !== $part->list) {
                $lists[] = $part->list;
            }
        }

        return $lists;
    }

    public function words(): string
    {
        return implode('; ', array_map(static fn (Part $part): string => $part->words(), $this->parts));
    }

    /** A value as it stands in a list: in quotation marks where it would not end where it ends. */
    public static function quoted(string $value): string
    {
        return '' === $value || 1 === preg_match('/[",;]|^\s|\s$/u', $value) ? Quotes::around($value) : $value;
    }

    /** @return list<array{string, int}> parts and where they begin; a pattern reaches to the end, whatever stands in it */
    private static function pieces(string $text): array
    {
        $pieces = [];
        $from = 0;
        $quoted = false;
        $length = \strlen($text);
        for ($i = 0; $i <= $length; ++$i) {
            $sign = $text[$i] ?? ';';
            $quoted = '"' === $sign ? !$quoted : $quoted;
            $pattern = 1 === preg_match('/^\s*matches\s/i', substr($text, $from, $i - $from));
            if (';' === $sign && (!$quoted && !$pattern || $i >= $length)) {
                $piece = substr($text, $from, $i - $from);
                if ('' !== trim($piece)) {
                    $pieces[] = [trim($piece), mb_strlen(substr($text, 0, $from + \strlen($piece) - \strlen(ltrim($piece))))];
                }
                $from = $i + 1;
            }
        }

        return $pieces;
    }

    /**
     * @param callable(string): (list<string>|null) $codes
     *
     * @throws AllowedError
     */
    private static function part(string $text, callable $codes): Part
    {
        $end = self::END;
        if (1 === preg_match('/^one of\s+(.+)$/isu', $text, $m)) {
            return new OneOf(self::values($m[1]));
        }
        if (1 === preg_match('/^(?:the )?code list\s+(.+)$/isu', $text, $m)) {
            $name = trim($m[1], ' "“”');

            return new OneOf(
                $codes($name) ?? throw new AllowedError(
                    \sprintf('There is no code list “%s”. The list of code lists is in the register; make it there first, or correct its name.', $name),
                    10,
                ),
                $name,
            );
        }
        if (1 === preg_match('/^(matches\s+)(.+)$/isu', $text, $m)) {
            try {
                return new Pattern(trim($m[2]));
            } catch (AllowedError $e) {
                throw new AllowedError($e->getMessage(), \strlen($m[1]) + $e->at);
            }
        }
        if (isset(Pattern::LETTERS[mb_strtolower($text)])) {
            return new Pattern(Pattern::LETTERS[mb_strtolower($text)], mb_strtolower($text));
        }
        if (1 === preg_match('/^(?:(at least|at most)\s+)?(\d+)(?:\s*(?:to|–|-)\s*(\d+))?\s+(?:characters?|letters long|signs)$/iu', $text, $m,
            \PREG_UNMATCHED_AS_NULL)) {
            $number = (int) $m[2];

            return match (strtolower($m[1] ?? '')) {
                'at least' => new Long($number, null),
                'at most' => new Long(0, $number),
                default => self::ordered($number, (int) ($m[3] ?? $m[2])),
            };
        }
        if (1 === preg_match("/^(at least|at most|more than|less than|from|until|up to|>=|<=|>|<)\\s*($end)$/iu", $text, $m)) {
            return match (strtolower($m[1])) {
                'at least', 'from', '>=' => new Between($m[2], ''),
                'more than', '>' => new Between($m[2], '', false),
                'less than', '<' => new Between('', $m[2], true, false),
                default => new Between('', $m[2]),
            };
        }
        if (1 === preg_match("/^(?:between\\s+)?($end)\\s*(?:to|and|–|\\.\\.|…)\\s*($end)$/iu", $text, $m)) {
            $days = [str_contains(substr($m[1], 1), '-'), str_contains(substr($m[2], 1), '-')];
            if ($days[0] !== $days[1]) {
                throw new AllowedError('One end is a number, the other a day.');
            }
            if ($days[0] ? strcmp($m[1], $m[2]) > 0 : (float) $m[1] > (float) $m[2]) {
                throw new AllowedError(\sprintf('%s comes after %s: write the lesser end first.', $m[1], $m[2]));
            }

            return new Between($m[1], $m[2]);
        }
        throw new AllowedError(\sprintf(
            '“%s” is not understood. Write: 0 to 100, at least 0, one of G, S, B, code list NAME, 2 to 6 characters, capital letters, or matches and a '
                .'regular expression.',
            mb_strimwidth($text, 0, 60, '…'),
        ));
    }

    private static function ordered(int $least, int $most): Long
    {
        return $least > $most ? throw new AllowedError(\sprintf('%d is more than %d: write the lesser number first.', $least, $most)) : new Long($least, $most);
    }

    /**
     * @return non-empty-list<string>
     *
     * @throws AllowedError
     */
    private static function values(string $text): array
    {
        if (1 === substr_count($text, '"') % 2) {
            throw new AllowedError('A quotation mark is not closed.');
        }
        preg_match_all('/\s*("(?:[^"]|"")*"|[^",]*)\s*(?:,|$)/u', $text, $m);
        $values = [];
        foreach ($m[1] as $value) {
            $value = trim($value);
            if ('' !== $value) {
                $values[] = str_starts_with($value, '"') ? str_replace('""', '"', substr($value, 1, -1)) : $value;
            }
        }

        return [] === $values ? throw new AllowedError('After “one of” stand the values, with commas between.') : array_values(array_unique($values));
    }
}
