<?php

declare(strict_types=1);

namespace Fasti\Core\Engine\MySql;

use Fasti\Core\Dialect\TypeText;
use Fasti\Core\Dialect\Typing;

/**
 * Types as MariaDB and MySQL give them to columns of views. Lengths follow from those of the operands by the rules of the
 * server's documentation (“Arithmetic operators”, “Control flow functions”, “Aggregate functions”).
 */
class MySqlTyping extends Typing
{
    private const DIGITS = ['tinyint' => 3, 'smallint' => 5, 'mediumint' => 7, 'int' => 10, 'bigint' => 19, 'year' => 4, 'bit' => 1];
    private const TEXTS = ['tinytext' => 63, 'text' => 16383, 'mediumtext' => 4194303, 'longtext' => 1073741823, 'json' => 1073741823];
    private const CONDITIONS = '/^(?:=|<>|!=|<|>|<=|>=|<=>|AND|OR|XOR|NOT|!|&&|\|\||(?:NOT )?(?:LIKE|IN|BETWEEN|REGEXP|RLIKE|SOUNDS|MATCH|MEMBER)|IS .*|.* '
        .'(?:ANY|ALL))$/';
    private const INTEGERS = [
        'year' => 'int(5)', 'month' => 'int(3)', 'day' => 'int(3)', 'dayofmonth' => 'int(3)', 'dayofweek' => 'int(1)', 'weekday' => 'int(1)',
        'dayofyear' => 'int(4)',
        'hour' => 'int(3)', 'minute' => 'int(3)', 'second' => 'int(3)', 'microsecond' => 'int(7)', 'quarter' => 'int(2)', 'week' => 'int(3)',
        'yearweek' => 'int(7)',
        'length' => 'int(10)', 'octet_length' => 'int(10)', 'char_length' => 'int(10)', 'character_length' => 'int(10)', 'bit_length' => 'int(11)',
        'locate' => 'int(11)',
        'instr' => 'int(11)', 'position' => 'int(11)', 'ascii' => 'int(3)', 'ord' => 'int(21)', 'field' => 'int(3)', 'find_in_set' => 'int(3)',
        'strcmp' => 'int(2)',
        'sign' => 'int(2)', 'datediff' => 'int(7)', 'to_days' => 'int(6)', 'to_seconds' => 'bigint(12)', 'timestampdiff' => 'bigint(21)',
        'crc32' => 'int(10) unsigned',
        'isnull' => 'int(1)', 'json_valid' => 'int(1)', 'json_length' => 'int(11)', 'json_depth' => 'int(11)', 'json_contains' => 'int(1)',
        'json_exists' => 'int(1)',
        'count' => 'bigint(21)', 'row_number' => 'bigint(21)', 'rank' => 'bigint(21)', 'dense_rank' => 'bigint(21)', 'ntile' => 'bigint(21)',
        'bit_count' => 'int(2)',
        'bit_or' => 'bigint(21) unsigned', 'bit_and' => 'bigint(21) unsigned', 'bit_xor' => 'bigint(21) unsigned', 'time_to_sec' => 'bigint(17)',
        'period_diff' => 'int(6)',
        'last_insert_id' => 'bigint(21) unsigned', 'connection_id' => 'bigint(10)', 'uuid_short' => 'bigint(21) unsigned',
        'inet_aton' => 'bigint(21)',
    ];
    private const DOUBLES = [
        'sqrt' => 1, 'exp' => 1, 'ln' => 1, 'log' => 1, 'log2' => 1, 'log10' => 1, 'pow' => 1, 'power' => 1, 'sin' => 1, 'cos' => 1, 'tan' => 1,
        'cot' => 1, 'asin' => 1,
        'acos' => 1, 'atan' => 1, 'atan2' => 1, 'degrees' => 1, 'radians' => 1, 'rand' => 1, 'match' => 1,
    ];
    private const LONG = [
        'json_extract' => 1, 'json_unquote' => 1, 'json_value' => 1, 'json_query' => 1, 'json_object' => 1, 'json_array' => 1, 'json_set' => 1,
        'json_insert' => 1,
        'json_replace' => 1, 'json_remove' => 1, 'json_merge' => 1, 'json_merge_patch' => 1, 'json_merge_preserve' => 1, 'json_keys' => 1, 'json_quote' => 1,
        'json_compact' => 1, 'json_detailed' => 1, 'json_loose' => 1, 'json_search' => 1,
    ];
    private const ALWAYS = [
        'cume_dist' => 'double(12,10)', 'percent_rank' => 'double(12,10)', 'median' => 'double(18,10)', 'percentile_cont' => 'double(18,10)',
        'percentile_disc' => 'double(18,10)', 'group_concat' => 'mediumtext', 'json_arrayagg' => 'mediumtext', 'json_objectagg' => 'mediumtext',
        'now' => 'datetime', 'current_timestamp' => 'datetime', 'localtimestamp' => 'datetime', 'localtime' => 'datetime', 'sysdate' => 'datetime',
        'utc_timestamp' => 'datetime', 'from_unixtime' => 'datetime', 'timestamp' => 'datetime', 'str_to_date' => 'datetime', 'convert_tz' => 'datetime',
        'curdate' => 'date', 'current_date' => 'date', 'utc_date' => 'date', 'date' => 'date', 'last_day' => 'date', 'from_days' => 'date',
        'makedate' => 'date', 'curtime' => 'time', 'current_time' => 'time', 'utc_time' => 'time', 'time' => 'time', 'timediff' => 'time',
        'sec_to_time' => 'time', 'maketime' => 'time', 'unix_timestamp' => 'bigint(17)', 'md5' => 'varchar(32)', 'sha' => 'varchar(40)',
        'sha1' => 'varchar(40)', 'uuid' => 'varchar(36)', 'dayname' => 'varchar(9)', 'monthname' => 'varchar(9)',
    ];
    private const SAME_TEXT = ['upper' => 1, 'lower' => 1, 'ucase' => 1, 'lcase' => 1, 'trim' => 1, 'ltrim' => 1, 'rtrim' => 1, 'reverse' => 1];

    public function literal(string $kind, string $text): ?string
    {
        $digits = ltrim($text, '0');

        return match ($kind) {
            'number' => match (true) {
                1 === preg_match('/^0[xb]/i', $text) => 'varbinary('.max(1, intdiv(\strlen($text) - 1, 'x' === strtolower($text[1]) ? 2 : 8)).')',
                1 === preg_match('/e/i', $text) => 'double',
                str_contains($text, '.') => 'decimal('.\strlen(str_replace('.', '', ltrim($text, '0'))).','.\strlen(substr(
                    $text,
                    (int) strpos($text, '.') + 1,
                )).')',
                \strlen($digits) > 19 || (19 === \strlen($digits) && $digits > '9223372036854775807') => 'bigint('.\strlen($digits).') unsigned',
                default => (\strlen($digits) < 10 || (10 === \strlen($digits) && $digits <= '2147483647') ? 'int' : 'bigint').'('.\strlen($text).')',
            },
            'bool' => 'int(1)',
            'text', 'national' => 'varchar('.mb_strlen($text).')',
            'bytes' => 'varbinary('.intdiv(\strlen($text), 2).')',
            'bits' => 'varbinary('.max(1, (int) ceil(\strlen($text) / 8)).')',
            'null' => self::UNTYPED,
            default => null,
        };
    }

    public function stored(?string $type): ?string
    {
        return match (true) {
            self::UNTYPED === $type => 'binary(0)',
            null !== $type && str_starts_with($type, 'interval') => null,
            default => $type,
        };
    }

    public function operation(string $sign, array $types): ?string
    {
        if ($this->isCondition($sign, self::CONDITIONS)) {
            return 'int(1)';
        }
        if (\in_array($sign, ['&', '|', '^', '<<', '>>', '~'], true)) {
            return 'bigint(21) unsigned';
        }
        if ('->' === $sign || '->>' === $sign) {
            return 'longtext';
        }
        if ('BINARY' === $sign) {
            return self::isNumber($types[0]) ? null : 'varbinary('.$this->characters($types[0]).')';
        }
        if ('-' === $sign && 1 === \count($types)) {
            return $this->negated($types[0]);
        }
        foreach ($types as $i => $type) {
            if (null !== $type && str_starts_with($type, 'interval')) {
                return $this->moved($types[1 - $i] ?? null, $type);
            }
        }

        return parent::operation($sign, $types);
    }

    protected function arithmetic(string $sign, array $types): ?string
    {
        $a = $types[0] ?? null;
        $b = $types[1] ?? null;
        if (null === $a || null === $b) {
            return null;
        }
        if (!self::isExact($a) || !self::isExact($b)) {
            return 'DIV' === $sign ? 'bigint(17)' : 'double';
        }
        [$p, $s] = $this->precision($a);
        [$q, $t] = $this->precision($b);
        $unsigned = str_contains($a, 'unsigned') || str_contains($b, 'unsigned');
        if (self::isWhole($a) && self::isWhole($b) && '/' !== $sign) {
            $m = $this->width($a);
            $n = $this->width($b);

            return match ($sign) {
                '%', 'MOD' => $this->whole(max($m, $n), str_contains($a, 'unsigned'), true),
                'DIV' => $this->whole($m, $unsigned, true),
                '*' => $this->whole($m + $n, $unsigned),
                default => $this->whole(max($m, $n) + 1, $unsigned),
            };
        }

        return match ($sign) {
            '/' => self::decimal($p + $t + 4, $s + 4),
            '*' => self::decimal($p + $q, $s + $t),
            '%', 'MOD' => self::decimal(max($p - $s, $q - $t) + max($s, $t), max($s, $t)),
            'DIV' => $this->whole($p - $s + $t, $unsigned, true),
            default => self::decimal(max($p - $s, $q - $t) + max($s, $t) + 1, max($s, $t)),
        };
    }

    public function call(string $name, array $types, bool $window = false, array $literals = []): ?string
    {
        $first = $types[0] ?? null;
        $found = $this->known($name, $types, $literals) ?? $this->textual($name, $types, $literals);

        return $found ?? match ($name) {
            'sum' => $this->summed($first, 22, 0),
            'avg' => $this->summed($first, 4, 4),
            'std', 'stddev', 'stddev_pop', 'stddev_samp', 'variance', 'var_pop', 'var_samp' => $this->deviation($first),
            'min', 'max', 'any_value', 'first_value', 'last_value', 'nth_value', 'lag', 'lead' => $this->picked($first),
            'coalesce', 'ifnull', 'nvl', 'greatest', 'least' => $this->common($types),
            'if', 'iif', 'nvl2' => $this->common(\array_slice($types, 1)),
            'nullif' => $this->picked($first),
            'round', 'truncate' => $this->rounded($first, $literals[1] ?? (\count($types) > 1 ? null : '0'), 'round' === $name),
            'ceil', 'ceiling', 'floor' => $this->leveled($first),
            'abs' => $first,
            'mod' => $this->arithmetic('MOD', $types),
            'date_add', 'date_sub', 'adddate', 'subdate' => $this->moved($first, $types[1] ?? null),
            'timestampadd' => $this->moved($types[2] ?? null, 'interval '.strtolower($literals[0] ?? 'second')),
            default => null,
        };
    }

    /**
     * Functions that give the same type whatever they are given, or a text as long as theirs.
     *
     * @param list<?string>      $types
     * @param array<int, string> $literals
     */
    private function known(string $name, array $types, array $literals): ?string
    {
        if ('extract' === $name) {
            return $this->extracted(strtoupper($literals[0] ?? ''));
        }
        if (isset(self::SAME_TEXT[$name])) {
            return $this->text($this->characters($types['trim' === $name ? \count($types) - 1 : 0] ?? null));
        }
        if (isset(self::DOUBLES[$name]) || isset(self::LONG[$name])) {
            return isset(self::LONG[$name]) ? 'longtext' : 'double';
        }

        return self::INTEGERS[$name] ?? self::ALWAYS[$name] ?? null;
    }

    private function deviation(?string $type): ?string
    {
        if (null === $type) {
            return null;
        }

        return self::isExact($type) ? 'double(26,'.($this->precision($type)[1] + 4).')' : 'double';
    }

    /**
     * Functions that give text, by how long it may be.
     *
     * @param list<?string>      $types
     * @param array<int, string> $literals
     */
    private function textual(string $name, array $types, array $literals): ?string
    {
        $length = $this->characters($types[0] ?? null);
        $said = isset($literals[1]) ? (int) $literals[1] : null;

        return match ($name) {
            'concat' => $this->text(array_sum(array_map($this->characters(...), $types))),
            'concat_ws' => $this->text(array_sum(array_map($this->characters(...), \array_slice($types, 1))) + $length * max(0, \count($types) - 2)),
            'substr', 'substring', 'mid' => $this->text(isset($literals[2]) ? min((int) $literals[2], $length) : $length),
            'substring_index', 'quote' => $this->text($length),
            'left', 'right' => $this->text(null === $said ? $length : min($said, $length)),
            'lpad', 'rpad' => null === $said ? null : $this->text($said),
            'repeat' => null === $said ? null : $this->text($length * $said),
            'char' => $this->text(max(1, \count($types))),
            default => null,
        };
    }

    public function common(array $types): ?string
    {
        $known = array_values(array_unique(array_filter($types, static fn (?string $type): bool => self::UNTYPED !== $type)));
        if ([] === $known) {
            return [] === $types ? null : self::UNTYPED;
        }
        if (\in_array(null, $known, true)) {
            return null;
        }
        if (1 === \count($known)) {
            return \count($types) > 1 ? $this->picked($known[0]) : $known[0];
        }
        if ([] === array_filter($known, static fn (string $type): bool => !self::isNumber($type))) {
            return $this->commonNumber($known);
        }
        $moments = array_filter($known, static fn (string $type): bool => 1 === preg_match('/^(?:date|time|timestamp|datetime)\b/', $type));
        if (\count($moments) === \count($known)) {
            return 'datetime';
        }

        return $this->text(max(array_map($this->characters(...), $known)));
    }

    public function cast(?string $from, string $to): string
    {
        return match (true) {
            'signed' === $to, 'signed integer' === $to, 'signed int' === $to => 'bigint(20)',
            str_starts_with($to, 'unsigned') => 'bigint(20) unsigned',
            'char(1)' === $to, 'char' === $to, 'longtext' === $to => $this->text($this->characters($from)),
            1 === preg_match('/^n?char\((\d+)\)/', $to, $m) => $this->text((int) $m[1]),
            'integer' === $to => 'bigint(20)',
            default => $to,
        };
    }

    public function castMayFail(string $to): bool
    {
        return 1 === preg_match('/^(?:date|time|json)/', $to);
    }

    public function callMayBeEmpty(string $name, array $arguments, bool $grouped, bool $window): ?bool
    {
        if (\in_array(
            $name,
            [
                'curdate',
                'curtime',
                'sysdate',
                'utc_date',
                'utc_time',
                'utc_timestamp',
                'connection_id',
                'version',
                'md5',
                'isnull',
                'bit_or',
                'bit_and',
                'bit_xor',
                'json_object',
                'json_array',
            ],
            true,
        )) {
            return \in_array(true, $arguments, true) && 'md5' === $name ? true : false;
        }
        if (isset(self::SAME_TEXT[$name]) || \in_array(
            $name,
            [
                'concat',
                'substr',
                'substring',
                'left',
                'right',
                'length',
                'char_length',
                'octet_length',
                'abs',
                'round',
                'ceil',
                'ceiling',
                'floor',
                'greatest',
                'least',
                'if',
                'locate',
            ],
            true,
        )) {
            $counted = 'if' === $name ? \array_slice($arguments, 1) : $arguments;

            return match (true) {
                \in_array(true, $counted, true) => true,
                \in_array(null, $counted, true) => null,
                default => false,
            };
        }

        return parent::callMayBeEmpty($name, $arguments, $grouped, $window);
    }

    public function operationMayBeEmpty(string $sign, array $operands): ?bool
    {
        if (\in_array($sign, ['/', '%', 'DIV', 'MOD'], true)) {
            return true;
        }

        return str_starts_with($sign, 'INTERVAL') ? null : parent::operationMayBeEmpty($sign, $operands);
    }

    public function nameOf(string $kind, ?string $name): ?string
    {
        return null;
    }

    private static function isWhole(?string $type): bool
    {
        return null !== $type && 1 === preg_match('/^(?:tiny|small|medium|big)?int\b|^year\b|^bit\b/', $type);
    }

    private static function isExact(?string $type): bool
    {
        return self::isWhole($type) || (null !== $type && 1 === preg_match('/^decimal\b/', $type));
    }

    private static function isNumber(?string $type): bool
    {
        return self::isExact($type) || (null !== $type && 1 === preg_match('/^(?:double|float)\b/', $type));
    }

    /** @return array{int, int} digits, and those after the point */
    private function precision(?string $type): array
    {
        $text = TypeText::of((string) $type);
        if (str_starts_with($text->name, 'decimal')) {
            return [$text->first() ?? 10, $text->second() ?? 0];
        }
        // A literal has as many digits as it is wide; a column as many as its type holds.
        $digits = self::DIGITS[$text->name] ?? 10;
        $width = $text->first() ?? $digits;

        return [match (true) {
            $width < $digits => $width,
            $text->unsigned && 'bigint' === $text->name => 20,
            default => $digits,
        }, 0];
    }

    private function width(string $type): int
    {
        $text = TypeText::of($type);

        return $text->first() ?? self::DIGITS[$text->name] ?? 10;
    }

    /** @param bool $big it is always of the largest kind */
    private function whole(int $width, bool $unsigned, bool $big = false): string
    {
        return ($big || $width > 10 ? 'bigint' : 'int').'('.$width.')'.($unsigned ? ' unsigned' : '');
    }

    private static function decimal(int $precision, int $scale): string
    {
        return 'decimal('.min(65, max($precision, $scale)).','.min(38, $scale).')';
    }

    private function negated(?string $type): ?string
    {
        if (self::isWhole($type)) {
            return $this->whole($this->width((string) $type) + 1, false);
        }

        return self::isNumber($type) ? $type : 'double';
    }

    private function summed(?string $type, int $more, int $scale): ?string
    {
        if (null === $type) {
            return null;
        }
        if (!self::isExact($type)) {
            return 'double';
        }
        [$p, $s] = $this->precision($type);

        return self::decimal($p + $more, $s + $scale);
    }

    private function rounded(?string $type, ?string $places, bool $up): ?string
    {
        if (self::isWhole($type)) {
            return $type;
        }
        if (!self::isExact($type)) {
            return match (true) {
                null === $type => null,
                '0' === $places || null === $places || $up => 'double',
                default => 'double',
            };
        }
        [$p, $s] = $this->precision($type);
        $to = null === $places ? $s : max(0, min((int) $places, $s));

        return self::decimal($p - $s + $to + ($up && $to < $s ? 1 : 0), $to);
    }

    private function leveled(?string $type): ?string
    {
        if (!self::isExact($type)) {
            return null === $type ? null : 'double';
        }
        [$p, $s] = $this->precision($type);

        return match (true) {
            self::isWhole($type) => $type,
            $p - $s < 9 => 'int('.($p - $s + 2).')',
            $p - $s < 18 => 'bigint('.($p - $s + 2).')',
            default => self::decimal($p - $s + 1, 0),
        };
    }

    /** The type of a value that is taken from others: an enumeration becomes a text. */
    private function picked(?string $type): ?string
    {
        return null !== $type && 1 === preg_match('/^(?:enum|set|char)\b/', $type) ? $this->text($this->characters($type)) : $type;
    }

    /** @param list<string> $types */
    private function commonNumber(array $types): string
    {
        if ([] !== array_filter($types, static fn (string $type): bool => !self::isExact($type))) {
            return 'double';
        }
        $whole = $digits = $scale = 0;
        $signs = [];
        $name = 'int';
        foreach ($types as $type) {
            [$p, $s] = $this->precision($type);
            $digits = max($digits, $p - $s);
            $scale = max($scale, $s);
            $whole = max($whole, $this->width($type));
            $signs[str_contains($type, 'unsigned') ? 'u' : 's'] = true;
            $name = str_starts_with($type, 'bigint') ? 'bigint' : $name;
        }
        if ([] === array_filter($types, static fn (string $type): bool => !self::isWhole($type)) && 1 === \count($signs)) {
            return $name.'('.$whole.')'.(isset($signs['u']) ? ' unsigned' : '');
        }

        return self::decimal($digits + $scale, $scale);
    }

    /** How many characters a value of this type takes at most. */
    private function characters(?string $type): int
    {
        if (null === $type || self::UNTYPED === $type) {
            return 0;
        }
        $text = TypeText::of($type);
        if (isset(self::TEXTS[$text->name])) {
            return self::TEXTS[$text->name];
        }

        return match (true) {
            'enum' === $text->name => max([0, ...array_map(mb_strlen(...), $text->members())]),
            'set' === $text->name => array_sum(array_map(mb_strlen(...), $text->members())) + max(0, \count($text->members()) - 1),
            'decimal' === $text->name => ($text->first() ?? 10) + 1 + (($text->second() ?? 0) > 0 ? 1 : 0),
            'double' === $text->name => 22, 'float' === $text->name => 12, 'date' === $text->name => 10, 'time' === $text->name => 10,
            'datetime' === $text->name, 'timestamp' === $text->name => 19 + (null === $text->first() ? 0 : $text->first() + 1),
            default => $text->first() ?? ['tinyint' => 4, 'smallint' => 6, 'mediumint' => 9, 'int' => 11, 'bigint' => 20, 'year' => 4][$text->name] ?? 255,
        };
    }

    private function text(int $characters): string
    {
        return match (true) {
            $characters <= 16383 => 'varchar('.$characters.')',
            $characters * 4 <= 16777215 => 'mediumtext',
            default => 'longtext',
        };
    }

    private function moved(?string $type, ?string $interval): ?string
    {
        if (null === $type) {
            return null;
        }
        if (str_starts_with($type, 'timestamp') || str_starts_with($type, 'datetime')) {
            return (string) preg_replace('/^timestamp/', 'datetime', $type);
        }
        if (str_starts_with($type, 'time')) {
            return $type;
        }
        if ('date' === $type) {
            return 1 === preg_match('/(?:hour|minute|second)/', (string) $interval) ? 'datetime' : 'date';
        }

        return self::isNumber($type) ? null : 'varchar(19)';
    }

    private function extracted(string $unit): string
    {
        return 'int('.([
            'YEAR' => 5,
            'QUARTER' => 2,
            'MONTH' => 3,
            'WEEK' => 3,
            'DAY' => 3,
            'HOUR' => 3,
            'MINUTE' => 3,
            'SECOND' => 3,
            'MICROSECOND' => 7,
            'YEAR_MONTH' => 7,
            'DAY_HOUR' => 5,
            'DAY_MINUTE' => 7,
            'DAY_SECOND' => 9,
            'HOUR_MINUTE' => 5,
            'HOUR_SECOND' => 7,
            'MINUTE_SECOND' => 5,
        ][$unit] ?? 11).')';
    }
}
