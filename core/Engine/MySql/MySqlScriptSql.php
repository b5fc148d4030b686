<?php

declare(strict_types=1);

namespace Fasti\Core\Engine\MySql;

use Fasti\Core\Catalog\Table;
use Fasti\Core\Dialect\ScriptStatement;
use Fasti\Core\Engine\MariaDb\MariaDbScriptSql;

/** Structure scripts of MySQL, which has the words of MariaDB here: https://dev.mysql.com/doc/refman/8.0/en/create-table.html */
final class MySqlScriptSql extends MariaDbScriptSql
{
    public function dropTable(Table $table): string
    {
        return 'DROP TABLE IF EXISTS '.$this->placed($table->place());
    }

    /** Conditions follow their table, where every reader of scripts understands them. */
    public function table(Table $table, array $inline): array
    {
        $all = parent::table($table->with(checks: []), $inline);
        foreach ($table->checks as $check) {
            $all[] = new ScriptStatement('key', 'ALTER TABLE '.$this->placed($table->place()).' ADD '.$this->check($check), $table->place());
        }

        return $all;
    }
}
