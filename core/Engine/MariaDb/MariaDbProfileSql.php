<?php

declare(strict_types=1);

namespace Fasti\Core\Engine\MariaDb;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Dialect\ProfileSql;

/** How MariaDB and MySQL are asked about their data. */
final readonly class MariaDbProfileSql extends ProfileSql
{
    private const LONG = ['tinytext', 'text', 'mediumtext', 'longtext'];

    public function from(Table $table): string
    {
        return $this->dialect->placed($table->place());
    }

    public function sampled(Table $table, float $part, int $rows): string
    {
        return \sprintf('%s WHERE RAND(1) < %.8F', $this->from($table), $part);
    }

    public function comparable(Column $column): bool
    {
        $type = $this->dialect->typeOf($column);

        return TypeFamily::Document !== $type->family && TypeFamily::Spatial !== $type->family
            && !(TypeFamily::Bytes === $type->family && null === $type->length);
    }

    public function bounded(Column $column, string $name, int $most): string
    {
        return \in_array($this->dialect->typeOf($column)->name, self::LONG, true) ? "LEFT($name, $most)" : $name;
    }

    public function ordered(Column $column, string $plain): string
    {
        return 'bit' === $this->dialect->typeOf($column)->name ? "($plain + 0)" : $plain;
    }

    public function takesAlike(Column $column): bool
    {
        return TypeFamily::Text === $this->dialect->typeOf($column)->family && !str_ends_with((string) $column->collation, '_bin');
    }

    public function same(Column $column, string $a, string $b): string
    {
        return "$a = $b";
    }

    public function asText(Column $column, string $name, int $most): string
    {
        $type = $this->dialect->typeOf($column);

        return match (true) {
            TypeFamily::Document === $type->family => "LEFT($name, $most)",
            !$this->comparable($column) => "CASE WHEN $name IS NULL THEN NULL ELSE '·' END",
            'bit' === $type->name => "($name + 0)",
            TypeFamily::Bytes === $type->family => "HEX(LEFT($name, 40))",
            default => "LEFT($name, $most)",
        };
    }

    public function key(Column $column, string $name): string
    {
        return TypeFamily::Bytes === $this->dialect->typeOf($column)->family ? "HEX($name)" : "CAST($name AS CHAR)";
    }

    public function length(string $name): string
    {
        return "CHAR_LENGTH($name)";
    }

    public function blank(string $name): string
    {
        return "TRIM($name) = ''";
    }

    public function exact(Column $column, string $name): string
    {
        return "CAST($name AS CHAR) COLLATE utf8mb4_bin";
    }

    public function apart(Column $column, string $name): string
    {
        return $this->exact($column, $name);
    }

    public function matches(string $text, string $expression): string
    {
        return "($text REGEXP ".$this->literal('^(?:'.$expression.')\\z').')';
    }
}
