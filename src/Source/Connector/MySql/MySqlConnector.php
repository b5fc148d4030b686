<?php

declare(strict_types=1);

namespace Fasti\Source\Connector\MySql;

use Fasti\Source\Connector\MariaDb\MariaDbConnector;

final class MySqlConnector extends MariaDbConnector
{
    public function engine(): string
    {
        return 'mysql';
    }
}
