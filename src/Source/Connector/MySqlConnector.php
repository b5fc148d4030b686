<?php

declare(strict_types=1);

namespace Fasti\Source\Connector;

final class MySqlConnector extends MariaDbConnector
{
    public function engine(): string
    {
        return 'mysql';
    }
}
