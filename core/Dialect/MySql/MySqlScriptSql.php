<?php

declare(strict_types=1);

namespace Fasti\Core\Dialect\MySql;

use Fasti\Core\Dialect\MariaDb\MariaDbScriptSql;

/** Structure scripts of MySQL, which has the words of MariaDB here: https://dev.mysql.com/doc/refman/8.0/en/create-table.html */
final class MySqlScriptSql extends MariaDbScriptSql
{
    public function dropTable(\Fasti\Core\Catalog\Table $table): string
    {
        return 'DROP TABLE IF EXISTS '.$this->placed($table->place());
    }
}
