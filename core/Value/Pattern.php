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
        for ($i = 0; $i < $length; ++$i) {
            $sign = $expression[$i];
            $inner = false;
            if ('(' === $sign) {
                $i += self::group($expression, $i);
                $depths[] = false;
                continue;
            }
            if ('|' === $sign || '^' === $sign || '$' === $sign) {
                continue;
            }
            if (')' === $sign) {
                if (1 === \count($depths)) {
                    throw new AllowedError('A “)” closes nothing.', $i);
                }
                $inner = (bool) array_pop($depths);
            } else {
                $i += self::atom($expression, $i) - 1;
            }
            [$open, $i, $endless] = self::counted($expression, $i, $open, $inner);
            $depths[\count($depths) - 1] = end($depths) || $inner || $endless;
        }
        if (\count($depths) > 1) {
            throw new AllowedError('A “(” is not closed.', $length);
        }
        if (false === @preg_match('~^(?:'.str_replace('~', '\x7E', $expression).')\z~u', '')) {
            throw new AllowedError('This is no regular expression: '.preg_last_error_msg().'.');
        }
    }

    /** How much longer than its parenthesis the beginning of a group is. */
    private static function group(string $expression, int $at): int
    {
        if ('?' !== ($expression[$at + 1] ?? '')) {
            return 0;
        }
        if (':' !== ($expression[$at + 2] ?? '')) {
            throw new AllowedError('Groups are plain ones here: nothing that looks ahead or behind, and no names.', $at);
        }

        return 2;
    }

    /** How long what stands for one character is. */
    private static function atom(string $expression, int $at): int
    {
        $sign = $expression[$at];
        if ('\\' === $sign) {
            $next = $expression[$at + 1] ?? '';
            if (1 !== preg_match('/^[dDwWsS.\\\\\/\-+*?()\[\]{}|^$]$/', $next)) {
                $words = '“\\%s” is not a sign that every engine knows. Use letters, classes such as [A-Z], \\d, \\w and \\s.';
                throw new AllowedError(\sprintf($words, $next), $at + 1);
            }

            return 2;
        }
        if ('[' === $sign) {
            if (1 !== preg_match('/\G\[\^?\]?(?:\[:\w+:\]|\\\\.|[^\]\\\\])*\]/', $expression, $m, 0, $at)) {
                throw new AllowedError('A “[” is not closed.', $at);
            }

            return \strlen($m[0]);
        }
        if (\in_array($sign, ['*', '+', '?', '{'], true)) {
            throw new AllowedError(\sprintf('“%s” stands where there is nothing to count.', $sign), $at);
        }

        return max(1, \strlen(mb_substr(substr($expression, $at, 4), 0, 1)));
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
