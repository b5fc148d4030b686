<?php

declare(strict_types=1);

namespace Fasti\Core\Catalog;

/** A check constraint. `column` is set when the engine says that it belongs to one column. */
final readonly class CheckConstraint
{
    public function __construct(public string $name, public string $expression, public ?string $column = null)
    {
    }
}
