<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Sql;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\FieldPlace;
use Fasti\Core\Sql\ReadField;
use Fasti\Core\Sql\Reading;
use Fasti\Core\Sql\Readings;
use PHPUnit\Framework\Assert;

/** What is read of queries, held against what a server knows of the views that were made of them. */
final class Held
{
    /**
     * @param array<string, array{string, list<string>}> $queries
     *
     * @return array{list<string>, int, int} what differs, how many types there are, and how many of them are right
     */
    public static function byHand(Catalog $catalog, array $queries, string $schema): array
    {
        $faults = [];
        $types = $right = 0;
        foreach (array_keys($queries) as $i => $title) {
            $view = $catalog->table($schema, "q$i");
            Assert::assertNotNull($view);
            foreach (self::both($catalog, "q$i", $queries[$title][0], $schema, $schema) as $which => $reading) {
                array_push(
                    $faults,
                    ...self::compared("$title, $which", $reading, array_map(static fn (string $name): string => "$schema.$name", $queries[$title][1]), null),
                );
                $names = array_map(static fn (ReadField $field): string => $field->name, $reading->fields);
                if ($names !== array_map(static fn (Column $column): string => $column->name, $view->columns)) {
                    $faults[] = "$title, $which: names ".implode(', ', $names);
                }
                foreach ($view->columns as $k => $column) {
                    ++$types;
                    $right += (int) (($reading->fields[$k]->type ?? null) === $column->type || str_contains($column->type, '/*'));
                }
            }
        }

        return [$faults, $types, $right];
    }

    /** @return array{'as the server has it': Reading, 'as it is written': Reading} */
    public static function both(Catalog $catalog, string $view, string $sql, string $of, string $schema): array
    {
        $readings = new Readings($catalog);
        $table = $catalog->table($of, $view);
        Assert::assertNotNull($table);

        return ['as the server has it' => $readings->of($table), 'as it is written' => $readings->query($sql, $schema)];
    }

    /**
     * @param list<string>      $references that there must be
     * @param list<Column>|null $columns    whose names and types there must be; null where that is held otherwise
     *
     * @return list<string> what differs
     */
    public static function compared(string $title, Reading $reading, array $references, ?array $columns): array
    {
        $faults = array_map(static fn (string $unknown): string => "$title: $unknown", Queries::unknown($reading));
        $found = array_map(static fn (FieldPlace $field): string => "$field->schema.$field->table.$field->column", $reading->references);
        foreach (array_diff($references, $found) as $missing) {
            $faults[] = "$title: $missing is missing";
        }
        foreach (array_diff($found, $references) as $more) {
            $faults[] = "$title: $more is too much";
        }
        foreach ($columns ?? [] as $i => $column) {
            $field = $reading->fields[$i] ?? null;
            if (null === $field || $field->name !== $column->name || $field->type !== $column->type) {
                $faults[] = \sprintf('%s: %s %s, but %s %s', $title, $column->name, $column->type, $field->name ?? 'nothing', $field->type ?? '');
            }
        }

        return $faults;
    }

    /**
     * @param array<string, string>       $queries name of a view → query
     * @param array<string, list<string>> $truth   name of a view → fields that it depends on, as the server keeps it
     *
     * @return list<string> what differs
     */
    public static function views(Catalog $catalog, array $queries, array $truth, string $schema): array
    {
        $readings = new Readings($catalog);
        $faults = [];
        foreach ($queries as $name => $sql) {
            $view = $catalog->table('v', $name);
            Assert::assertNotNull($view);
            array_push(
                $faults,
                ...self::compared("$sql as the server has it", $readings->of($view), $truth[$name] ?? [], $view->columns),
                ...self::compared($sql, $readings->query($sql, $schema), $truth[$name] ?? [], $view->columns),
            );
        }

        return $faults;
    }

    /**
     * Views that a server brings with it: nobody made them for a test.
     *
     * @return list<string> what differs
     */
    public static function own(Catalog $catalog): array
    {
        $faults = [];
        $all = (new Readings($catalog))->all();
        foreach ($catalog->tables as $view) {
            if ($view->kind->isView()) {
                $reading = $all[$view->place()->key()];
                $names = array_map(static fn (FieldPlace $field): string => "$field->schema.$field->table.$field->column", $reading->references);
                array_push($faults, ...self::compared((string) $view->place(), $reading, $names, $view->columns));
            }
        }

        return $faults;
    }

    /**
     * @param list<string>                $titles of the hard queries, in the order of their views
     * @param array<string, list<string>> $truth
     *
     * @return list<string> what differs
     */
    public static function hard(Catalog $catalog, array $titles, array $truth): array
    {
        $queries = Queries::hard('postgresql');
        $faults = [];
        foreach ($titles as $i => $title) {
            $view = $catalog->table('v', "q$i");
            Assert::assertNotNull($view);
            // What a composite type is made of is not in the catalog.
            $columns = 'members of a composite value' === $title ? [] : $view->columns;
            foreach (self::both($catalog, "q$i", $queries[$title][0], 'v', 'river') as $which => $reading) {
                array_push($faults, ...self::compared("$title, $which", $reading, $truth["q$i"] ?? [], $columns));
            }
        }

        return $faults;
    }
}
