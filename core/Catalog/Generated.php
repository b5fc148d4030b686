<?php

declare(strict_types=1);

namespace Fasti\Core\Catalog;

/** How a generated column is computed: its expression, and whether the result is stored. */
final readonly class Generated
{
    public function __construct(public string $expression, public bool $stored)
    {
    }
}
