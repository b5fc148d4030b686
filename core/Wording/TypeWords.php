<?php

declare(strict_types=1);

namespace Fasti\Core\Wording;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Seen;

/** Native types in plain words, with the range that people would otherwise have to work out. */
final class TypeWords
{
    private const INTEGER_BITS = ['tinyint' => 8, 'smallint' => 16, 'mediumint' => 24, 'int' => 32, 'integer' => 32, 'bigint' => 64];
    private const TEXT_LIMITS = ['tinytext' => '255 bytes', 'text' => '64 KB', 'mediumtext' => '16 MB', 'longtext' => '4 GB'];
    private const BINARY_LIMITS = ['tinyblob' => '255 bytes', 'blob' => '64 KB', 'mediumblob' => '16 MB', 'longblob' => '4 GB'];
    private const PLAIN = [
        'date' => 'date', 'year' => 'year', 'json' => 'JSON document', 'uuid' => 'UUID', 'inet4' => 'IPv4 address', 'inet6' => 'IP address',
        'float' => 'number, approximate (7 digits)', 'double' => 'number, approximate (15 digits)', 'boolean' => 'yes or no',
        'point' => 'point on a map', 'linestring' => 'line on a map', 'polygon' => 'area on a map', 'geometry' => 'shape on a map',
        'multipoint' => 'points on a map', 'multilinestring' => 'lines on a map', 'multipolygon' => 'areas on a map', 'geometrycollection' => 'shapes on a map',
    ];

    private const POSTGRESQL = [
        'text' => 'long text', 'citext' => 'long text, capitals and small letters alike', 'character varying' => 'text', 'numeric' => 'number, of any size', 'double precision' => 'number, approximate (15 digits)', 'real' => 'number, approximate (7 digits)',
        'bytea' => 'bytes', 'interval' => 'length of time', 'jsonb' => 'JSON document', 'inet' => 'IP address', 'cidr' => 'network address', 'macaddr' => 'network card address', 'xml' => 'XML document', 'money' => 'sum of money', 'tsvector' => 'words for searching',
        'int4range' => 'range of whole numbers', 'int8range' => 'range of whole numbers', 'numrange' => 'range of numbers', 'daterange' => 'range of dates', 'tsrange' => 'range of dates and times', 'tstzrange' => 'range of instants', 'path' => 'line on a map', 'line' => 'line on a map', 'circle' => 'circle on a map', 'box' => 'box on a map', 'lseg' => 'line on a map',
    ];
    private const JSON = ['string' => 'text', 'integer' => 'whole number', 'number' => 'number', 'boolean' => 'yes or no', 'object' => 'object', 'array' => 'list', 'null' => 'nothing', 'any' => 'anything'];
    private const JSON_FORMATS = ['date' => 'date, as text', 'date-time' => 'date and time, as text', 'uuid' => 'UUID', 'email' => 'e-mail address', 'uri' => 'web address'];

    /** @param string $engine that of the catalog: the same type means more or less, depending on who enforces it */
    public static function of(Column $column, string $engine = 'mariadb'): string
    {
        if (null !== $column->seen) {
            return self::member($column->type, $column->seen);
        }
        $type = $column->base ?? $column->type;
        if ('sqlite' === $engine) {
            return self::affinity($type);
        }
        if ('postgresql' !== $engine) {
            return self::forType($type);
        }
        $array = str_ends_with($type, '[]');
        $words = self::postgreSql($array ? substr($type, 0, -2) : $type);

        return $array ? 'list of '.$words : $words;
    }

    private static function postgreSql(string $type): string
    {
        $lower = strtolower($type);

        return match (true) {
            isset(self::POSTGRESQL[$lower]) => self::POSTGRESQL[$lower],
            1 === preg_match('/^character varying\((\d+)\)$/', $lower, $m) => self::forType("varchar($m[1])"),
            1 === preg_match('/^character\((\d+)\)$/', $lower, $m) => self::forType("char($m[1])"),
            1 === preg_match('/^timestamp(?:\((\d)\))? (with|without) time zone$/', $lower, $m) => ('with' === $m[2] ? 'instant' : 'date and time').self::fraction($m[1]),
            1 === preg_match('/^time(?:\((\d)\))? with(?:out)? time zone$/', $lower, $m) => 'time of day'.self::fraction($m[1] ?? ''),
            1 === preg_match('/^bit varying(?:\((\d+)\))?$/', $lower, $m) => isset($m[1]) ? 'up to '.$m[1].' bits' : 'bits',
            default => self::forType($type),
        };
    }

    /** SQLite takes a type as advice. What it does with one is ruled by section 3.1 of its page on datatypes. */
    private static function affinity(string $type): string
    {
        $upper = strtoupper($type);
        $meant = 1 === preg_match('/\(([\d\s,]+)\)/', $type, $m) ? ' ('.preg_replace('/\s+/', '', $m[1]).' is meant, not enforced)' : '';

        return match (true) {
            '' === $upper => 'anything',
            str_contains($upper, 'INT') => 'whole number',
            1 === preg_match('/CHAR|CLOB|TEXT/', $upper) => 'text'.$meant,
            str_contains($upper, 'BLOB') => 'bytes',
            1 === preg_match('/REAL|FLOA|DOUB/', $upper) => 'number, approximate (15 digits)',
            str_contains($upper, 'BOOL') => 'yes or no (0 or 1)',
            1 === preg_match('/DATE|TIME/', $upper) => (str_contains($upper, 'TIME') ? 'date and time' : 'date').', as text or number',
            default => 'number'.$meant,
        };
    }

    private static function member(string $type, Seen $seen): string
    {
        $words = [];
        $total = array_sum(array_diff_key($seen->types, ['null' => 1]));
        $kinds = explode(' | ', $type);
        foreach ($kinds as $kind) {
            $plain = strtok($kind, ' ') ?: $kind;
            $said = 1 === preg_match('/\((.*)\)/', $kind, $m) ? self::JSON_FORMATS[$m[1]] ?? 'text ('.$m[1].')' : self::JSON[$plain] ?? $plain;
            $count = ($seen->types[$plain] ?? 0) + ('number' === $plain ? $seen->types['integer'] ?? 0 : 0);
            $words[$said] = \count($kinds) > 1 && $total > 0 ? [$count, $said.' ('.(0 < $count && Amount::percent($count, $total) < 1 ? 'under 1' : Amount::percent($count, $total)).' %)'] : [$count, $said];
        }
        usort($words, static fn (array $a, array $b): int => $b[0] <=> $a[0]);

        return implode(' or ', array_column($words, 1));
    }

    /** @param string $type a native type of MariaDB or MySQL, with its options: `decimal(6,2) unsigned`, `enum('a','b')` */
    public static function forType(string $type): string
    {
        if (1 !== preg_match('/^\s*([a-z][a-z0-9 ]*?)\s*(?:\((.*)\))?\s*((?:unsigned|zerofill|signed|\s)*)\s*$/is', $type, $m)) {
            return $type;
        }
        [$base, $options, $unsigned] = [strtolower($m[1]), $m[2], false !== stripos($m[3], 'unsigned')];
        if (str_ends_with($base, ' unsigned')) {
            [$base, $unsigned] = [substr($base, 0, -9), true];
        }

        return match (true) {
            'tinyint' === $base && '1' === $options && !$unsigned => 'yes or no (0 or 1)',
            isset(self::INTEGER_BITS[$base]) => self::integer(self::INTEGER_BITS[$base], $unsigned),
            \in_array($base, ['decimal', 'numeric', 'dec', 'fixed'], true) => self::number($options, $unsigned),
            'varchar' === $base => 'text, up to '.Amount::of((int) $options, 'character'),
            'char' === $base => '1' === $options || '' === $options ? '1 character' : 'text of '.Amount::count((int) $options).' characters',
            isset(self::TEXT_LIMITS[$base]) => 'long text, up to '.self::TEXT_LIMITS[$base],
            isset(self::BINARY_LIMITS[$base]) => 'bytes, up to '.self::BINARY_LIMITS[$base],
            'varbinary' === $base => 'bytes, up to '.Amount::count((int) $options),
            'binary' === $base => Amount::of(max(1, (int) $options), 'byte'),
            'bit' === $base => '1' === $options || '' === $options ? 'one bit (0 or 1)' : $options.' bits',
            'enum' === $base => self::members('one of ', $options),
            'set' === $base => self::members('any of ', $options),
            \in_array($base, ['datetime', 'timestamp'], true) => ('timestamp' === $base ? 'instant' : 'date and time').self::fraction($options),
            'time' === $base => 'time of day or duration'.self::fraction($options),
            isset(self::PLAIN[$base]) => self::PLAIN[$base].($unsigned ? ', not negative' : ''),
            default => $type,
        };
    }

    /**
     * The members of an enum or set type, unquoted.
     *
     * @return list<string>
     */
    public static function memberList(string $type): array
    {
        if (1 !== preg_match('/^\s*(?:enum|set)\s*\((.*)\)/is', $type, $m)) {
            return [];
        }
        preg_match_all("/'((?:[^'\\\\]|''|\\\\.)*)'/s", $m[1], $found);

        return array_map(static fn (string $member): string => stripcslashes(str_replace("''", "'", $member)), $found[1]);
    }

    private static function integer(int $bits, bool $unsigned): string
    {
        if (64 === $bits) {
            return $unsigned ? 'whole number, 0 or more' : 'whole number';
        }
        if (32 === $bits) {
            return $unsigned ? 'whole number, up to 4.29 billion' : 'whole number, to ±2.14 billion';
        }
        $most = 2 ** ($unsigned ? $bits : $bits - 1);

        return 'whole number, '.($unsigned ? '0' : Amount::decimal('-'.$most)).' to '.Amount::count($most - 1);
    }

    private static function number(string $options, bool $unsigned): string
    {
        [$precision, $scale] = array_map(intval(...), explode(',', '' === $options ? '10,0' : $options)) + [1 => 0];
        $scale = min($scale, $precision);
        $most = str_repeat('9', max(0, $precision - $scale));
        $most = ('' === $most ? '0' : $most).($scale > 0 ? '.'.str_repeat('9', $scale) : '');
        if ($precision - $scale > 12) {
            return ($scale > 0 ? 'number, '.($precision - $scale).' digits and '.Amount::of($scale, 'decimal') : 'whole number, '.$precision.' digits').($unsigned ? ', not negative' : '');
        }

        return (0 === $scale ? 'whole number, ' : 'number, ').($unsigned ? '0' : Amount::decimal('-'.$most)).' to '.Amount::decimal($most);
    }

    private static function fraction(string $options): string
    {
        return match ((int) $options) {
            0 => '',
            3 => ', to the millisecond',
            6 => ', to the microsecond',
            default => ', to '.Amount::of((int) $options, 'decimal').' of a second',
        };
    }

    private static function members(string $lead, string $options): string
    {
        $members = self::memberList("enum($options)");
        $shown = \array_slice($members, 0, 6);
        $more = \count($members) - \count($shown);

        return $lead.implode(', ', array_map(static fn (string $member): string => '' === $member ? '“”' : $member, $shown)).($more > 0 ? ' and '.$more.' more' : '');
    }
}
