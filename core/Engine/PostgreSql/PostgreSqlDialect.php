<?php

declare(strict_types=1);

namespace Fasti\Core\Engine\PostgreSql;

use Fasti\Core\Catalog\Quotes;
use Fasti\Core\Catalog\Type;
use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Dialect\AlterSql;
use Fasti\Core\Dialect\AskSql;
use Fasti\Core\Dialect\Capabilities;
use Fasti\Core\Dialect\Dialect;
use Fasti\Core\Dialect\Grammar;
use Fasti\Core\Dialect\NativeTypes;
use Fasti\Core\Dialect\ProfileSql;
use Fasti\Core\Dialect\ScriptOptions;
use Fasti\Core\Dialect\ScriptSql;
use Fasti\Core\Dialect\TypeText;
use Fasti\Core\Survey\Reader;
use Fasti\Core\Survey\Rows;
use Fasti\Core\Wording\TypeWords;

class PostgreSqlDialect extends Dialect
{
    /** Type → what its users say of it. */
    private const UNUSUAL = [
        'money' => 'its currency and places are those of the server’s settings, not of the value',
        'time with time zone' => 'an offset without a date says nothing where clocks change',
        'bit' => 'programs get it as a text of noughts and ones',
        'bit varying' => 'programs get it as a text of noughts and ones',
        '"char"' => 'it is the engine’s own, of one byte',
        'name' => 'it is the engine’s own, of 63 bytes at most',
        'oid' => 'it is the engine’s own number of a large object or of a table',
        'xid' => 'it is the engine’s own number of a transaction',
        'tid' => 'it is the engine’s own place of a row, which changes',
        'tsquery' => 'it holds a question to a text search',
        'pg_lsn' => 'it is a place in the engine’s own log',
        'box' => 'few programs read it',
        'line' => 'few programs read it',
        'lseg' => 'few programs read it',
        'path' => 'few programs read it',
        'polygon' => 'few programs read it',
        'circle' => 'few programs read it',
    ];

    private const BITS = ['smallint' => 16, 'integer' => 32, 'int' => 32, 'bigint' => 64];
    private const TIMES = [
        'timestamp with time zone' => 'instant',
        'timestamp without time zone' => 'date and time',
        'time with time zone' => 'time of day',
        'time without time zone' => 'time of day',
    ];
    private const ROWS_OF = [
        'regproc' => 'pg_proc', 'regprocedure' => 'pg_proc', 'regclass' => 'pg_class', 'regtype' => 'pg_type', 'regoper' => 'pg_operator',
        'regoperator' => 'pg_operator', 'regrole' => 'pg_authid', 'regnamespace' => 'pg_namespace', 'regconfig' => 'pg_ts_config',
        'regdictionary' => 'pg_ts_dict', 'regcollation' => 'pg_collation',
    ];
    private const PLAIN = [
        'text' => [TypeFamily::Text, 'long text'], 'citext' => [
            TypeFamily::Text,
            'long text, capitals and small letters alike',
        ], 'name' => [TypeFamily::Text, 'text'],
        'double precision' => [TypeFamily::Number, 'number, approximate (15 digits)'], 'real' => [TypeFamily::Number, 'number, approximate (7 digits)'],
        'money' => [TypeFamily::Number, 'sum of money'], 'date' => [TypeFamily::Time, 'date'], 'interval' => [TypeFamily::Other, 'length of time'],
        'boolean' => [TypeFamily::Flag, 'yes or no'], 'bytea' => [TypeFamily::Bytes, 'bytes'], 'uuid' => [TypeFamily::Other, 'UUID'],
        'json' => [TypeFamily::Document, 'JSON document'], 'jsonb' => [TypeFamily::Document, 'JSON document'], 'xml' => [TypeFamily::Document, 'XML document'],
        'inet' => [TypeFamily::Other, 'IP address'], 'cidr' => [TypeFamily::Other, 'network address'], 'macaddr' => [TypeFamily::Other, 'network card address'],
        'tsvector' => [TypeFamily::Document, 'words for searching'], 'int4range' => [TypeFamily::Other, 'range of whole numbers'],
        'int8range' => [TypeFamily::Other, 'range of whole numbers'],
        'numrange' => [TypeFamily::Other, 'range of numbers'], 'daterange' => [TypeFamily::Other, 'range of dates'],
        'tsrange' => [TypeFamily::Other, 'range of dates and times'], 'tstzrange' => [TypeFamily::Other, 'range of instants'],
        'point' => [TypeFamily::Spatial, 'point on a map'], 'path' => [TypeFamily::Spatial, 'line on a map'], 'line' => [TypeFamily::Spatial, 'line on a map'],
        'lseg' => [TypeFamily::Spatial, 'line on a map'], 'circle' => [TypeFamily::Spatial, 'circle on a map'], 'box' => [TypeFamily::Spatial, 'box on a map'],
        'polygon' => [TypeFamily::Spatial, 'area on a map'], 'geometry' => [TypeFamily::Spatial, 'shape on a map'],
        'geography' => [TypeFamily::Spatial, 'shape on a map'],
    ];

    public function name(): string
    {
        return 'postgresql';
    }

    public function label(): string
    {
        return 'PostgreSQL';
    }

    public function rank(): int
    {
        return 30;
    }

    public function telltales(): array
    {
        return PostgreSqlTelltales::own();
    }

    public function heads(): array
    {
        return ['PGDMP' => 'a dump in PostgreSQL\'s own format; write it with the plain format'];
    }

    public function isUsual(): bool
    {
        return true;
    }

    public function aliases(): array
    {
        return ['postgres'];
    }

    public function schemes(): array
    {
        return ['postgresql' => 5432, 'postgres' => 5432];
    }

    /**
     * With a backslash in it a text is written as E'…', which reads the same whatever `standard_conforming_strings` says. No text of the
     * engine holds NUL, at which a statement would end, so that the sign for it stands there, which equals no value either.
     */
    public function literal(string $text): string
    {
        $text = str_replace("\0", "\u{2400}", $text);

        return str_contains($text, '\\') ? 'E'.Quotes::around(str_replace('\\', '\\\\', $text), "'") : Quotes::around($text, "'");
    }

    public function reader(Rows $rows, string $database): Reader
    {
        return new PostgreSqlReader($rows);
    }

    public function asking(): AskSql
    {
        return new PostgreSqlAskSql($this);
    }

    public function profiling(): ProfileSql
    {
        return new PostgreSqlProfileSql($this);
    }

    public function grammar(): Grammar
    {
        return new PostgreSqlGrammar();
    }

    public function types(): NativeTypes
    {
        return new PostgreSqlTypes($this);
    }

    public function longestName(): int
    {
        return 63;
    }

    public function writing(ScriptOptions $options = new ScriptOptions()): ScriptSql
    {
        return new PostgreSqlScriptSql($this, $options);
    }

    protected function type(string $written): Type
    {
        $text = TypeText::of($written);
        $name = $text->name;
        $first = $text->first();
        $second = $text->second();
        $array = $text->array;

        return match (true) {
            isset(self::BITS[$name]) => new Type(TypeFamily::Whole, $written, $name, bits: self::BITS[$name], array: $array),
            'numeric' === $name => new Type(TypeFamily::Number, $written, $name, $first, $second, array: $array),
            'character varying' === $name => new Type(TypeFamily::Text, $written, $name, $first, array: $array),
            'character' === $name => new Type(TypeFamily::Text, $written, $name, $first ?? 1, array: $array),
            isset(self::TIMES[$name]) => new Type(TypeFamily::Time, $written, $name, scale: $first ?? 0, array: $array),
            'bit' === $name || 'bit varying' === $name => new Type(TypeFamily::Flag, $written, $name, $first, array: $array),
            'enum' === $name => new Type(TypeFamily::Text, $written, $name, members: $text->members(), array: $array),
            isset(self::PLAIN[$name]) => new Type(self::PLAIN[$name][0], $written, $name, array: $array),
            1 === preg_match('/^(?:\w+\.)?citext$/', $name) => new Type(TypeFamily::Text, $written, 'citext', array: $array),
            'oidvector' === $name => new Type(TypeFamily::Other, $written, 'oid', array: true),
            'int2vector' === $name => new Type(TypeFamily::Whole, $written, 'smallint', bits: 16, array: true),
            isset(self::ROWS_OF[$name]) => new Type(TypeFamily::Other, $written, 'oid', array: $array),
            default => new Type(TypeFamily::Other, $written, $name, array: $array),
        };
    }

    /** Types that are numbers of rows of one catalog: https://www.postgresql.org/docs/15/datatype-oid.html */
    public function refersTo(Type $type): string
    {
        return self::ROWS_OF[preg_replace('/\[\]$/', '', $type->written) ?? ''] ?? '';
    }

    public function unusual(Type $type): string
    {
        $extension = \in_array($type->family, [TypeFamily::Other], true) && str_contains($type->written, '.');

        return self::UNUSUAL[$type->name] ?? ($extension ? 'it is not one of the engine itself' : '');
    }

    protected function inWords(Type $type): string
    {
        return ($type->array ? 'list of ' : '').match (true) {
            null !== $type->bits => TypeWords::whole($type->bits, false),
            'numeric' === $type->name => null === $type->length ? 'number, of any size' : TypeWords::number($type->length, $type->scale ?? 0, false),
            'character varying' === $type->name => TypeWords::text($type->length),
            'character' === $type->name => TypeWords::fixedText($type->length ?? 1),
            isset(self::TIMES[$type->name]) => self::TIMES[$type->name].TypeWords::fraction($type->scale ?? 0),
            'bit' === $type->name => null === $type->length || 1 === $type->length ? 'one bit (0 or 1)' : $type->length.' bits',
            'bit varying' === $type->name => null === $type->length ? 'bits' : 'up to '.$type->length.' bits',
            'enum' === $type->name => TypeWords::members($type->members, false),
            isset(self::PLAIN[$type->name]) => self::PLAIN[$type->name][1],
            'citext' === $type->name => 'text of any length, capital and small letters alike',
            default => $type->array ? preg_replace('/(?:\[\]|vector)$/', '', $type->written) ?? $type->written : $type->written,
        };
    }

    public function capabilities(): Capabilities
    {
        return new Capabilities(home: 'public', yes: 'true', no: 'false');
    }

    public function altering(ScriptOptions $options = new ScriptOptions()): AlterSql
    {
        return new PostgreSqlAlterSql($this, $this->writing($options));
    }
}
