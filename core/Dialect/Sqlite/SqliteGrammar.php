<?php

declare(strict_types=1);

namespace Fasti\Core\Dialect\Sqlite;

use Fasti\Core\Dialect\Grammar;

final class SqliteGrammar extends Grammar
{
    public string $engine = 'sqlite';
    public string $label = 'SQLite';
    public string $signs = '/\bAUTOINCREMENT\b|\bWITHOUT\s+ROWID\b|^PRAGMA\b|\bsqlite_/im';
    public string $defaultSchema = 'main';
    public bool $quotedTextsAsNames = true;
    public bool $wordyTypes = true;
    public bool $rowids = true;
    public bool $checksByName = false;
    public bool $shadowTables = true;
    public bool $delimitedTexts = false;
    public bool $hashedNames = false;
    public bool $mergedFirst = false;
    public bool $aliasesInHaving = true;
    public bool $aliasesAnywhere = true;
    public bool $unknownNamesAreTexts = true;
    public array $binding = ['||' => 95, '->' => 95, '->>' => 95, 'IS' => 50, 'LIKE' => 50, 'IN' => 50, 'BETWEEN' => 50];
    public string $bareFunctions = '/^(?:CURRENT_DATE|CURRENT_TIME|CURRENT_TIMESTAMP)$/';

    public function typing(): SqliteTyping
    {
        return new SqliteTyping();
    }

    public function columnCheck(string $table, string $column): array
    {
        return ['', $column];
    }

    public function checkedColumn(string $column): string
    {
        return $column;
    }
}
