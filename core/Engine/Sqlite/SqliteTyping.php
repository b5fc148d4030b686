<?php

declare(strict_types=1);

namespace Fasti\Core\Engine\Sqlite;

use Fasti\Core\Dialect\Typing;

/**
 * SQLite types values, not columns: a field that is shown as it is keeps the type that its table declares. Of what is computed
 * it says nothing; here it is called as its values are (its documentation, “Datatypes In SQLite”).
 */
final class SqliteTyping extends Typing
{
    private const TEXTS = [
        'strftime' => 1,
        'date' => 1,
        'time' => 1,
        'datetime' => 1,
        'printf' => 1,
        'format' => 1,
        'hex' => 1,
        'typeof' => 1,
        'quote' => 1,
        'char' => 1,
        'json' => 1,
        'json_object' => 1,
        'json_array' => 1,
        'json_group_array' => 1,
        'json_group_object' => 1,
        'current_date' => 1,
        'current_time' => 1,
        'current_timestamp' => 1,
    ];
    private const NUMBERS = [
        'julianday' => 1,
        'total' => 1,
        'avg' => 1,
        'round' => 1,
        'cume_dist' => 1,
        'percent_rank' => 1,
        'power' => 1,
        'sqrt' => 1,
        'exp' => 1,
        'ln' => 1,
        'log' => 1,
    ];
    private const WHOLE = [
        'instr' => 1,
        'unicode' => 1,
        'changes' => 1,
        'last_insert_rowid' => 1,
        'random' => 1,
        'unixepoch' => 1,
        'json_array_length' => 1,
        'sign' => 1,
    ];

    public function literal(string $kind, string $text): string
    {
        return match ($kind) {
            'number' => 1 === preg_match('/^\d+$|^0x/i', $text) ? 'INTEGER' : 'REAL',
            'text', 'typed', 'national' => 'TEXT',
            'bool' => 'INTEGER',
            'bytes' => 'BLOB',
            default => self::UNTYPED,
        };
    }

    public function operation(string $sign, array $types): ?string
    {
        $type = parent::operation($sign, $types);

        return match (true) {
            '||' === $sign => 'TEXT',
            '->' === $sign || '->>' === $sign => '',
            default => $type,
        };
    }

    protected function arithmetic(string $sign, array $types): string
    {
        $known = array_unique(array_map(static fn (?string $type): string => strtoupper((string) $type), $types));

        return match (true) {
            1 === \count($known) && \in_array(
                $known[0],
                ['INTEGER', 'REAL'],
                true,
            ) => $known[0],
            [] === array_diff($known, ['INTEGER', 'REAL']) => 'REAL',
            default => '',
        };
    }

    public function call(string $name, array $types, bool $window = false, array $literals = []): string
    {
        if (isset(self::TEXTS[$name])) {
            return 'TEXT';
        }
        if (isset(self::NUMBERS[$name])) {
            return 'REAL';
        }
        if (isset(self::WHOLE[$name])) {
            return 'INTEGER';
        }
        $type = parent::call($name, $types, $window, $literals);

        return ['bigint' => 'INTEGER', 'integer' => 'INTEGER', 'varchar' => 'TEXT', 'decimal' => 'REAL'][$type] ?? (string) $type;
    }

    public function common(array $types): ?string
    {
        $known = array_values(array_unique(array_filter($types, static fn (?string $type): bool => self::UNTYPED !== $type)));

        return match (true) {
            [] === $known => self::UNTYPED,
            1 === \count($known) => $known[0],
            default => '',
        };
    }

    public function stored(?string $type): ?string
    {
        return self::UNTYPED === $type ? '' : $type;
    }

    public function ownFields(): array
    {
        return ['rowid' => 'INTEGER', 'oid' => 'INTEGER', '_rowid_' => 'INTEGER'];
    }

    public function produced(string $name, array $types): ?array
    {
        return match ($name) {
            'json_each', 'json_tree' => [
                'key' => '',
                'value' => '',
                'type' => 'TEXT',
                'atom' => '',
                'id' => 'INTEGER',
                'parent' => 'INTEGER',
                'fullkey' => 'TEXT',
                'path' => 'TEXT',
            ],
            'generate_series' => ['value' => 'INTEGER'],
            default => null,
        };
    }

    public function operationMayBeEmpty(string $sign, array $operands): ?bool
    {
        return '/' === $sign || '%' === $sign ? true : parent::operationMayBeEmpty($sign, $operands);
    }
}
