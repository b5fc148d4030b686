<?php

declare(strict_types=1);

namespace Fasti\Core\Engine\SqlServer;

use Fasti\Core\Dialect\Capabilities;
use Fasti\Core\Dialect\NativeTypes;
use Fasti\Core\Dialect\ScriptOptions;
use Fasti\Core\Dialect\ScriptSql;
use Fasti\Core\Dialect\Telltale;
use Fasti\Core\Engine\Standard\UnreachedDialect;

/** SQL Server: scripts are written for it. */
final class SqlServerDialect extends UnreachedDialect
{
    /** Type → what its users say of it. */
    protected const UNUSUAL = [
        'text' => 'it is given up by the engine, which cannot compare it',
        'ntext' => 'it is given up by the engine, which cannot compare it',
        'image' => 'it is given up by the engine, which cannot compare it',
        'sql_variant' => 'each value has a type of its own',
        'timestamp' => 'it is the version of a row and no time',
        'rowversion' => 'it is the version of a row',
        'smalldatetime' => 'it rounds to whole minutes',
        'hierarchyid' => 'few programs read it',
    ];

    public function name(): string
    {
        return 'sqlserver';
    }

    public function label(): string
    {
        return 'SQL Server';
    }

    public function rank(): int
    {
        return 70;
    }

    public function telltales(): array
    {
        return [new Telltale(
            '/\bIDENTITY\s*\(\s*\d+\s*,\s*\d+\s*\)|\bN?VARCHAR\s*\(\s*MAX\s*\)|\bUNIQUEIDENTIFIER\b|\bDATETIME2\b|\[dbo\]|^GO\s*$/im',
            3,
            'words of SQL Server',
        )];
    }

    public function sheetsOf(): string
    {
        return 'Microsoft SQL Server';
    }

    public function literal(string $text): string
    {
        return 'N'.parent::literal($text);
    }

    public function quoted(string $name): string
    {
        return '['.str_replace(']', ']]', $name).']';
    }

    public function writes(): bool
    {
        return true;
    }

    public function writing(ScriptOptions $options = new ScriptOptions()): ScriptSql
    {
        return new SqlServerScriptSql($this, $options);
    }

    public function types(): NativeTypes
    {
        return new SqlServerTypes($this);
    }

    public function capabilities(): Capabilities
    {
        return new Capabilities(longestKey: 900, longestUnique: 1700, refuses: false, oneEmpty: true, oneWay: true, today: 'CAST(GETDATE() AS date)');
    }
}
