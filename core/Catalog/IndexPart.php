<?php

declare(strict_types=1);

namespace Fasti\Core\Catalog;

/** One part of an index: a column, how many of its first characters are indexed (null: all), and its direction. */
final readonly class IndexPart
{
    public function __construct(public string $column, public ?int $length = null, public bool $descending = false)
    {
    }
}
