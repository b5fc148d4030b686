<?php

declare(strict_types=1);

namespace Fasti\Core\Dialect\MariaDb;

use Fasti\Core\Dialect\MySql\MySqlGrammar;

final class MariaDbGrammar extends MySqlGrammar
{
    /** Digits that the catalog writes with whole numbers that say none: signed, unsigned. */
    private const WIDTHS = ['tinyint' => [4, 3], 'smallint' => [6, 5], 'mediumint' => [9, 8], 'int' => [11, 10], 'bigint' => [20, 20]];

    public string $engine = 'mariadb';
    public string $label = 'MariaDB';
    public string $signs = '/\bMariaDB\b|current_timestamp\(\)|\/\*M!|COLLATE=utf8mb4_(?:unicode|general)_ci/i';
    public string $family = 'mysql';
    public bool $jsonIsText = true;
    public string $unsaidAction = 'RESTRICT';

    protected function sized(string $name, string $options, bool $unsigned): array
    {
        return match (true) {
            '' === $options && isset(self::WIDTHS[$name]) => [$name, (string) self::WIDTHS[$name][$unsigned ? 1 : 0]],
            'json' === $name => ['longtext', $options],
            default => parent::sized($name, $options, $unsigned),
        };
    }

    protected function isNumberInQuotes(string $default, string $type): bool
    {
        return 1 === preg_match("/^'-?\\d+(?:\\.\\d+)?'$/", $default) && 1 === preg_match('/^(?:tiny|small|medium|big)?int|^(?:decimal|float|double)/', $type);
    }

    protected function currentTime(string $decimals): string
    {
        return 'current_timestamp('.$decimals.')';
    }

    /** The server says of an unnamed check which column it belongs to, and names it like that. */
    public function columnCheck(string $table, string $column): array
    {
        return [$column, $column];
    }
}
