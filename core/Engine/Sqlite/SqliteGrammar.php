<?php

declare(strict_types=1);

namespace Fasti\Core\Engine\Sqlite;

use Fasti\Core\Catalog\Quotes;
use Fasti\Core\Dialect\Grammar;
use Fasti\Core\Dialect\Surroundings;

final class SqliteGrammar extends Grammar
{
    public string $engine = 'sqlite';
    public string $label = 'SQLite';
    public string $defaultSchema = 'main';

    public function __construct()
    {
        parent::__construct();
        $this->signs->quotedTextsAsNames = true;
        $this->structure->wordyTypes = true;
        $this->signs->batches = false;
        $this->structure->looseOptions = false;
        $this->structure->looseLists = true;
        $this->structure->looseInlineIndexes = false;
        $this->structure->defaultBinding = 130;
        $this->catalog->tablesInAnyCase = true;
        $this->catalog->keepsReferenceNames = true;
        $this->structure->cascades = false;
        $this->catalog->rowids = true;
        $this->catalog->checksByName = false;
        $this->catalog->ownTable = 'sqlite_(?:schema|master)';
        $this->catalog->ownPrefix = 'sqlite_';
        $this->catalog->shadows = 'data|idx|content|docsize|config|segments|segdir|stat|node|rowid|parent';
        $this->queries->delimitedTexts = false;
        $this->queries->hashedNames = false;
        $this->queries->mergedFirst = false;
        $this->queries->aliasesInHaving = true;
        $this->queries->aliasesAnywhere = true;
        $this->queries->unknownNamesAreTexts = true;
        $this->queries->binding = ['||' => 95, '->' => 95, '->>' => 95, 'IS' => 50, 'LIKE' => 50, 'IN' => 50, 'BETWEEN' => 50];
        $this->queries->bareFunctions = '/^(?:CURRENT_DATE|CURRENT_TIME|CURRENT_TIMESTAMP)$/';
    }

    public function typing(): SqliteTyping
    {
        return new SqliteTyping();
    }

    public function expression(string $sql, Surroundings $around): string
    {
        return self::blanks($sql);
    }

    public function default(string $default, string $type, ?Surroundings $around = null): string
    {
        return self::blanks($default);
    }

    /** The engine keeps what is written; comments and blanks in it say nothing. */
    private static function blanks(string $sql): string
    {
        return trim((string) preg_replace_callback(
            '/\'(?:[^\']|\'\')*\'|"(?:[^"]|"")*"|`[^`]*`|\[[^\]]*\]|--[^\n]*|\/\*.*?\*\/|\s+/s',
            static fn (array $m): string => 1 === preg_match('/^(?:\s|--|\/\*)/', $m[0]) ? ' ' : $m[0],
            $sql,
        ));
    }

    /** Of a type that a query gives, the engine keeps its affinity (its documentation, “CREATE TABLE … AS SELECT”). */
    public function queriedType(string $type): string
    {
        $type = strtoupper($type);

        return match (true) {
            '' === $type => '',
            str_contains($type, 'INT') => 'INT',
            1 === preg_match('/CHAR|CLOB|TEXT/', $type) => 'TEXT',
            str_contains($type, 'BLOB') => '',
            1 === preg_match('/REAL|FLOA|DOUB/', $type) => 'REAL',
            default => 'NUM',
        };
    }

    public function queriedName(string $name, array $taken): string
    {
        for ($given = $name, $i = 1; \in_array(strtolower($given), array_map(strtolower(...), $taken), true); ++$i) {
            $given = $name.':'.$i;
        }

        return $given;
    }

    public function quotedName(string $name): string
    {
        return 1 === preg_match('/^[A-Za-z_]\w*$/', $name) ? $name : Quotes::around($name);
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
