<?php

declare(strict_types=1);

namespace Fasti\Core\Engine\MySql;

use Fasti\Core\Dialect\Grammar;
use Fasti\Core\Dialect\NativeTypes;
use Fasti\Core\Dialect\ScriptOptions;
use Fasti\Core\Dialect\ScriptSql;
use Fasti\Core\Engine\MariaDb\MariaDbDialect;

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

    public function rank(): int
    {
        return 20;
    }

    public function telltales(): array
    {
        return [...MySqlTelltales::shared(), ...MySqlTelltales::own()];
    }

    public function sheetsOf(): string
    {
        return 'MySQL and MariaDB';
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

    protected function longestUnique(): int
    {
        return 3072;
    }
}
