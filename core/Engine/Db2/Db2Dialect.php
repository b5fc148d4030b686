<?php

declare(strict_types=1);

namespace Fasti\Core\Engine\Db2;

use Fasti\Core\Engine\Standard\UnreachedDialect;

final class Db2Dialect extends UnreachedDialect
{
    /** Type → what its users say of it. */
    protected const UNUSUAL = [
        'graphic' => 'it holds double-byte letters only',
        'vargraphic' => 'it holds double-byte letters only',
        'long varchar' => 'it is given up by the engine',
        'long vargraphic' => 'it is given up by the engine',
        'decfloat' => 'few programs read it',
    ];

    public function name(): string
    {
        return 'db2';
    }

    public function label(): string
    {
        return 'IBM Db2';
    }
}
