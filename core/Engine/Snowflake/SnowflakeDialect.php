<?php

declare(strict_types=1);

namespace Fasti\Core\Engine\Snowflake;

use Fasti\Core\Engine\Standard\UnreachedDialect;

final class SnowflakeDialect extends UnreachedDialect
{
    public function name(): string
    {
        return 'snowflake';
    }

    public function label(): string
    {
        return 'Snowflake';
    }
}
