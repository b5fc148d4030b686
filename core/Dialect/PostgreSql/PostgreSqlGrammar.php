<?php

declare(strict_types=1);

namespace Fasti\Core\Dialect\PostgreSql;

use Fasti\Core\Dialect\Grammar;

final class PostgreSqlGrammar extends Grammar
{
    private const TYPES = [
        'int' => 'integer', 'int4' => 'integer', 'int2' => 'smallint', 'int8' => 'bigint', 'serial' => 'integer', 'serial4' => 'integer',
        'bigserial' => 'bigint', 'serial8' => 'bigint',
        'smallserial' => 'smallint', 'serial2' => 'smallint', 'decimal' => 'numeric', 'dec' => 'numeric', 'bool' => 'boolean', 'varchar' => 'character varying',
        'char varying' => 'character varying', 'char' => 'character', 'float8' => 'double precision', 'float4' => 'real',
        'float' => 'double precision',
        'varbit' => 'bit varying', 'timestamp' => 'timestamp without time zone', 'timestamptz' => 'timestamp with time zone',
        'time' => 'time without time zone', 'timetz' => 'time with time zone',
    ];

    public string $engine = 'postgresql';
    public string $label = 'PostgreSQL';
    public string $signs = '/\bCOMMENT\s+ON\b|\bsearch_path\b|::\w|\bcharacter varying\b|\bALTER TABLE ONLY\b|\bOWNER TO\b|\$\w*\$|\b(?:big)?serial\b|\btimestamptz\b|\bPostgreSQL\b/i';
    public string $defaultSchema = 'public';
    public bool $escapeTexts = true;
    public bool $backticks = false;
    public bool $brackets = false;
    public bool $nestedComments = true;
    public bool $dollarTexts = true;
    public bool $foldsNames = true;
    public bool $copiedRows = true;
    public bool $arrays = true;
    public bool $keysAreIndexes = true;
    public bool $viewsKeepCollations = true;
    public bool $operatorClasses = true;
    public bool $triggersCall = true;
    public bool $storageBefore = true;
    public bool $delimitedTexts = false;
    public bool $hashedNames = false;
    public bool $ownOperators = true;
    public bool $anyCase = false;
    public bool $rowsAsValues = true;
    public array $binding = ['IS' => 40];
    public string $bareFunctions = '/^(?:CURRENT_DATE|CURRENT_TIME|CURRENT_TIMESTAMP|LOCALTIME|LOCALTIMESTAMP|CURRENT_USER|CURRENT_ROLE|CURRENT_CATALOG|CURRENT_SCHEMA|SESSION_USER|USER)$/';

    public function typing(): PostgreSqlTyping
    {
        return new PostgreSqlTyping();
    }

    public function type(string $base, string $options, string $after): string
    {
        $array = preg_match_all('/\[\s*\d*\s*\]|\barray\b/i', $after);
        $words = strtolower(trim((string) preg_replace('/\[\s*\d*\s*\]|\barray\b/i', '', $after)));
        $name = self::TYPES[strtolower($base)] ?? (str_contains($base, '.') || str_starts_with($base, '"') ? $base : strtolower($base));
        $options = (string) preg_replace('/\s+/', '', trim($options));
        if ('with time zone' === $words || 'without time zone' === $words) {
            $name = (string) preg_replace('/ with(out)? time zone$/', '', $name).' '.$words;
        } elseif ('' !== $words) {
            $name .= ' '.$words;
        }
        if ('numeric' === $name && '' !== $options && !str_contains($options, ',')) {
            $options .= ',0';
        } elseif (('character' === $name || 'bit' === $name) && '' === $options) {
            $options = '1';
        }
        if ('' !== $options) {
            // The precision of a time stands before its words about the zone.
            $name = 1 === preg_match('/^(timestamp|time) (with(?:out)? time zone)$/', $name, $m) ? "$m[1]($options) $m[2]" : "$name($options)";
        }

        return $name.str_repeat('[]', min(1, (int) $array));
    }

    public function serial(string $word, string $schema, string $table, string $column): array
    {
        return 1 !== preg_match('/^(?:big|small)?serial\d?$/i', $word) ? [] : [
            'nullable' => false, 'auto' => true, 'default' => \sprintf("nextval('%s.%s_%s_seq'::regclass)", $schema, $table, $column),
        ];
    }

    public function primaryKeyName(string $table, ?string $said): string
    {
        return $said ?? $table.'_pkey';
    }

    public function uniqueName(string $table, array $columns, array $taken): string
    {
        return $table.'_'.implode('_', $columns).'_key';
    }

    public function foreignKeyName(string $table, array $columns, int $number): string
    {
        return $table.'_'.implode('_', $columns).'_fkey';
    }

    public function columnCheck(string $table, string $column): array
    {
        return [$table.'_'.$column.'_check', null];
    }

    public function checkName(string $table, array $used): string
    {
        return $table.'_'.(1 === \count($used) ? $used[0].'_' : '').'check';
    }

    public function partitionedWords(string $key, int $partitions): string
    {
        return PostgreSqlReader::partitioned($key, $partitions);
    }

    public function securedWords(array $policies): string
    {
        return PostgreSqlReader::secured($policies);
    }
}
