<?php

declare(strict_types=1);

namespace Fasti\Core\Value;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Dialect\ProfileSql;

/**
 * A regular expression that the whole value matches, in what PCRE2 and PostgreSQL's advanced regular expressions have in common:
 * letters, classes, groups, alternatives and counts. What could take an engine longer than a few steps a letter is refused: a count
 * within a count that has no end, and more than two such counts.
 */
final readonly class Pattern implements Part
{
    private const LONGEST = 200;
    private const MOST_OPEN = 2;
    private const MOST_TIMES = 100;
    /** Names for what is often meant. */
    public const LETTERS = [
        'letters' => '[[:alpha:]]+', 'capital letters' => '[[:upper:]]+', 'small letters' => '[[:lower:]]+', 'digits' => '[0-9]+',
        'letters and digits' => '[[:alnum:]]+', 'capital letters and digits' => '[[:upper:]0-9]+',
    ];

    /**
     * @param string $name what it is called where it was not written out: "capital letters"
     *
     * @throws AllowedError
     */
    public function __construct(public string $expression, private string $name = '')
    {
        self::check($expression);
    }

    public function fits(string $value): bool
    {
        return 1 === preg_match('~(*UCP)^(?:'.str_replace('~', '\x7E', $this->expression).')\z~u', $value);
    }

    public function sql(ProfileSql $sql, Column $column, TypeFamily $family): string
    {
        return $sql->matches($sql->exact($column, $sql->quoted($column->name)), $this->expression);
    }

    public function words(): string
    {
        return '' !== $this->name ? $this->name : 'matches '.$this->expression;
    }

    /** @throws AllowedError */
    private static function check(string $expression): void
    {
        if ('' === $expression) {
            throw new AllowedError('After “matches” stands a regular expression, such as [A-Z]{3}-[0-9]+.');
        }
        if (\strlen($expression) > self::LONGEST) {
            throw new AllowedError(\sprintf('A pattern has %d characters at the most. Long lists of values are better kept as a code list.', self::LONGEST));
        }
        $open = [];
        $depths = [false];
        $length = \strlen($expression);
        $atom = false;
        for ($i = 0; $i < $length; ++$i) {
            $sign = $expression[$i];
            if ('\\' === $sign) {
                $next = $expression[++$i] ?? '';
                if (1 !== preg_match('/^[dDwWsS.\\\\\/\-+*?()\[\]{}|^$]$/', $next)) {
                    throw new AllowedError(\sprintf('“\\%s” is not a sign that every engine knows. Use letters, classes such as [A-Z], \\d, \\w and \\s.',
                        $next), $i);
                }
                $atom = true;
            } elseif ('[' === $sign) {
                if (1 !== preg_match('/\G\[\^?\]?(?:\[:\w+:\]|\\\\.|[^\]\\\\])*\]/', $expression, $m, 0, $i)) {
                    throw new AllowedError('A “[” is not closed.', $i);
                }
                $i += \strlen($m[0]) - 1;
                $atom = true;
            } elseif ('(' === $sign) {
                if ('?' === ($expression[$i + 1] ?? '') && ':' !== ($expression[$i + 2] ?? '')) {
                    throw new AllowedError('Groups are plain ones here: nothing that looks ahead or behind, and no names.', $i);
                }
                $i += '?' === ($expression[$i + 1] ?? '') ? 2 : 0;
                $depths[] = false;
                $atom = false;
            } elseif (')' === $sign) {
                if (1 === \count($depths)) {
                    throw new AllowedError('A “)” closes nothing.', $i);
                }
                $inner = (bool) array_pop($depths);
                [$open, $i, $endless] = self::counted($expression, $i, $open, $inner);
                $depths[\count($depths) - 1] = end($depths) || $inner || $endless;
                $atom = false;
                continue;
            } elseif (\in_array($sign, ['*', '+', '?', '{'], true)) {
                throw new AllowedError(\sprintf('“%s” stands where there is nothing to count.', $sign), $i);
            } elseif ('|' === $sign || '^' === $sign || '$' === $sign) {
                $atom = false;
                continue;
            } else {
                $i += max(0, \strlen(mb_substr(substr($expression, $i, 4), 0, 1)) - 1);
                $atom = true;
            }
            if ($atom) {
                [$open, $i, $endless] = self::counted($expression, $i, $open, false);
                $depths[\count($depths) - 1] = end($depths) || $endless;
            }
        }
        if (\count($depths) > 1) {
            throw new AllowedError('A “(” is not closed.', $length);
        }
        if (false === @preg_match('~^(?:'.str_replace('~', '\x7E', $expression).')\z~u', '')) {
            throw new AllowedError('This is no regular expression: '.preg_last_error_msg().'.');
        }
    }

    /**
     * Reads the count after what ends at a place.
     *
     * @param list<int>  $open   places of counts without an end
     * @param bool       $inner  what is counted has such a count within
     *
     * @return array{list<int>, int, bool} and where the count ends, and whether it has no end
     */
    private static function counted(string $expression, int $at, array $open, bool $inner): array
    {
        if (1 !== preg_match('/\G(?:[*+?]|\{(\d+)(,(\d*))?\})([?+]?)/', $expression, $m, 0, $at + 1)) {
            return [$open, $at, false];
        }
        $endless = '*' === $m[0][0] || '+' === $m[0][0] || '' !== $m[2] && '' === $m[3];
        $times = max((int) $m[1], (int) $m[3]);
        if ($times > self::MOST_TIMES) {
            throw new AllowedError(\sprintf('A count goes to %d at the most.', self::MOST_TIMES), $at + 1);
        }
        if ($inner && ($endless || $times > 1)) {
            throw new AllowedError(
                'A count stands around another that has no end. On some values that would run for ever: give the inner one an end, as in {1,20}.',
                $at + 1,
            );
        }
        if ($endless) {
            $open[] = $at + 1;
            if (\count($open) > self::MOST_OPEN) {
                throw new AllowedError(
                    \sprintf('More than %d counts have no end. On some values that would take very long: give the others one, as in {1,20}.', self::MOST_OPEN),
                    $at + 1,
                );
            }
        }

        return [$open, $at + \strlen($m[0]), $endless];
    }
}
