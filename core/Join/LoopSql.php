<?php

declare(strict_types=1);

namespace Fasti\Core\Join;

use Fasti\Core\Catalog\Place;
use Fasti\Core\Dialect\Dialect;

/** The question whether the two ways of a loop lead to the same row. */
final readonly class LoopSql
{
    /** @param array<int, Place> $places */
    public function __construct(private Dialect $dialect, private array $places)
    {
    }

    /** Gives `both_ways`: rows that reach an end in both ways; `same_end`: those that reach the same one. */
    public function count(Loop $loop): string
    {
        $from = $this->dialect->placed($this->places[$loop->from]).' AS a0';
        [$one, $endOne] = $this->way($loop->one, 'p');
        [$other, $endOther] = $this->way($loop->other, 'q');
        if (array_keys($endOne) !== array_keys($endOther)) {
            // They find the last table by different keys of it: its row is read, and held against the other reference.
            $on = implode(
                ' AND ',
                array_map(fn (int|string $key, string $field): string => 'e.'.$this->dialect->quoted((string) $key)." = $field", array_keys($endOne), $endOne),
            );
            $one .= "\nLEFT JOIN ".$this->dialect->placed($this->places[$loop->to])." AS e ON $on";
            $endOne = array_map(fn (int|string $key): string => 'e.'.$this->dialect->quoted((string) $key), array_keys($endOther));
        }
        $endOne = array_values($endOne);
        $endOther = array_values($endOther);
        $both = implode(' AND ', array_map(static fn (string $field): string => "$field IS NOT NULL", [...$endOne, ...$endOther]));
        $same = implode(' AND ', array_map(static fn (string $a, string $b): string => "$a = $b", $endOne, $endOther));

        $counted = [
            "SUM(CASE WHEN $both THEN 1 ELSE 0 END) AS both_ways",
            "SUM(CASE WHEN $both AND $same THEN 1 ELSE 0 END) AS same_end",
            'COUNT(*) AS all_rows',
        ];

        return 'SELECT '.implode(', ', $counted)."\nFROM $from$one$other";
    }

    /**
     * Joins all but the last table: what its row refers to is known before it is read.
     *
     * @param list<Step> $steps
     *
     * @return array{string, array<array-key, string>} joins, and the fields that refer to the end, by their names at the end
     */
    private function way(array $steps, string $letter): array
    {
        $sql = '';
        $here = 'a0';
        foreach (\array_slice($steps, 0, -1) as $i => $step) {
            $next = $letter.($i + 1);
            $on = array_map(
                fn (array $pair): string => "$next.".$this->dialect->quoted($pair[1])." = $here.".$this->dialect->quoted($pair[0]),
                $step->link->pairs,
            );
            $sql .= "\nLEFT JOIN ".$this->dialect->placed($this->places[$step->to()])." AS $next ON ".implode(
                ' AND ',
                [...$on, ...$this->condition($step, $here)],
            );
            $here = $next;
        }
        $last = $steps[\count($steps) - 1];
        $ends = [];
        foreach ($last->link->pairs as [$near, $far]) {
            $field = "$here.".$this->dialect->quoted($near);
            $condition = $this->condition($last, $here);
            $ends[$far] = [] === $condition ? $field : 'CASE WHEN '.implode(' AND ', $condition)." THEN $field END";
        }
        ksort($ends);

        return [$sql, $ends];
    }

    /** @return list<string> */
    private function condition(Step $step, string $alias): array
    {
        return null === $step->link->where ? [] : [
            "$alias.".$this->dialect->quoted($step->link->where[0]).' = '.$this->dialect->literal($step->link->where[1]),
        ];
    }
}
