<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

/**
 * Puts two changed forms of one text together, by lines (S. Khanna, K. Kunal, B. C. Pierce, A formal investigation of diff3, 2007). What
 * only one of the two has changed is taken; where both have changed the same lines otherwise, a person decides.
 */
final readonly class Merging
{
    /**
     * @param string                                                                $text    with the lines of the second where both have changed them
     * @param string                                                                $mine    with those of the first
     * @param list<array{was: list<string>, mine: list<string>, theirs: list<string>}> $clashes
     */
    private function __construct(public string $text, public string $mine, public array $clashes)
    {
    }

    public static function of(string $base, string $mine, string $theirs): self
    {
        $o = explode("\n", $base);
        $a = explode("\n", $mine);
        $b = explode("\n", $theirs);
        $inA = self::matches($o, $a);
        $inB = self::matches($o, $b);
        $text = $own = $clashes = [];
        $i = 0;
        $j = 0;
        $k = 0;
        $ends = [\count($o), \count($a), \count($b)];
        while ($i < $ends[0] || $j < $ends[1] || $k < $ends[2]) {
            // The next line that stands in all three.
            for ($next = $i; $next < $ends[0] && !(isset($inA[$next], $inB[$next]) && $inA[$next] >= $j && $inB[$next] >= $k); ++$next) {
            }
            [$toA, $toB] = $next < $ends[0] ? [$inA[$next], $inB[$next]] : [$ends[1], $ends[2]];
            $was = \array_slice($o, $i, $next - $i);
            $first = \array_slice($a, $j, $toA - $j);
            $second = \array_slice($b, $k, $toB - $k);
            if ($first === $second || $second === $was) {
                $text = [...$text, ...$first];
                $own = [...$own, ...$first];
            } elseif ($first === $was) {
                $text = [...$text, ...$second];
                $own = [...$own, ...$second];
            } else {
                $clashes[] = ['was' => $was, 'mine' => $first, 'theirs' => $second];
                $text = [...$text, ...$second];
                $own = [...$own, ...$first];
            }
            $i = $next;
            $j = $toA;
            $k = $toB;
            if ($next < $ends[0]) {
                $text[] = $own[] = $o[$next];
                ++$i;
                ++$j;
                ++$k;
            }
        }

        return new self(implode("\n", $text), implode("\n", $own), $clashes);
    }

    /**
     * Lines of one text in another, in order: a longest common subsequence, between the beginning and the end that both share.
     *
     * @param list<string> $from
     * @param list<string> $to
     *
     * @return array<int, int> line → line
     */
    private static function matches(array $from, array $to): array
    {
        $found = [];
        $start = 0;
        $m = \count($from);
        $n = \count($to);
        while ($start < $m && $start < $n && $from[$start] === $to[$start]) {
            $found[$start] = $start;
            ++$start;
        }
        while ($m > $start && $n > $start && $from[$m - 1] === $to[$n - 1]) {
            $found[--$m] = --$n;
        }
        $rows = $m - $start;
        $columns = $n - $start;
        if (0 === $rows || 0 === $columns || $rows * $columns > 4_000_000) {
            return $found;
        }
        $length = array_fill(0, $rows + 1, array_fill(0, $columns + 1, 0));
        for ($r = $rows - 1; $r >= 0; --$r) {
            for ($c = $columns - 1; $c >= 0; --$c) {
                $length[$r][$c] = $from[$start + $r] === $to[$start + $c] ? $length[$r + 1][$c + 1] + 1 : max($length[$r + 1][$c], $length[$r][$c + 1]);
            }
        }
        for ($r = $c = 0; $r < $rows && $c < $columns;) {
            if ($from[$start + $r] === $to[$start + $c]) {
                $found[$start + $r++] = $start + $c++;
            } else {
                if ($length[$r + 1][$c] >= $length[$r][$c + 1]) {
                    ++$r;
                } else {
                    ++$c;
                }
            }
        }

        return $found;
    }
}
