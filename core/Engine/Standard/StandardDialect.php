<?php

declare(strict_types=1);

namespace Fasti\Core\Engine\Standard;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Type;
use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Dialect\AskSql;
use Fasti\Core\Dialect\Dialect;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Dialect\Grammar;
use Fasti\Core\Dialect\TypeText;
use Fasti\Core\Wording\TypeWords;

/** SQL of the standard, and catalog sheets of engines that cannot be reached: the names of types of many engines together. */
final class StandardDialect extends Dialect
{
    private const FAMILIES = [
        'whole' => ['int', 'integer', 'smallint', 'bigint', 'tinyint', 'byteint', 'mediumint', 'int2', 'int4', 'int8', 'serial', 'bigserial'],
        'number' => [
            'decimal',
            'numeric',
            'dec',
            'number',
            'real',
            'float',
            'double',
            'double precision',
            'binary_float',
            'binary_double',
            'decfloat',
            'money',
            'smallmoney',
        ],
        'text' => [
            'char',
            'varchar',
            'character',
            'character varying',
            'nchar',
            'nvarchar',
            'varchar2',
            'nvarchar2',
            'text',
            'ntext',
            'clob',
            'nclob',
            'dbclob',
            'graphic',
            'vargraphic',
            'string',
            'long',
            'enum',
            'set',
            'national character varying',
            'char varying',
            'sysname',
        ],
        'time' => [
            'date',
            'time',
            'timestamp',
            'datetime',
            'datetime2',
            'smalldatetime',
            'datetimeoffset',
            'year',
            'timestamp with time zone',
            'timestamp without time zone',
            'timestamp with local time zone',
            'time with time zone',
            'time without time zone',
            'timestamp_ntz',
            'timestamp_ltz',
            'timestamp_tz',
        ],
        'flag' => ['bit', 'boolean', 'bool'],
        'bytes' => ['blob', 'binary', 'varbinary', 'bytea', 'raw', 'long raw', 'image', 'bfile', 'byte', 'varbyte', 'rowversion'],
        'document' => ['json', 'jsonb', 'xml', 'xmltype', 'variant', 'object'],
        'spatial' => ['geometry', 'geography', 'point', 'st_geometry', 'sdo_geometry'],
    ];

    /** @var array<string, TypeFamily> */
    private array $families = [];

    public function name(): string
    {
        return 'sql';
    }

    public function label(): string
    {
        return 'standard SQL';
    }

    public function rank(): int
    {
        return 50;
    }

    public function sheetsOf(): string
    {
        return 'any engine with the standard information_schema';
    }

    public function aliases(): array
    {
        return ['standard', 'sheets'];
    }

    public function grammar(): Grammar
    {
        $grammar = new Grammar();
        // Of engines that say of themselves no more than sheets do.
        $grammar->queries->systemSchemas = '/^(?:information_schema|sys|pg_catalog|performance_schema|mysql|dbc|syscat)$/i';

        return $grammar;
    }

    public function asking(): AskSql
    {
        return new AskSql($this);
    }

    protected function type(string $written): Type
    {
        $text = TypeText::of($written);
        foreach ([] === $this->families ? self::FAMILIES : [] as $family => $names) {
            $this->families += array_fill_keys($names, TypeFamily::from($family));
        }
        $family = $this->families[$text->name] ?? ('' === $written ? TypeFamily::Text : TypeFamily::Other);
        $members = \in_array($text->name, ['enum', 'set'], true) ? $text->members() : [];
        $known = Dialects::of('mariadb')->typeOf(new Column('', $written));

        return new Type(
            $family,
            $written,
            $text->name,
            $text->first(),
            $text->second(),
            $known->bits,
            $members,
            $text->array,
            $text->unsigned,
            'set' === $text->name,
        );
    }

    protected function inWords(Type $type): string
    {
        return match (true) {
            'varchar2' === $type->name || 'nvarchar2' === $type->name || 'nvarchar' === $type->name => TypeWords::text($type->length),
            'number' === $type->name && null !== $type->length => TypeWords::number($type->length, $type->scale ?? 0, false),
            default => Dialects::of('mariadb')->typeInWords(new Column('', $type->written)),
        };
    }
}
