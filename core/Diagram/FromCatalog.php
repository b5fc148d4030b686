<?php

declare(strict_types=1);

namespace Fasti\Core\Diagram;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\ForeignKey;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Dialect\Dialect;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Join\Cardinality;
use Fasti\Core\Join\JoinRole;
use Fasti\Core\Join\Sentence;
use Fasti\Core\Wording\Naming;

/** A diagram straight from a catalog, before anybody has written anything about it. */
final class FromCatalog
{
    /** @return array{list<Tablet>, list<Line>} */
    public static function of(Catalog $catalog): array
    {
        $ids = $tablets = $lines = [];
        $dialect = Dialects::ofCatalog($catalog);
        foreach ($catalog->tables as $id => $table) {
            $ids[$table->place()->key()] = $id;
            $tablets[] = new Tablet(
                $id,
                $table->name,
                array_map(static fn (Column $column): TabletRow => self::row($column, $table, $dialect), $table->columns),
                '',
                TableType::Table === $table->kind ? '' : $table->kind->value,
                '',
                $table->comment,
            );
        }
        foreach ($catalog->tables as $from => $table) {
            foreach ($table->foreignKeys as $key) {
                $to = $ids[$key->references->place()->key()] ?? null;
                if (null !== $to) {
                    $cardinality = Cardinality::declared($table, $key);
                    $lines[] = new Line(\count($lines), $from, $key->columns[0], $to, $key->references->columns[0], $cardinality->from, $cardinality->to,
                        '', 'declared',
                        (string) Sentence::forth(
                            Naming::asName($table->name),
                            Naming::asName($key->references->table),
                            $cardinality,
                            role: JoinRole::of(self::pairs($key), $key->references->table),
                        ), \array_slice($key->columns, 1), \array_slice($key->references->columns, 1));
                }
            }
        }

        return [$tablets, $lines];
    }

    /** @return list<array{string, string}> */
    private static function pairs(ForeignKey $key): array
    {
        return array_map(static fn (string $near, string $far): array => [$near, $far], $key->columns, $key->references->columns);
    }

    /**
     * What is no farther than some joins from a tablet.
     *
     * @param list<Line> $lines
     *
     * @return array<int, true> by id
     */
    public static function near(array $lines, int $tablet, int $steps): array
    {
        $near = [$tablet => true];
        for ($step = 0; $step < $steps; ++$step) {
            $edge = $near;
            foreach ($lines as $line) {
                if (isset($edge[$line->from]) || isset($edge[$line->to])) {
                    $near[$line->from] = $near[$line->to] = true;
                }
            }
        }

        return $near;
    }

    private static function row(Column $column, Table $table, Dialect $dialect): TabletRow
    {
        return new TabletRow(
            $column->name,
            $column->name,
            null !== $table->primaryKey && \in_array($column->name, $table->primaryKey->columns, true),
            $dialect->typeInWords($column),
            $dialect->typeInWords($column).($column->nullable ? ', or empty' : ''),
        );
    }
}
