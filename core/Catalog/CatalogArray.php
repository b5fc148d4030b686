<?php

declare(strict_types=1);

namespace Fasti\Core\Catalog;

/**
 * The open form of a catalog: arrays that encode to the JSON of docs/catalog.schema.json.
 *
 * Row estimates, sizes and what documents were seen to hold are figures of the moment rather than structure, so they are left out of `fingerprint()`.
 */
final class CatalogArray
{
    /** @return array<string, mixed> */
    public static function of(Catalog $catalog): array
    {
        return [
            'tables' => array_map(self::table(...), $catalog->tables),
            'routines' => array_map(static fn (Routine $routine): array => get_object_vars($routine), $catalog->routines),
            'engine' => $catalog->engine,
            'server' => $catalog->server,
            'notes' => $catalog->notes,
        ];
    }

    /** @return array{columns: list<array<string, mixed>>, ...<string, mixed>} */
    public static function table(Table $table): array
    {
        return [
            'schema' => $table->schema,
            'name' => $table->name,
            'kind' => $table->kind->value,
            'comment' => $table->comment,
            'columns' => array_map(self::column(...), $table->columns),
            'primaryKey' => null === $table->primaryKey ? null : get_object_vars($table->primaryKey),
            'uniqueKeys' => array_map(static fn (Key $key): array => get_object_vars($key), $table->uniqueKeys),
            'foreignKeys' => array_map(self::foreignKey(...), $table->foreignKeys),
            'indexes' => array_map(self::index(...), $table->indexes),
            'checks' => array_map(static fn (CheckConstraint $check): array => get_object_vars($check), $table->checks),
            'triggers' => array_map(static fn (Trigger $trigger): array => get_object_vars($trigger), $table->triggers),
            'rowEstimate' => $table->rowEstimate,
            'sizeBytes' => $table->sizeBytes,
            'definition' => $table->definition,
            'storage' => $table->storage,
            'collation' => $table->collation,
        ] + array_filter(['traits' => $table->traits, 'shapes' => array_map(static fn (DocumentShape $shape): array => get_object_vars($shape), $table->shapes)]);
    }

    /** @return array<string, mixed> */
    public static function column(Column $column): array
    {
        return [
            'name' => $column->name,
            'type' => $column->type,
            'nullable' => $column->nullable,
            'default' => $column->default,
            'comment' => $column->comment,
            'autoNumbered' => $column->autoNumbered,
            'generated' => null === $column->generated ? null : get_object_vars($column->generated),
            'onUpdate' => $column->onUpdate,
            'charset' => $column->charset,
            'collation' => $column->collation,
        ] + array_filter(['base' => $column->base, 'seen' => null === $column->seen ? null : get_object_vars($column->seen)]);
    }

    /** A short hash of all structure of a table: equal when, and only when, nothing about it has changed. */
    public static function fingerprint(Table $table): string
    {
        $structure = self::table($table);
        unset($structure['rowEstimate'], $structure['sizeBytes'], $structure['shapes']);
        foreach ($structure['columns'] as &$column) {
            unset($column['seen']);
        }

        return hash('xxh128', json_encode($structure, \JSON_THROW_ON_ERROR | \JSON_INVALID_UTF8_SUBSTITUTE | \JSON_UNESCAPED_UNICODE));
    }

    /** @return array<string, mixed> */
    private static function foreignKey(ForeignKey $key): array
    {
        return ['name' => $key->name, 'columns' => $key->columns, 'references' => get_object_vars($key->references), 'onDelete' => $key->onDelete, 'onUpdate' => $key->onUpdate] + array_filter(['reason' => $key->reason]);
    }

    /** @return array<string, mixed> */
    private static function index(Index $index): array
    {
        return ['name' => $index->name, 'parts' => array_map(static fn (IndexPart $part): array => get_object_vars($part), $index->parts), 'unique' => $index->unique, 'method' => $index->method, 'comment' => $index->comment] + array_filter(['where' => $index->where]);
    }
}
