<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

/** An answer as files have it: beside each column of codes one of their labels. */
final readonly class Coded
{
    /**
     * @param list<string>          $names
     * @param list<list<?string>>   $rows
     * @param list<?PlanColumn>     $columns null for what no plan has: labels, and what is put after
     */
    private function __construct(public array $names, public array $rows, public array $columns)
    {
    }

    /**
     * @param list<PlanColumn>    $columns
     * @param list<string>        $names   of the columns, and of what stands after them
     * @param list<list<?string>> $rows
     */
    public static function of(array $columns, array $names, array $rows): self
    {
        $allNames = $all = [];
        foreach ($names as $i => $name) {
            $allNames[] = $name;
            $all[] = $columns[$i] ?? null;
            if (null !== ($columns[$i]->labels ?? null)) {
                $allNames[] = self::free("$name label", [...$names, ...$allNames]);
                $all[] = null;
            }
        }
        $labelled = [];
        foreach ($rows as $row) {
            $out = [];
            foreach ($row as $i => $value) {
                $out[] = $value;
                $labels = $columns[$i]->labels ?? null;
                if (null !== $labels) {
                    $out[] = $labels->of($value);
                }
            }
            $labelled[] = $out;
        }

        return new self($allNames, $labelled, $all);
    }

    /** @param list<string> $taken */
    private static function free(string $name, array $taken): string
    {
        for ($i = 2, $one = $name; \in_array($one, $taken, true); ++$i) {
            $one = "$name $i";
        }

        return $one;
    }
}
