<?php

declare(strict_types=1);

namespace Fasti\Core\Engine\MySql;

use Fasti\Core\Dialect\Native;
use Fasti\Core\Engine\MariaDb\MariaDbTypes;

/** MySQL 8 says no width of whole numbers, and has neither UUIDs nor addresses of its own. */
final class MySqlTypes extends MariaDbTypes
{
    protected const PLAIN = [
        'UUID' => 'char(36)', 'JSON document' => 'json', 'IP address' => 'varchar(45)', 'year' => 'year',
    ] + parent::PLAIN;
    protected const WHOLE = [8 => 'tinyint', 16 => 'smallint', 32 => 'int', 64 => 'bigint'];
    protected const UNSIGNED = [8 => 'tinyint unsigned', 16 => 'smallint unsigned', 32 => 'int unsigned', 64 => 'bigint unsigned'];

    protected function plain(string $kind): Native
    {
        return 'JSON document' === $kind ? new Native('json') : parent::plain($kind);
    }
}
