<?php

declare(strict_types=1);

namespace Fasti\Core\Dialect\SqlServer;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Type;
use Fasti\Core\Dialect\Capabilities;
use Fasti\Core\Dialect\Dialect;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Dialect\NativeTypes;
use Fasti\Core\Dialect\ScriptOptions;
use Fasti\Core\Dialect\ScriptSql;

/** SQL Server: scripts are written for it. Its servers are not reached from here; their structure comes in catalog sheets. */
final class SqlServerDialect extends Dialect
{
    public function name(): string
    {
        return 'sqlserver';
    }

    public function label(): string
    {
        return 'SQL Server';
    }

    public function literal(string $text): string
    {
        return 'N'.parent::literal($text);
    }

    public function quoted(string $name): string
    {
        return '['.str_replace(']', ']]', $name).']';
    }

    public function writing(ScriptOptions $options = new ScriptOptions()): ScriptSql
    {
        return new SqlServerScriptSql($this, $options);
    }

    public function types(): NativeTypes
    {
        return new SqlServerTypes($this);
    }

    protected function type(string $written): Type
    {
        return Dialects::of('sql')->typeOf(new Column('', $written));
    }

    protected function inWords(Type $type): string
    {
        return Dialects::of('sql')->typeInWords(new Column('', $type->written));
    }

    public function capabilities(): Capabilities
    {
        return new Capabilities(longestKey: 900, refuses: false, oneEmpty: true, oneWay: true, today: 'CAST(GETDATE() AS date)');
    }
}
