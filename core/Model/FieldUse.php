<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

/** A field that an expression reads, and where it says so. */
final readonly class FieldUse
{
    public function __construct(public string $role, public string $column, public int $at = 0, public int $end = 0)
    {
    }
}
