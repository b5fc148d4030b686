<?php

declare(strict_types=1);

namespace Fasti\Core\Dialect\MySql;

use Fasti\Core\Dialect\Grammar;
use Fasti\Core\Dialect\MariaDb\MariaDbDialect;
use Fasti\Core\Dialect\NativeTypes;
use Fasti\Core\Dialect\ScriptOptions;
use Fasti\Core\Dialect\ScriptSql;

final class MySqlDialect extends MariaDbDialect
{
    public function name(): string
    {
        return 'mysql';
    }

    public function label(): string
    {
        return 'MySQL';
    }

    public function schemes(): array
    {
        return ['mysql' => 3306];
    }

    public function grammar(): Grammar
    {
        return new MySqlGrammar();
    }

    public function types(): NativeTypes
    {
        return new MySqlTypes($this);
    }

    public function writing(ScriptOptions $options = new ScriptOptions()): ScriptSql
    {
        return new MySqlScriptSql($this, $options);
    }
}
