<?php

declare(strict_types=1);

namespace Fasti\Core\Dialect\MySql;

use Fasti\Core\Dialect\Grammar;

/** Scripts of MySQL, and what those of MariaDB share with them. */
class MySqlGrammar extends Grammar
{
    private const TYPES = [
        'integer' => 'int', 'int1' => 'tinyint', 'int2' => 'smallint', 'int3' => 'mediumint', 'int4' => 'int', 'int8' => 'bigint',
        'dec' => 'decimal', 'numeric' => 'decimal',
        'fixed' => 'decimal', 'number' => 'decimal', 'bool' => 'tinyint(1)', 'boolean' => 'tinyint(1)', 'real' => 'double', 'double precision' => 'double',
        'character varying' => 'varchar', 'char varying' => 'varchar', 'varcharacter' => 'varchar', 'character' => 'char', 'nchar' => 'char',
        'nvarchar' => 'varchar',
        'long' => 'mediumtext', 'clob' => 'longtext',
    ];

    public string $engine = 'mysql';
    public string $label = 'MySQL';
    public string $signs = '/`\w+`|\bAUTO_INCREMENT\b|\bENGINE\s*=|\/\*!\d{5}|^DELIMITER\b/im';
    public bool $backslashes = true;
    public bool $doubleQuotedTexts = true;
    public bool $brackets = false;
    public bool $hashAndVersionComments = true;
    public bool $delimiters = true;
    public bool $inlineIndexes = true;
    public bool $keysAreIndexes = true;
    public bool $indexesForeignKeys = true;
    public bool $uniqueIndexesAreKeys = true;
    public bool $collationTellsCharset = true;
    public bool $bareIndexCalls = false;
    public bool $bareRoutines = true;
    public bool $viewsTellRequired = true;
    public bool $charsetTexts = true;
    public bool $delimitedTexts = false;
    public bool $hashedNames = false;
    public bool $aliasesInHaving = true;
    public array $binding = [
        '||' => 10, '&&' => 20, 'IS' => 50, 'LIKE' => 50, 'IN' => 50, 'BETWEEN' => 48, 'REGEXP' => 50, '|' => 72, '&' => 74, '<<' => 76, '>>' => 76,
        '->' => 140, '->>' => 140,
    ];
    public string $bareFunctions = '/^(?:CURRENT_DATE|CURRENT_TIME|CURRENT_TIMESTAMP|LOCALTIME|LOCALTIMESTAMP|CURRENT_USER|CURRENT_ROLE|UTC_DATE|UTC_TIME|UTC_TIMESTAMP)$/';

    public function typing(): MySqlTyping
    {
        return new MySqlTyping();
    }

    public function type(string $base, string $options, string $after): string
    {
        $lower = strtolower($base);
        $name = self::TYPES[$lower] ?? $lower;
        $options = trim($options);
        $options = \in_array($name, ['enum', 'set'], true) ? (string) preg_replace("/'\s*,\s*'/", "','", $options) : (string) preg_replace('/\s+/', '', $options);
        $words = array_diff(preg_split('/\s+/', strtolower($after), -1, \PREG_SPLIT_NO_EMPTY) ?: [], ['signed']);
        if (\in_array('zerofill', $words, true) && !\in_array('unsigned', $words, true)) {
            array_unshift($words, 'unsigned');
        }
        [$name, $options] = $this->sized($name, $options, \in_array('unsigned', $words, true));

        return trim($name.('' === $options ? '' : "($options)").([] === $words ? '' : ' '.implode(' ', $words)));
    }

    /** @return array{string, string} name and options, with what the engine adds or leaves out */
    protected function sized(string $name, string $options, bool $unsigned): array
    {
        return match (true) {
            'decimal' === $name => [$name, '' === $options ? '10,0' : (str_contains($options, ',') ? $options : $options.',0')],
            'float' === $name && '' !== $options && !str_contains($options, ',') => [(int) $options > 24 ? 'double' : 'float', ''],
            \in_array($name, ['char', 'binary', 'bit'], true) && '' === $options => [$name, '1'],
            'year' === $name && '' === $options => [$name, '4'],
            \in_array($name, ['datetime', 'timestamp', 'time'], true) && '0' === $options => [$name, ''],
            default => [$name, $options],
        };
    }

    public function serial(string $word, string $schema, string $table, string $column): array
    {
        return 'serial' === strtolower($word) ? ['type' => 'bigint(20) unsigned', 'nullable' => false, 'auto' => true] : [];
    }

    public function default(string $default, string $type): string
    {
        if (1 === preg_match('/^"(.*)"$/s', $default, $m)) {
            $default = "'".str_replace("'", "''", $m[1])."'";
        }

        return match (true) {
            $this->isNumberInQuotes($default, $type) => substr($default, 1, -1),
            1 === preg_match('/^(?:true|false)$/i', $default) => 'true' === strtolower($default) ? '1' : '0',
            1 === preg_match('/^\((.*)\)$/s', $default, $m) && self::balanced($m[1]) => trim($m[1]),
            default => $this->now($default),
        };
    }

    protected function isNumberInQuotes(string $default, string $type): bool
    {
        return false;
    }

    public function now(string $expression): string
    {
        return 1 === preg_match('/^(?:current_timestamp|now|localtimestamp)(?:\((\d*)\))?$/i', $expression, $m) ? $this->currentTime($m[1] ?? '') : $expression;
    }

    protected function currentTime(string $decimals): string
    {
        return 'CURRENT_TIMESTAMP'.('' === $decimals ? '' : "($decimals)");
    }

    public function primaryKeyName(string $table, ?string $said): ?string
    {
        return null;
    }

    public function primaryIndexName(?string $key): string
    {
        return 'PRIMARY';
    }

    public function uniqueName(string $table, array $columns, array $taken): string
    {
        for ($name = $columns[0] ?? '', $stem = $name, $i = 2; \in_array($name, $taken, true); ++$i) {
            $name = $stem.'_'.$i;
        }

        return $name;
    }

    public function foreignKeyName(string $table, array $columns, int $number): string
    {
        return $table.'_ibfk_'.$number;
    }

    private static function balanced(string $text): bool
    {
        $depth = 0;
        foreach (str_split($text) as $sign) {
            $depth += ['(' => 1, ')' => -1][$sign] ?? 0;
            if ($depth < 0) {
                return false;
            }
        }

        return 0 === $depth;
    }
}
