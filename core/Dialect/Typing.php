<?php

declare(strict_types=1);

namespace Fasti\Core\Dialect;

/**
 * What type an engine gives to what a query computes, and whether that may be empty. Types are written as its catalog
 * writes them; null stands for one that is not known. As it stands here it is the ways of the standard, by names alone; a
 * dialect that knows better overrides it.
 */
class Typing
{
    /** A text in a query whose type follows from where it is used. */
    public const UNTYPED = 'unknown';
    /** Functions of several rows. */
    private const AGGREGATES = [
        'count' => 1, 'sum' => 1, 'avg' => 1, 'min' => 1, 'max' => 1, 'total' => 1, 'group_concat' => 1, 'string_agg' => 1, 'listagg' => 1, 'array_agg' => 1,
        'stddev' => 1, 'stddev_pop' => 1, 'stddev_samp' => 1, 'std' => 1, 'variance' => 1, 'var_pop' => 1, 'var_samp' => 1, 'every' => 1, 'any_value' => 1,
        'bool_and' => 1, 'bool_or' => 1, 'bit_and' => 1, 'bit_or' => 1, 'bit_xor' => 1, 'corr' => 1, 'covar_pop' => 1, 'covar_samp' => 1, 'median' => 1,
        'percentile_cont' => 1, 'percentile_disc' => 1, 'mode' => 1, 'json_agg' => 1, 'jsonb_agg' => 1, 'json_object_agg' => 1, 'jsonb_object_agg' => 1,
        'json_arrayagg' => 1, 'json_objectagg' => 1, 'json_group_array' => 1, 'json_group_object' => 1, 'xmlagg' => 1, 'collect' => 1, 'first' => 1,
        'last' => 1,
        'approx_count_distinct' => 1, 'count_big' => 1, 'checksum_agg' => 1, 'stdev' => 1, 'stdevp' => 1, 'var' => 1, 'varp' => 1, 'regr_slope' => 1,
        'regr_intercept' => 1, 'regr_count' => 1, 'regr_r2' => 1, 'regr_avgx' => 1, 'regr_avgy' => 1, 'range_agg' => 1, 'range_intersect_agg' => 1,
    ];
    /** Functions that always give a value. */
    private const NEVER_EMPTY = [
        'count' => 1, 'count_big' => 1, 'row_number' => 1, 'rank' => 1, 'dense_rank' => 1, 'ntile' => 1, 'cume_dist' => 1, 'percent_rank' => 1, 'now' => 1,
        'current_date' => 1, 'current_time' => 1, 'current_timestamp' => 1, 'localtime' => 1, 'localtimestamp' => 1, 'getdate' => 1, 'sysdate' => 1,
        'random' => 1, 'rand' => 1, 'pi' => 1, 'grouping' => 1, 'total' => 1, 'concat_ws' => 1, 'regr_count' => 1, 'isnull' => 1, 'uuid' => 1,
    ];
    private const BOOLEAN = '/^(?:=|<>|!=|<|>|<=|>=|<=>|==|\^=|AND|OR|XOR|NOT|(?:NOT '
        .')?(?:LIKE|ILIKE|IN|BETWEEN|SIMILAR|REGEXP|RLIKE|GLOB|MATCH|OVERLAPS)|IS .*|.* (?:ANY|ALL))$/';

    /** @var array<string, string> what domains and named types stand for, by their names */
    public array $bases = [];

    /** @var array<string, bool> whether an operator gives yes or no */
    private array $conditions = [];

    protected function isCondition(string $sign, string $pattern): bool
    {
        return $this->conditions[$sign] ??= 1 === preg_match($pattern, $sign);
    }

    public function isAggregate(string $name): bool
    {
        return isset(self::AGGREGATES[$name]);
    }

    /** @param string $kind of a Literal of the tree, or bool for a condition */
    public function literal(string $kind, string $text): ?string
    {
        return match ($kind) {
            'number' => match (true) {
                1 === preg_match('/^\d{1,9}$/', $text) => 'integer',
                1 === preg_match('/^\d+$/', $text) => 'bigint',
                default => 'decimal',
            },
            'bool' => 'boolean',
            'text', 'null', 'national' => self::UNTYPED,
            'bytes' => 'varbinary',
            'interval' => 'interval',
            default => null,
        };
    }

    /** @param list<?string> $types of its operands */
    public function operation(string $sign, array $types): ?string
    {
        return match (true) {
            $this->isCondition($sign, self::BOOLEAN) => $this->literal('bool', ''),
            'COLLATE' === $sign, 'PRIOR' === $sign, '(+)' === $sign, 'CONNECT_BY_ROOT' === $sign => $types[0] ?? null,
            str_starts_with($sign, 'INTERVAL') => strtolower($sign),
            '||' === $sign => 'varchar',
            1 === \count($types) => $types[0],
            default => $this->arithmetic($sign, $types),
        };
    }

    /** @param list<?string> $types */
    protected function arithmetic(string $sign, array $types): ?string
    {
        $common = $this->common($types);
        if (null !== $common && \in_array($sign, ['+', '-'], true) && 1 === preg_match('/date|time/', implode(' ', $types))) {
            return null;
        }

        return self::UNTYPED === $common ? null : $common;
    }

    /**
     * @param list<?string> $types of its arguments, in the end those of an order within
     * @param bool          $window it is computed over other rows too
     * @param array<int, string> $literals those of the arguments that stand in the text itself
     */
    public function call(string $name, array $types, bool $window = false, array $literals = []): ?string
    {
        return match ($name) {
            'count', 'count_big', 'row_number', 'rank', 'dense_rank', 'ntile', 'regr_count' => 'bigint',
            'coalesce', 'ifnull', 'nvl', 'isnull', 'greatest', 'least' => $this->common($types),
            'nullif', 'min', 'max', 'first_value', 'last_value', 'lag', 'lead', 'nth_value', 'abs', 'any_value', 'percentile_disc' => $types[0] ?? null,
            'iif', 'if', 'nvl2' => $this->common(\array_slice($types, 1)),
            'sum' => 1 === preg_match('/^(?:small|tiny)?int/', (string) ($types[0] ?? '')) ? 'bigint' : ($types[0] ?? null),
            'upper', 'lower', 'substr', 'substring', 'trim', 'ltrim', 'rtrim', 'replace', 'concat', 'concat_ws', 'lpad', 'rpad', 'string_agg', 'listagg',
            'to_char', 'initcap',
            'group_concat' => 'varchar',
            'length', 'char_length', 'character_length', 'position', 'charindex', 'extract', 'datepart', 'datediff', 'year', 'month', 'day',
            'grouping' => 'integer',
            'avg', 'percent_rank', 'cume_dist', 'stddev', 'variance', 'percentile_cont', 'median' => 'decimal',
            'current_date' => 'date',
            'current_timestamp', 'localtimestamp', 'systimestamp' => 'timestamp',
            default => null,
        };
    }

    /**
     * The type that values of several types have together: in CASE, in COALESCE, in a UNION.
     *
     * @param list<?string> $types
     */
    public function common(array $types): ?string
    {
        $known = array_values(array_unique(array_filter($types, static fn (?string $type): bool => self::UNTYPED !== $type)));
        if ([] === $known) {
            return [] === $types ? null : self::UNTYPED;
        }
        if (1 === \count($known)) {
            return $known[0];
        }
        if (\in_array(null, $known, true)) {
            return null;
        }
        $names = array_values(array_unique(array_map(static fn (string $type): string => TypeText::of($type)->name, $known)));
        if (1 === \count($names)) {
            $lengths = array_map(static fn (string $type): int => TypeText::of($type)->first() ?? 0, $known);

            return 1 === preg_match('/char/', $names[0]) && min($lengths) > 0 ? $names[0].'('.max($lengths).')' : $names[0];
        }
        $rank = array_flip(['tinyint', 'smallint', 'int', 'integer', 'bigint', 'decimal', 'numeric', 'number', 'real', 'float', 'double', 'double precision']);
        $ranks = array_map(static fn (string $name): int => $rank[$name] ?? -1, $names);

        return min($ranks) >= 0 ? (string) array_search(max($ranks), $rank, true) : null;
    }

    public function cast(?string $from, string $to): string
    {
        return $to;
    }

    /** Whether a value that cannot be cast becomes empty rather than an error. */
    public function castMayFail(string $to): bool
    {
        return false;
    }

    /** The type of a column that is made of such a value. */
    public function stored(?string $type): ?string
    {
        return self::UNTYPED === $type ? 'varchar' : $type;
    }

    public function listOf(?string $type): ?string
    {
        return null === $type ? null : $type.'[]';
    }

    public function elementOf(?string $type): ?string
    {
        return null !== $type && str_ends_with($type, '[]') ? substr($type, 0, -2) : null;
    }

    public function rowOf(): ?string
    {
        return null;
    }

    /** @return array<string, ?string> fields that rows of a table have without being listed: name → type */
    public function ownFields(): array
    {
        return [];
    }

    /**
     * The columns of rows that a function makes; null where they are not known.
     *
     * @param list<?string> $types of its arguments
     *
     * @return array<string, ?string>|null name → type; '' for a single one without a name of its own
     */
    public function produced(string $name, array $types): ?array
    {
        return match ($name) {
            'unnest' => ['' => $this->elementOf($types[0] ?? null)],
            'generate_series' => ['' => $types[0] ?? null],
            default => null,
        };
    }

    /**
     * Whether what a function gives may be empty; null where it does not follow.
     *
     * @param list<?bool> $arguments whether each of them may
     * @param bool        $grouped   there is a row for each group, so that no group is without rows
     */
    public function callMayBeEmpty(string $name, array $arguments, bool $grouped, bool $window): ?bool
    {
        if (isset(self::NEVER_EMPTY[$name])) {
            return false;
        }
        if (\in_array($name, ['coalesce', 'ifnull', 'nvl'], true)) {
            return match (true) {
                \in_array(false, $arguments, true) => false,
                \in_array(null, $arguments, true) => null,
                default => true,
            };
        }
        if (\in_array($name, ['nullif', 'lag', 'lead', 'nth_value'], true)) {
            return true;
        }
        if ($this->isAggregate($name) || $window) {
            return match (true) {
                !$grouped && !$window => true,
                [false] === $arguments && \in_array($name, ['sum', 'avg', 'min', 'max', 'bit_or'], true) => false,
                default => true,
            };
        }

        return \in_array(true, $arguments, true) ? true : null;
    }

    /** @param list<?bool> $operands */
    public function operationMayBeEmpty(string $sign, array $operands): ?bool
    {
        if (str_starts_with($sign, 'IS ') || '<=>' === $sign) {
            return false;
        }
        if ('->' === $sign || '->>' === $sign) {
            return true;
        }

        return match (true) {
            \in_array(true, $operands, true) => true,
            \in_array(null, $operands, true) => null,
            default => false,
        };
    }

    /**
     * What a column is called to which a query gives no name; null where it is the text of the expression.
     *
     * @param string  $kind of the node, in small letters: call, cast, caseof, arrayof, rowof, exists, other; values for a column of VALUES
     * @param ?string $name the name that it holds: of the function, of the type; the number of the column
     */
    public function nameOf(string $kind, ?string $name): ?string
    {
        return 'values' === $kind ? 'column'.$name : null;
    }
}
