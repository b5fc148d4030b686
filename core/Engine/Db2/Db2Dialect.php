<?php

declare(strict_types=1);

namespace Fasti\Core\Engine\Db2;

use Fasti\Core\Engine\Standard\UnreachedDialect;

final class Db2Dialect extends UnreachedDialect
{
    public function name(): string
    {
        return 'db2';
    }

    public function label(): string
    {
        return 'IBM Db2';
    }
}
