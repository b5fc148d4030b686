<?php

declare(strict_types=1);

namespace Fasti\Core\Engine\MariaDb;

use Fasti\Core\Catalog\CheckConstraint;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\ForeignKey;
use Fasti\Core\Catalog\Index;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\Type;
use Fasti\Core\Dialect\AlterSql;
use Fasti\Core\Dialect\Cast;

/** https://mariadb.com/kb/en/alter-table/. A statement that fails leaves those before it done. */
class MariaDbAlterSql extends AlterSql
{
    /** The key of a column that numbers itself before its table is keyed by it. */
    private const BESIDE = 'fasti_new_number';

    protected const PLAINEST = [
        'inet6' => "'::'", 'point' => "ST_GeomFromText('POINT(0 0)')", 'linestring' => "ST_GeomFromText('LINESTRING(0 0, 0 0)')",
        'polygon' => "ST_GeomFromText('POLYGON((0 0, 0 0, 0 0, 0 0))')", 'geometry' => "ST_GeomFromText('POINT(0 0)')",
    ];

    public function renameTable(Table $was, string $name): string
    {
        return 'RENAME TABLE '.$this->writing->placed($was->place()).' TO '.$this->writing->placed($was->with(name: $name)->place());
    }

    public function addColumn(Table $table, Column $column, ?string $after): string
    {
        $place = match ($after) {
            null => '',
            '' => ' FIRST',
            default => ' AFTER '.$this->writing->name($after),
        };

        // What numbers itself has to be a key from the beginning.
        $key = $column->autoNumbered ? ', ADD UNIQUE KEY '.self::BESIDE.' ('.$this->writing->name($column->name).')' : '';

        return $this->alter($table, 'ADD COLUMN '.$this->writing->column($column, $table->with(primaryKey: null)).$place.$key);
    }

    /** A column is said anew as a whole; what would not fit is made to fit before. */
    public function changeColumn(Table $table, Column $was, Column $is, Cast $cast): array
    {
        return [$this->alter($table, 'MODIFY COLUMN '.$this->writing->column($is, $table->with(primaryKey: null)))];
    }

    public function required(Table $table, Column $is): array
    {
        return [$this->alter($table, 'MODIFY COLUMN '.$this->writing->column($is, $table->with(primaryKey: null)))];
    }

    /** A column is said anew as a whole, with that. */
    public function numbers(Table $table, Column $column): array
    {
        return [];
    }

    public function dropPrimary(Table $table, Key $key): array
    {
        $numbers = [];
        foreach ($key->columns as $name) {
            $column = $table->column($name);
            if (null !== $column && $column->autoNumbered) {
                $numbers[] = 'MODIFY COLUMN '.$this->writing->column($column->with(autoNumbered: false), $table->with(primaryKey: null)).', ';
            }
        }

        return [$this->alter($table, implode('', $numbers).'DROP PRIMARY KEY')];
    }

    public function addPrimary(Table $table, Key $key): array
    {
        $numbers = '';
        foreach ($key->columns as $name) {
            $column = $table->column($name);
            if (null !== $column && $column->autoNumbered) {
                $numbers .= ', MODIFY COLUMN '.$this->writing->column($column, $table->with(primaryKey: null));
            }
        }

        return [
            $this->alter($table, 'ADD '.$this->writing->primary($key, $table).$numbers),
            ...('' === $numbers ? [] : [$this->alter($table, 'DROP INDEX IF EXISTS '.self::BESIDE)]),
        ];
    }

    public function dropUnique(Table $table, Key $key): string
    {
        return $this->alter($table, 'DROP INDEX '.$this->writing->name((string) $key->name));
    }

    public function dropForeignKey(Table $table, ForeignKey $key): string
    {
        return $this->alter($table, 'DROP FOREIGN KEY '.$this->writing->name((string) $key->name));
    }

    public function dropCheck(Table $table, CheckConstraint $check): string
    {
        return $this->alter($table, 'DROP CONSTRAINT '.$this->writing->name($check->name));
    }

    public function dropIndex(Table $table, Index $index): string
    {
        return $this->alter($table, 'DROP INDEX '.$this->writing->name($index->name));
    }

    public function addIndex(Table $table, Index $index): string
    {
        foreach ($this->writing->keysWithin($table->with(indexes: [$index])) as $key) {
            return $this->alter($table, 'ADD '.$key);
        }

        return parent::addIndex($table, $index);
    }

    public function meanings(Table $was, Table $is): array
    {
        return $was->comment === $is->comment ? [] : [$this->alter($is, 'COMMENT='.$this->writing->literal($is->comment))];
    }

    public function stored(Table $was, Table $is): array
    {
        $all = [];
        if (null !== $is->storage && $was->storage !== $is->storage) {
            $all[] = $this->alter($is, 'ENGINE='.$is->storage);
        }
        if (null !== $is->collation && $was->collation !== $is->collation) {
            $all[] = $this->alter($is, 'COLLATE='.$is->collation);
        }

        return $all;
    }

    /** Without it the transaction that may be under way is committed. */
    protected function temporary(): string
    {
        return 'TEMPORARY ';
    }

    protected function nothing(Column $is): string
    {
        return 'NULL';
    }

    protected function as(string $sql, Column $is): string
    {
        return $sql;
    }

    protected function looksLike(string $sql, string $pattern): string
    {
        return "$sql REGEXP ".$this->writing->literal($pattern);
    }

    protected function text(string $sql, Type $from): string
    {
        return "CAST($sql AS char)";
    }

    protected function number(string $sql): string
    {
        return "CAST($sql AS decimal(60,10))";
    }

    protected function first(string $sql, int $length): string
    {
        return "LEFT($sql, $length)";
    }

    protected function ofFlag(string $sql): string
    {
        return $sql;
    }
}
