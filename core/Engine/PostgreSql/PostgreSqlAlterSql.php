<?php

declare(strict_types=1);

namespace Fasti\Core\Engine\PostgreSql;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Place;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\Trigger;
use Fasti\Core\Catalog\Type;
use Fasti\Core\Dialect\AlterSql;
use Fasti\Core\Dialect\Cast;

/** https://www.postgresql.org/docs/15/sql-altertable.html. All of it happens or nothing does. */
final class PostgreSqlAlterSql extends AlterSql
{
    protected const PLAINEST = [
        'inet' => "'0.0.0.0'", 'interval' => "'0'", 'point' => "'(0,0)'", 'path' => "'((0,0),(0,0))'", 'polygon' => "'((0,0),(0,0))'", 'xml' => "'<nothing/>'",
    ];

    public function frame(): array
    {
        return ['BEGIN', 'COMMIT'];
    }

    public function changeColumn(Table $table, Column $was, Column $is, Cast $cast): array
    {
        $all = [];
        $typed = $was->type !== $is->type || $was->collation !== $is->collation;
        if (!$was->nullable && $is->nullable) {
            $all[] = $this->column($table, $is, 'DROP NOT NULL');
        }
        if (null !== $was->default && ($typed || $was->default !== $is->default)) {
            $all[] = $this->column($table, $is, 'DROP DEFAULT');
        }
        if ($was->autoNumbered && !$is->autoNumbered && null === $was->default) {
            $all[] = $this->column($table, $is, 'DROP IDENTITY');
        }
        if ($typed) {
            $collation = null === $is->collation ? '' : ' COLLATE '.$this->writing->name($is->collation);
            $all[] = $this->column($table, $is, 'TYPE '.$this->writing->type($is).$collation.' USING '.$cast->sql);
        }
        if (null !== $is->default && ($typed || $was->default !== $is->default)) {
            $all[] = $this->column($table, $is, 'SET DEFAULT '.$is->default);
        }

        return $all;
    }

    public function required(Table $table, Column $is): array
    {
        return [...parent::required($table, $is), ...($is->autoNumbered && null === $is->default ? [] : [])];
    }

    public function stops(Place $table, string $where, string $words): array
    {
        $exists = 'EXISTS (SELECT 1 FROM '.$this->writing->placed($table)." WHERE $where)";

        $body = " BEGIN IF $exists THEN RAISE EXCEPTION USING MESSAGE = ".$this->writing->literal($words).'; END IF; END ';
        // Nothing that somebody wrote ends it.
        for ($tag = '$fasti$', $n = 2; str_contains($body, $tag); ++$n) {
            $tag = "\$fasti$n\$";
        }

        return ["DO $tag$body$tag"];
    }

    public function numbers(Table $table, Column $column): array
    {
        $place = $this->writing->placed($table->place());
        $name = $this->writing->name($column->name);
        $of = \sprintf('pg_get_serial_sequence(%s, %s)', $this->writing->literal($place), $this->writing->literal($column->name));

        return [...parent::numbers($table, $column), "SELECT setval($of, COALESCE((SELECT MAX($name) FROM $place), 0) + 1, false)"];
    }

    /** There is no least UUID, but a first one. */
    public function someOf(string $column, string $table): string
    {
        return "(SELECT $column FROM $table ORDER BY 1 LIMIT 1)";
    }

    public function dropTrigger(Table $table, Trigger $trigger): string
    {
        return parent::dropTrigger($table, $trigger).' ON '.$this->writing->placed($table->place());
    }

    public function meanings(Table $was, Table $is): array
    {
        $said = fn (string $text): string => '' === $text ? 'NULL' : $this->writing->literal($text);
        $place = $this->writing->placed($is->place());
        $all = $was->comment === $is->comment ? [] : ["COMMENT ON TABLE $place IS ".$said($is->comment)];
        foreach ($is->columns as $column) {
            if (($was->column($column->name)->comment ?? '') !== $column->comment) {
                $all[] = "COMMENT ON COLUMN $place.".$this->writing->name($column->name).' IS '.$said($column->comment);
            }
        }

        return $all;
    }

    protected function looksLike(string $sql, string $pattern): string
    {
        return "$sql ~ ".$this->writing->literal($pattern);
    }

    protected function text(string $sql, Type $from): string
    {
        return "CAST($sql AS text)";
    }

    protected function length(string $sql): string
    {
        return "char_length($sql)";
    }
}
