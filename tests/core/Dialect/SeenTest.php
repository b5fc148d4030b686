<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Dialect;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Engine\Sqlite\PlainTable;
use Fasti\Tests\Core\Golden\Snapshot;
use PHPUnit\Framework\TestCase;

/** What every dialect makes of the types of all. */
final class SeenTest extends TestCase
{
    private const ENGINES = ['mariadb', 'mysql', 'postgresql', 'sqlite', 'oracle', 'sqlserver', 'sql', 'files'];
    private const NAMES = [
        'tinyint', 'smallint', 'mediumint', 'int', 'integer', 'bigint', 'int2', 'int4', 'int8', 'serial', 'bigserial', 'decimal', 'numeric', 'dec', 'fixed',
        'number', 'money', 'smallmoney', 'float', 'real', 'double', 'double precision', 'binary_float', 'binary_double', 'char', 'character', 'nchar',
        'varchar',
        'character varying', 'varchar2', 'nvarchar', 'nvarchar2', 'bpchar', 'citext', 'public.citext', 'name', 'text', 'tinytext', 'mediumtext', 'longtext',
        'ntext', 'clob', 'nclob', 'long', 'blob', 'tinyblob', 'mediumblob', 'longblob', 'bytea', 'raw', 'long raw', 'binary', 'varbinary', 'image', 'bit',
        'bit varying', 'varbit', 'bool', 'boolean', 'date', 'year', 'time', 'timetz', 'time with time zone', 'time without time zone', 'datetime', 'datetime2',
        'smalldatetime', 'datetimeoffset', 'timestamp', 'timestamptz', 'timestamp with time zone', 'timestamp without time zone',
        'timestamp with local time zone', 'interval', 'interval year to month', 'json', 'jsonb', 'xml', 'xmltype', 'hstore', 'uuid', 'uniqueidentifier', 'inet',
        'inet4', 'inet6', 'cidr', 'macaddr', 'point', 'line', 'polygon', 'geometry', 'geography', 'linestring', 'multipoint', 'sdo_geometry', 'tsvector',
        'int4range', 'oid', 'oidvector', 'int2vector', 'regclass', 'rowid', 'rowversion', 'hierarchyid', 'sql_variant', 'vector', 'floating point', 'my_own',
        'schema.my_own', '"My Own"', '',
    ];
    private const ODD = [
        "enum('a','b')", "enum('it''s')", "set('x','y','z')", 'int unsigned', 'int(10) unsigned zerofill', 'bigint(20) unsigned', 'tinyint(1)',
        'tinyint(1) unsigned', 'tinyint(4)', 'double unsigned', 'decimal(10,2) unsigned', 'integer[]', 'character varying(12)[]', 'timestamp(3) with time zone',
        'time(2) without time zone', 'varchar(max)', 'nvarchar(max)', 'varbinary(max)', 'varchar2(20 char)', 'number(5)', 'number(12,2)', 'number(*,0)',
        'timestamp(6) with local time zone', 'interval day(2) to second(6)', 'UNSIGNED BIG INT', 'NATIVE CHARACTER(70)', 'int | string', 'string (date)', 'any',
    ];

    public function testWhatEachTypeIsToEachEngine(): void
    {
        $lines = [];
        $types = self::ODD;
        foreach (self::NAMES as $name) {
            array_push($types, ...'' === $name ? [''] : [$name, strtoupper($name), "$name(7)", "$name(7,3)"]);
        }
        foreach (self::ENGINES as $engine) {
            $dialect = Dialects::of($engine);
            foreach ($types as $type) {
                $column = new Column('a', $type);
                $read = $dialect->typeOf($column);
                $lines[] = \sprintf(
                    '%s %s: %s %s %s, %s bits%s%s%s%s: %s',
                    $engine,
                    $type,
                    $read->family->value,
                    $read->name,
                    json_encode([$read->length, $read->scale]),
                    $read->bits ?? 'no',
                    $read->unsigned ? ', unsigned' : '',
                    $read->array ? ', a list' : '',
                    $read->several ? ', several' : '',
                    [] === $read->members ? '' : ' of '.implode('|', $read->members),
                    $dialect->typeInWords($column),
                );
            }
        }

        Snapshot::same('dialects.types', $lines);
    }

    public function testATableThatIsPlainIsReadWithoutItsGrammar(): void
    {
        $table = PlainTable::of(
            'CREATE TABLE "visit" (id INTEGER, Station_id int NOT NULL, "at" date, PRIMARY KEY (ID), '
            .'CONSTRAINT z FOREIGN KEY (at) REFERENCES day (d) ON DELETE CASCADE, CONSTRAINT a FOREIGN KEY (Station_id) REFERENCES station (id))',
            ['CREATE INDEX z_at ON visit (at)', 'CREATE UNIQUE INDEX "a_station" ON visit (station_id, at)'],
        ) ?? self::fail('It is plain.');

        self::assertSame(['visit', ['id']], [$table->name, $table->primaryKey?->columns]);
        self::assertSame([['id', false, true], ['Station_id', false, false], ['at', true, false]], array_map(
            static fn (Column $column): array => [$column->name, $column->nullable, $column->autoNumbered],
            $table->columns,
        ));
        self::assertSame([['a', 'NO ACTION'], ['z', 'CASCADE']], array_map(static fn ($key): array => [$key->name, $key->onDelete], $table->foreignKeys));
        self::assertSame(
            [['a_station', true, ['Station_id', 'at']], ['z_at', false, ['at']]],
            array_map(static fn ($index): array => [$index->name, $index->unique, array_map(static fn ($part): string => $part->column, $index->parts)],
                $table->indexes),
        );
        foreach ([
            'CREATE TABLE t (a int DEFAULT 1)', 'CREATE TABLE t (a int, FOREIGN KEY (a, b) REFERENCES u (c))', 'CREATE TABLE t (a int) STRICT',
            'CREATE TABLE t AS SELECT 1', 'CREATE TABLE t (a int CHECK (a > 0))', 'CREATE TEMP TABLE t (a int)',
        ] as $sql) {
            self::assertNull(PlainTable::of($sql, []), $sql);
        }
        self::assertNull(PlainTable::of('CREATE TABLE t (a int)', ['CREATE INDEX i ON t (lower(a))']));
        self::assertNull(PlainTable::of('CREATE TABLE t (a int)', ['']));
    }
}
