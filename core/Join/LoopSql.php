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

    /** Gives `both`: rows that reach an end in both ways; `same`: those that reach the same one. */
    public function count(Loop $loop): string
    {
        $from = $this->dialect->placed($this->places[$loop->from]).' AS a0';
        [$one, $endOne] = $this->way($loop->one, 'p');
        [$other, $endOther] = $this->way($loop->other, 'q');
        $both = implode(' AND ', array_map(static fn (string $field): string => "$field IS NOT NULL", [...$endOne, ...$endOther]));
        $same = implode(' AND ', array_map(static fn (string $a, string $b): string => "$a = $b", $endOne, $endOther));

        return "SELECT SUM(CASE WHEN $both THEN 1 ELSE 0 END) AS both_ways, SUM(CASE WHEN $both AND $same THEN 1 ELSE 0 END) AS same_end, COUNT(*) AS all_rows\nFROM $from$one$other";
    }

    /**
     * Joins all but the last table: what its row refers to is known before it is read.
     *
     * @param list<Step> $steps
     *
     * @return array{string, list<string>} joins, and the fields that refer to the end, in the order of their names at the end
     */
    private function way(array $steps, string $letter): array
    {
        $sql = '';
        $here = 'a0';
        foreach (\array_slice($steps, 0, -1) as $i => $step) {
            $next = $letter.($i + 1);
            $on = array_map(fn (array $pair): string => "$next.".$this->dialect->quoted($pair[1])." = $here.".$this->dialect->quoted($pair[0]), $step->link->pairs);
            $sql .= "\nLEFT JOIN ".$this->dialect->placed($this->places[$step->to()])." AS $next ON ".implode(' AND ', [...$on, ...$this->condition($step, $here)]);
            $here = $next;
        }
        $last = $steps[\count($steps) - 1]->link->pairs;
        usort($last, static fn (array $a, array $b): int => strcmp($a[1], $b[1]));

        return [$sql, array_map(fn (array $pair): string => "$here.".$this->dialect->quoted($pair[0]), $last)];
    }

    /** @return list<string> */
    private function condition(Step $step, string $alias): array
    {
        return null === $step->link->where ? [] : ["$alias.".$this->dialect->quoted($step->link->where[0])." = '".str_replace("'", "''", $step->link->where[1])."'"];
    }

    /** Whether both ways end in the same fields of the last table; only then can they be held against each other. */
    public static function comparable(Loop $loop): bool
    {
        if ([] === $loop->one) {
            return false;
        }
        $ends = static function (array $steps): array {
            $last = $steps[\count($steps) - 1];
            $fields = $last instanceof Step ? array_column($last->link->pairs, 1) : [];
            sort($fields);

            return $fields;
        };

        return $ends($loop->one) === $ends($loop->other);
    }
}
