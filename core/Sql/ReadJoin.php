<?php

declare(strict_types=1);

namespace Fasti\Core\Sql;

use Fasti\Core\Catalog\FieldPlace;

/** Two tables whose fields a query compares. */
final readonly class ReadJoin
{
    /** @param list<array{FieldPlace, FieldPlace}> $pairs of the one and of the other */
    public function __construct(public int $at, public array $pairs)
    {
    }
}
