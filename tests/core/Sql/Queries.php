<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Sql;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\FieldPlace;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Sql\ReadField;
use Fasti\Core\Sql\Reading;
use Fasti\Core\Sql\Readings;
use Fasti\Core\Sql\Unknown;

/** A small catalog to put queries to, and the hard ones of tests/queries. */
final class Queries
{
    public static function catalog(string $engine = 'postgresql', Table ...$more): Catalog
    {
        return new Catalog($engine, '', [
            new Table('s', 'station', TableType::Table, '', [
                new Column('id', 'integer', false), new Column(
                    'name',
                    'character varying(20)',
                ), new Column('reach_id', 'integer', false), new Column('tags', 'text[]'),
            ], new Key(null, ['id'])),
            new Table('s', 'reach', TableType::Table, '', [new Column('id', 'integer', false), new Column('name', 'text', false)], new Key(null, ['id'])),
            new Table('s', 'reading', TableType::Table, '', [
                new Column(
                    'station_id',
                    'integer',
                    false,
                ), new Column('taken', 'date', false), new Column('value', 'numeric(6,2)'), new Column('flag', 'character(1)'),
            ], new Key(null, ['station_id', 'taken'])),
            ...array_values($more),
        ]);
    }

    public static function view(string $name, string $sql, Column ...$columns): Table
    {
        return new Table('s', $name, TableType::View, '', array_values($columns), definition: $sql);
    }

    public static function read(string $sql, string $engine = 'postgresql', Table ...$more): Reading
    {
        return (new Readings(self::catalog($engine, ...$more)))->query($sql, 's');
    }

    /**
     * @param list<FieldPlace> $fields
     *
     * @return list<string> `table.field`
     */
    public static function names(array $fields): array
    {
        return array_map(static fn (FieldPlace $field): string => $field->table.'.'.$field->column, $fields);
    }

    /** @return array<string, string> name of each field → type, with `?` where it may be empty and `~` where that does not follow */
    public static function types(Reading $reading): array
    {
        $types = [];
        foreach ($reading->fields as $field) {
            $types[$field->name] = ($field->type ?? 'none').(match (true) {
                null === $field->nullable => '~',
                (bool) $field->nullable => '?',
                default => '',
            });
        }

        return $types;
    }

    /** @return array<string, list<string>> name of each field → fields that it is computed from */
    public static function values(Reading $reading): array
    {
        return array_combine(
            array_map(static fn (ReadField $field): string => $field->name, $reading->fields),
            array_map(static fn (ReadField $field): array => self::names($field->values), $reading->fields),
        );
    }

    /** @return list<string> `line:column sentence` */
    public static function unknown(Reading $reading): array
    {
        return array_map(static fn (Unknown $unknown): string => $unknown->place($reading->text).' '.$unknown->what, $reading->unknown);
    }

    /** @return array<string, array{string, list<string>}> title → query and the fields that it names, as the file says */
    public static function hard(string $engine): array
    {
        $file = (string) file_get_contents(\dirname(__DIR__, 2)."/queries/$engine.sql");
        preg_match_all('/^--- (.*)\n((?:(?!--- |-->).*\n?)*)(?:-->(.*))?/m', $file, $found, \PREG_SET_ORDER);
        $queries = [];
        foreach ($found as $match) {
            [, $title, $sql] = $match;
            $fields = $match[3] ?? '';
            preg_match_all('/(?:old reading|\w+)\.(?:taken at|\S+)/', $fields, $names);
            $queries[$title] = [trim($sql), $names[0]];
        }

        return $queries;
    }
}
