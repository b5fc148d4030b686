<?php

declare(strict_types=1);

namespace Fasti\Core\Script;

/** The form in which each engine's catalog writes a type, from any of the forms that its scripts may use. */
final class Types
{
    private const MARIADB = ['integer' => 'int', 'int1' => 'tinyint', 'int2' => 'smallint', 'int3' => 'mediumint', 'int4' => 'int', 'int8' => 'bigint', 'dec' => 'decimal', 'numeric' => 'decimal', 'fixed' => 'decimal', 'number' => 'decimal', 'bool' => 'tinyint(1)', 'boolean' => 'tinyint(1)', 'real' => 'double', 'double precision' => 'double', 'character varying' => 'varchar', 'char varying' => 'varchar', 'varcharacter' => 'varchar', 'character' => 'char', 'nchar' => 'char', 'nvarchar' => 'varchar', 'long' => 'mediumtext', 'clob' => 'longtext'];
    private const WIDTHS = ['tinyint' => [4, 3], 'smallint' => [6, 5], 'mediumint' => [9, 8], 'int' => [11, 10], 'bigint' => [20, 20]];
    private const POSTGRESQL = ['int' => 'integer', 'int4' => 'integer', 'int2' => 'smallint', 'int8' => 'bigint', 'serial' => 'integer', 'serial4' => 'integer', 'bigserial' => 'bigint', 'serial8' => 'bigint', 'smallserial' => 'smallint', 'serial2' => 'smallint', 'decimal' => 'numeric', 'dec' => 'numeric', 'bool' => 'boolean', 'varchar' => 'character varying', 'char varying' => 'character varying', 'char' => 'character', 'bpchar' => 'character', 'float8' => 'double precision', 'float4' => 'real', 'float' => 'double precision', 'varbit' => 'bit varying', 'timestamp' => 'timestamp without time zone', 'timestamptz' => 'timestamp with time zone', 'time' => 'time without time zone', 'timetz' => 'time with time zone'];

    /**
     * @param string $base    the words before the parenthesis: `double precision`
     * @param string $options what stands in the parenthesis, '' for none
     * @param string $after   the words after it: `unsigned`, `with time zone`, `[]`
     */
    public static function canonical(Dialect $dialect, string $base, string $options, string $after): string
    {
        $lower = strtolower($base);
        $options = trim($options);
        if ($dialect->isMySqlLike()) {
            $lower = self::MARIADB[$lower] ?? $lower;
            if (!\in_array($lower, ['enum', 'set'], true)) {
                $options = (string) preg_replace('/\s+/', '', $options);
            } else {
                $options = (string) preg_replace("/'\s*,\s*'/", "','", $options);
            }
            $after = trim((string) preg_replace('/\bsigned\b/i', '', (string) preg_replace('/\bunsigned\b/i', '~', $after)));
            $after = str_replace('~', 'unsigned', $after);
            if (str_contains(strtolower($after), 'zerofill') && !str_contains(strtolower($after), 'unsigned')) {
                $after = 'unsigned '.$after;
            }
            if ('' === $options && isset(self::WIDTHS[$lower]) && Dialect::MariaDb === $dialect) {
                $options = (string) self::WIDTHS[$lower][str_contains(strtolower($after), 'unsigned') ? 1 : 0];
            }
            if ('decimal' === $lower) {
                $options = '' === $options ? '10,0' : (str_contains($options, ',') ? $options : $options.',0');
            } elseif ('float' === $lower && '' !== $options && !str_contains($options, ',')) {
                [$lower, $options] = [(int) $options > 24 ? 'double' : 'float', ''];
            } elseif (\in_array($lower, ['char', 'binary', 'bit'], true) && '' === $options) {
                $options = '1';
            } elseif ('year' === $lower && '' === $options) {
                $options = '4';
            } elseif ('json' === $lower && Dialect::MariaDb === $dialect) {
                $lower = 'longtext';
            } elseif (\in_array($lower, ['datetime', 'timestamp', 'time'], true) && '0' === $options) {
                $options = '';
            }

            return trim($lower.('' === $options ? '' : "($options)").('' === $after ? '' : ' '.strtolower($after)));
        }
        if (Dialect::PostgreSql === $dialect) {
            $array = preg_match_all('/\[\s*\d*\s*\]|\barray\b/i', $after);
            $words = strtolower(trim((string) preg_replace('/\[\s*\d*\s*\]|\barray\b/i', '', $after)));
            $lower = self::POSTGRESQL[$lower] ?? (str_contains($base, '.') || '"' === $base[0] ? $base : $lower);
            $options = (string) preg_replace('/\s+/', '', $options);
            if ('with time zone' === $words || 'without time zone' === $words) {
                $lower = (string) preg_replace('/ with(out)? time zone$/', '', $lower).' '.$words;
            } elseif ('' !== $words) {
                $lower .= ' '.$words;
            }
            if ('numeric' === $lower && '' !== $options && !str_contains($options, ',')) {
                $options .= ',0';
            } elseif (('character' === $lower || 'bit' === $lower) && '' === $options) {
                $options = '1';
            }
            if ('' !== $options) {
                // The precision of a time stands before its words about the zone.
                $lower = 1 === preg_match('/^(timestamp|time) (with(?:out)? time zone)$/', $lower, $m) ? "$m[1]($options) $m[2]" : "$lower($options)";
            }

            return $lower.str_repeat('[]', min(1, (int) $array));
        }

        return trim($base.('' === $options ? '' : "($options)").('' === $after ? '' : ' '.$after));
    }
}
