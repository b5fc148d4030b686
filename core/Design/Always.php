<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

/** A condition that every row meets, in SQL. */
final readonly class Always
{
    /** @param ?string $of the attribute that it belongs to, where the engine keeps it with a column */
    public function __construct(public string $sql, public ?string $name = null, public ?string $of = null, public int $line = 0)
    {
    }
}
