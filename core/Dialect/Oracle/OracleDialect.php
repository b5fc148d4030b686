<?php

declare(strict_types=1);

namespace Fasti\Core\Dialect\Oracle;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Type;
use Fasti\Core\Dialect\Capabilities;
use Fasti\Core\Dialect\Dialect;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Dialect\NativeTypes;
use Fasti\Core\Dialect\ScriptOptions;
use Fasti\Core\Dialect\ScriptSql;

/** Oracle Database: scripts are written for it. Its servers are not reached from here; their structure comes in catalog sheets. */
final class OracleDialect extends Dialect
{
    public function name(): string
    {
        return 'oracle';
    }

    public function label(): string
    {
        return 'Oracle Database';
    }

    public function writing(ScriptOptions $options = new ScriptOptions()): ScriptSql
    {
        return new OracleScriptSql($this, $options);
    }

    public function types(): NativeTypes
    {
        return new OracleTypes($this);
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
        return new Capabilities(refuses: false, partsCompared: true);
    }
}
