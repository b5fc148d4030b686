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

    public function columnCheck(string $table, string $column): array
    {
        return ['', $column];
    }

    public function checkedColumn(string $column): string
    {
        return $column;
    }
}
