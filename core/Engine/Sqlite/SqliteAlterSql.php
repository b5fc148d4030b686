<?php

declare(strict_types=1);

namespace Fasti\Core\Engine\Sqlite;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Type;
use Fasti\Core\Dialect\AlterSql;

/** https://www.sqlite.org/lang_altertable.html, section 7: a table is made anew, its rows are copied, and it takes the place of the old one. */
final class SqliteAlterSql extends AlterSql
{
    public function rebuilds(): bool
    {
        return true;
    }

    public function frame(): array
    {
        return ["PRAGMA foreign_keys = OFF;\nPRAGMA legacy_alter_table = ON;\nBEGIN", "COMMIT;\nPRAGMA legacy_alter_table = OFF;\nPRAGMA foreign_keys = ON"];
    }

    protected function nothing(Column $is): string
    {
        return 'NULL';
    }

    /** Without regular expressions: a text reads as a number, or as a day, where it comes back the same. */
    protected function looksLike(string $sql, string $pattern): string
    {
        if (self::DATE === $pattern) {
            return "($sql GLOB '[0-9][0-9][0-9][0-9]-[0-9][0-9]-[0-9][0-9]*' AND date(substr($sql, 1, 10)) = substr($sql, 1, 10))";
        }

        return "CAST(CAST($sql AS NUMERIC) AS TEXT) = $sql";
    }

    protected function as(string $sql, Column $is): string
    {
        return "CAST($sql AS $is->type)" === "CAST($sql AS TEXT)" ? "CAST($sql AS TEXT)" : $sql;
    }

    protected function text(string $sql, Type $from): string
    {
        return "CAST($sql AS TEXT)";
    }

    protected function length(string $sql): string
    {
        return "length($sql)";
    }

    protected function number(string $sql): string
    {
        return "CAST($sql AS NUMERIC)";
    }

    protected function first(string $sql, int $length): string
    {
        return "substr($sql, 1, $length)";
    }

    protected function ofFlag(string $sql): string
    {
        return $sql;
    }
}
