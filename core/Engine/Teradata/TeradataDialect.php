<?php

declare(strict_types=1);

namespace Fasti\Core\Engine\Teradata;

use Fasti\Core\Engine\Standard\UnreachedDialect;

final class TeradataDialect extends UnreachedDialect
{
    public function name(): string
    {
        return 'teradata';
    }

    public function label(): string
    {
        return 'Teradata';
    }
}
