<?php

declare(strict_types=1);

namespace Fasti\Survey;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Wording\Amount;

/** Names may be longer than the register can keep: in SQLite, and as paths of deeply nested members. Such are left out, and said. */
final class Storable
{
    private const SCHEMA = 190;
    private const TABLE = 255;
    private const FIELD = 700;

    public static function of(Catalog $catalog): Catalog
    {
        $tables = [];
        $notes = $catalog->notes;
        foreach ($catalog->tables as $table) {
            if (mb_strlen($table->schema) > self::SCHEMA || mb_strlen($table->name) > self::TABLE) {
                $notes[] = \sprintf('%s was left out: its name has more than %d characters.', mb_strimwidth($table->name, 0, 80, '…'), self::TABLE);
                continue;
            }
            $columns = array_values(array_filter($table->columns, static fn (Column $column): bool => mb_strlen($column->name) <= self::FIELD));
            $out = \count($table->columns) - \count($columns);
            if ($out > 0) {
                $notes[] = \sprintf(
                    '%s: %s left out, whose name or path has more than %d characters.',
                    $table->name,
                    Amount::of($out, 'field').(1 === $out ? ' was' : ' were'),
                    self::FIELD,
                );
                $table = $table->with(columns: $columns);
            }
            $tables[] = $table;
        }

        return $catalog->with(tables: $tables, notes: $notes);
    }
}
