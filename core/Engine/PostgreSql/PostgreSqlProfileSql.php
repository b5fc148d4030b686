<?php

declare(strict_types=1);

namespace Fasti\Core\Engine\PostgreSql;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Dialect\ProfileSql;

final readonly class PostgreSqlProfileSql extends ProfileSql
{
    /** Types that are neither texts nor numbers nor dates, of which the engine can say the least and the greatest. */
    private const ORDERED = ['inet', 'cidr', 'interval', 'oid', 'tid', 'pg_lsn', 'xid8'];

    /** Above so many rows whole blocks are taken by chance instead of single rows. */
    private const BLOCKS_FROM = 20000000;

    public function from(Table $table): string
    {
        return $this->dialect->placed($table->place());
    }

    public function sampled(Table $table, float $part, int $rows): string
    {
        if ($table->kind->isView() || 'foreign' === $table->storage) {
            return \sprintf('%s WHERE random() < %.8F', $this->from($table), $part);
        }

        return \sprintf('%s TABLESAMPLE %s (%.6F) REPEATABLE (1)', $this->from($table), $rows > self::BLOCKS_FROM ? 'SYSTEM' : 'BERNOULLI', 100 * $part);
    }

    public function comparable(Column $column): bool
    {
        // Of types that people or extensions made, nothing is known but that they may be empty.
        if (null === $column->base && str_contains($column->type, '.') && !$this->isCitext($column)) {
            return false;
        }
        $type = $this->dialect->typeOf($column);

        return 'jsonb' === $type->name && !$type->array || !$type->array && !\in_array(
            $type->family,
            [TypeFamily::Document, TypeFamily::Spatial, TypeFamily::Bytes],
            true,
        );
    }

    /** A text of an extension that takes capital and small letters for the same. */
    private function isCitext(Column $column): bool
    {
        return 'citext' === $this->dialect->typeOf($column)->name;
    }

    public function takesAlike(Column $column): bool
    {
        return TypeFamily::Text === $this->dialect->typeOf($column)->family && ($this->isCitext($column)
            || null !== $column->collation && !\in_array($column->collation, ['C', 'POSIX', 'default'], true));
    }

    public function same(Column $column, string $a, string $b): string
    {
        return "$a = $b";
    }

    public function bounded(Column $column, string $name, int $most): string
    {
        return \in_array($this->dialect->typeOf($column)->name, ['text', 'jsonb'], true) ? "LEFT($name::text, $most)" : $name;
    }

    /** There is no least or greatest of some types whose texts are in order. */
    public function ordered(Column $column, string $plain): string
    {
        $type = $this->dialect->typeOf($column);
        $unordered = !$type->array && (TypeFamily::Flag === $type->family
            || TypeFamily::Other === $type->family && !\in_array($type->name, self::ORDERED, true));

        return $unordered ? "($plain)::text" : $plain;
    }

    public function asText(Column $column, string $name, int $most): string
    {
        $readable = $this->comparable($column)
            || TypeFamily::Document === $this->dialect->typeOf($column)->family && 'tsvector' !== $this->dialect->typeOf($column)->name;

        return $readable ? "LEFT($name::text, $most)" : "CASE WHEN $name IS NULL THEN NULL ELSE '·' END";
    }

    public function key(Column $column, string $name): string
    {
        $type = $this->dialect->typeOf($column);

        return match (true) {
            $type->array && 'oid' === $type->name => "unnest($name::oid[])::text",
            $type->array && 'int2vector' === $type->written => "unnest($name::int2[])::text",
            $type->array => "unnest($name)::text",
            '' !== $this->dialect->refersTo($type) => "$name::oid::text",
            default => "$name::text",
        };
    }

    public function length(string $name): string
    {
        return "CHAR_LENGTH($name::text)";
    }

    public function blank(string $name): string
    {
        return "BTRIM($name::text) = ''";
    }

    public function exact(Column $column, string $name): string
    {
        // Of char(n), the blanks that fill it up are no part of the value.
        return "($name::text COLLATE \"C\")";
    }

    public function apart(Column $column, string $name): string
    {
        return $this->exact($column, $name);
    }

    public function matches(string $text, string $expression): string
    {
        return "($text ~ ".$this->literal('^(?:'.$expression.')$').')';
    }
}
