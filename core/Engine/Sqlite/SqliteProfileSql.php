<?php

declare(strict_types=1);

namespace Fasti\Core\Engine\Sqlite;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Dialect\ProfileSql;

final readonly class SqliteProfileSql extends ProfileSql
{
    public function from(Table $table): string
    {
        return $this->quoted($table->name);
    }

    public function sampled(Table $table, float $part, int $rows): string
    {
        return \sprintf('%s WHERE (random() & 1048575) < %d', $this->from($table), (int) ceil(1048576 * $part));
    }

    public function comparable(Column $column): bool
    {
        return TypeFamily::Bytes !== $this->dialect->typeOf($column)->family && TypeFamily::Document !== $this->dialect->typeOf($column)->family;
    }

    public function bounded(Column $column, string $name, int $most): string
    {
        return $name;
    }

    public function ordered(Column $column, string $plain): string
    {
        return $plain;
    }

    public function takesAlike(Column $column): bool
    {
        return null !== $column->collation && 'BINARY' !== strtoupper($column->collation);
    }

    public function same(Column $column, string $a, string $b): string
    {
        return "$a = $b".($this->takesAlike($column) ? ' COLLATE '.$this->quoted((string) $column->collation) : '');
    }

    public function asText(Column $column, string $name, int $most): string
    {
        $text = TypeFamily::Bytes !== $this->dialect->typeOf($column)->family;

        return $text ? "SUBSTR(CAST($name AS TEXT), 1, $most)" : "CASE WHEN $name IS NULL THEN NULL ELSE '·' END";
    }

    public function key(Column $column, string $name): string
    {
        return TypeFamily::Bytes === $this->dialect->typeOf($column)->family ? "HEX($name)" : "CAST($name AS TEXT)";
    }

    public function length(string $name): string
    {
        return "LENGTH($name)";
    }

    public function blank(string $name): string
    {
        return "TRIM($name) = ''";
    }

    public function exact(Column $column, string $name): string
    {
        // A cast keeps the collation of the column.
        return "CAST($name AS TEXT) COLLATE BINARY";
    }

    public function apart(Column $column, string $name): string
    {
        // A number and the text of its digits are two values.
        return "$name COLLATE BINARY";
    }

    /** SQLite has no regular expressions of its own; whoever opens the file gives it `regexp`. */
    public function matches(string $text, string $expression): string
    {
        return "($text REGEXP ".$this->literal($expression).')';
    }
}
