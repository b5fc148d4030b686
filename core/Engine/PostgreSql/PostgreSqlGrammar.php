<?php

declare(strict_types=1);

namespace Fasti\Core\Engine\PostgreSql;

use Fasti\Core\Catalog\Quotes;
use Fasti\Core\Dialect\Grammar;
use Fasti\Core\Dialect\Surroundings;

final class PostgreSqlGrammar extends Grammar
{
    private const TYPES = [
        'int' => 'integer', 'int4' => 'integer', 'int2' => 'smallint', 'int8' => 'bigint', 'serial' => 'integer', 'serial4' => 'integer',
        'bigserial' => 'bigint', 'serial8' => 'bigint',
        'smallserial' => 'smallint', 'serial2' => 'smallint', 'decimal' => 'numeric', 'dec' => 'numeric', 'bool' => 'boolean', 'varchar' => 'character varying',
        'char varying' => 'character varying', 'char' => 'character', 'float8' => 'double precision', 'float4' => 'real',
        'float' => 'double precision',
        'varbit' => 'bit varying', 'national character' => 'character', 'national char' => 'character', 'nchar' => 'character',
        'nchar varying' => 'character varying',
        'national character varying' => 'character varying', 'national char varying' => 'character varying', 'national varchar' => 'character varying',
        'nvarchar' => 'character varying', 'timestamp' => 'timestamp without time zone', 'timestamptz' => 'timestamp with time zone',
        'time' => 'time without time zone', 'timetz' => 'time with time zone',
    ];

    public string $engine = 'postgresql';
    public string $label = 'PostgreSQL';
    public string $defaultSchema = 'public';

    public function __construct()
    {
        parent::__construct();
        $this->signs->escapeTexts = true;
        $this->signs->backticks = false;
        $this->signs->brackets = false;
        $this->signs->nestedComments = true;
        $this->signs->dollarTexts = true;
        $this->signs->foldsNames = true;
        $this->signs->copiedRows = true;
        $this->structure->arrays = true;
        $this->signs->batches = false;
        $this->structure->looseOptions = false;
        $this->structure->looseInlineIndexes = false;
        $this->signs->longestName = 63;
        $this->catalog->indexNames = 'all';
        $this->catalog->namesChecksAtOnce = true;
        $this->catalog->sequencesNumber = true;
        $this->structure->selectsInto = true;
        $this->catalog->keysAreIndexes = true;
        $this->catalog->viewsKeepCollations = true;
        $this->structure->operatorClasses = true;
        $this->structure->triggersCall = true;
        $this->structure->storageBefore = true;
        $this->queries->systemSchemas = '/^(?:information_schema|pg_catalog)$/i';
        $this->queries->delimitedTexts = false;
        $this->queries->hashedNames = false;
        $this->queries->ownOperators = true;
        $this->queries->anyCase = false;
        $this->queries->rowsAsValues = true;
        $this->queries->binding = ['IS' => 40];
        $this->queries->bareFunctions = '/^(?:CURRENT_DATE|CURRENT_TIME|CURRENT_TIMESTAMP|LOCALTIME|LOCALTIMESTAMP|CURRENT_USER|CURRENT_ROLE'
            .'|CURRENT_CATALOG|CURRENT_SCHEMA|SESSION_USER|USER)$/';
    }

    public function typing(): PostgreSqlTyping
    {
        return new PostgreSqlTyping();
    }

    public function type(string $base, string $options, string $after): string
    {
        $array = preg_match_all('/\[\s*\d*\s*\]|\barray\b/i', $after);
        $words = strtolower(trim((string) preg_replace('/\[\s*\d*\s*\]|\barray\b/i', '', $after)));
        $lower = strtolower((string) preg_replace('/\s+/', ' ', $base));
        // The types of the engine may be named with its schema, and in quotation marks.
        $own = match (true) {
            1 === preg_match('/^"?pg_catalog"?\s*\.\s*"?(\w+)"?$/', $lower, $m) => $m[1],
            1 === preg_match('/^"([a-z]\w*)"$/', $base, $m) && !\in_array($m[1], ['char', 'bit'], true)
                && TypeCatalog::read()->knows($m[1]) => $m[1],
            default => null,
        };
        $quoted = null !== $own;
        $lower = $own ?? $lower;
        $name = self::TYPES[$lower] ?? (str_contains($base, '.') && !$quoted || str_starts_with($base, '"') && !$quoted ? $base : $lower);
        if ('char' === $own) {
            $name = '"char"';
        }
        $options = (string) preg_replace('/\s+/', '', trim($options));
        if ('float' === $lower && '' !== $options) {
            $name = (int) $options <= 24 ? 'real' : 'double precision';
            $options = '';
        }
        if ('interval' !== $name && 1 === preg_match('/^interval (.+)$/', $name, $m)) {
            return $name.('' === $options ? '' : "($options)").str_repeat('[]', min(1, (int) $array));
        }
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

    public function knowsType(string $type): bool
    {
        return TypeCatalog::read()->knows((string) preg_replace('/\s*\([^)]*\)|\[\]$/', '', $type));
    }

    public function serial(string $word): array
    {
        return 1 !== preg_match('/^(?:big|small)?serial\d?$/i', $word) ? [] : ['nullable' => false, 'auto' => true, 'sequence' => true];
    }

    public function expression(string $sql, Surroundings $around): string
    {
        return (new PostgreSqlWriting($this, $around))->expression($sql);
    }

    public function indexed(string $sql, Surroundings $around): string
    {
        return (new PostgreSqlWriting($this, $around))->indexed($sql);
    }

    public function default(string $default, string $type, ?Surroundings $around = null): ?string
    {
        return (new PostgreSqlWriting($this, $around ?? new Surroundings()))->default($default, $type);
    }

    public function partitionKey(string $sql, Surroundings $around): string
    {
        if (1 !== preg_match('/^(\w+)\s*\((.*)\)$/s', $sql, $m)) {
            return $sql;
        }
        $writing = new PostgreSqlWriting($this, $around);
        $parts = array_map(
            static fn (string $part): string => isset($around->columns[trim($part, ' "')]) ? trim($part) : $writing->expression($part),
            self::split($m[2]),
        );

        return strtoupper($m[1]).' ('.implode(', ', $parts).')';
    }

    /** @return list<string> the elements of a list, at its commas outside parentheses */
    private static function split(string $list): array
    {
        preg_match_all('/(?:[^,()]++|(\((?:[^()]++|(?1))*+\)))+/', $list, $m);

        return array_map(trim(...), $m[0]);
    }

    public function queriedType(string $type): string
    {
        return $type;
    }

    public function sequenceIn(string $default): ?array
    {
        if (1 !== preg_match("/^nextval\\(\\s*'((?:[^']|'')+)'\\s*(?:::\\s*(?:pg_catalog\\.)?regclass)?\\s*\\)\$/i", $default, $m)) {
            return null;
        }
        $parts = array_map(
            static fn (string $part): string => str_starts_with($part, '"') ? str_replace('""', '"', substr($part, 1, -1)) : strtolower($part),
            preg_split('/\.(?=(?:[^"]*"[^"]*")*[^"]*$)/', str_replace("''", "'", $m[1])) ?: [],
        );

        return [\count($parts) > 1 ? $parts[\count($parts) - 2] : null, (string) end($parts)];
    }

    public function numberedBy(string $schema, string $sequence): string
    {
        return \sprintf('nextval(%s::regclass)', Quotes::around($this->quotedName($schema).'.'.$this->quotedName($sequence), "'"));
    }

    /** The longer of two names is made shorter until all fits (`makeObjectName` of the server). */
    public function madeName(string $first, string $second, string $label): string
    {
        $room = $this->signs->longestName - \strlen($label) - ('' === $second ? 1 : 2);
        $a = \strlen($first);
        $b = \strlen($second);
        while ($a + $b > $room) {
            if ($a > $b) {
                --$a;
            } else {
                --$b;
            }
        }

        return mb_strcut($first, 0, $a).'_'.('' === $second ? '' : mb_strcut($second, 0, $b).'_').$label;
    }

    public function primaryKeyName(string $table, ?string $said): string
    {
        return $said ?? $table.'_pkey';
    }

    public function columnCheck(string $table, string $column): array
    {
        return ['', null];
    }

    public function partitionedWords(string $key, int $partitions): string
    {
        return PostgreSqlReader::partitioned($key, $partitions);
    }

    public function securedWords(array $policies): string
    {
        return PostgreSqlReader::secured($policies);
    }

    public function quotedName(string $name): string
    {
        return Keywords::plain($name) ? $name : Quotes::around($name);
    }

    public function parameters(array $parameters, string $kind): string
    {
        return implode(', ', array_map(fn (array $p): string => trim(
            (match (true) {
                'IN' === $p['mode'] && 'procedure' !== $kind => '',
                '' === $p['mode'] && 'procedure' === $kind => 'IN',
                default => $p['mode'],
            }).' '
            .('' === $p['name'] ? '' : $this->quotedName($p['name']).' ').$p['type']
            .(null === $p['default'] ? '' : ' DEFAULT '.($this->default($p['default'], $p['type']) ?? 'NULL::'.$p['type'])),
        ), $parameters));
    }
}
