<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

/** One attribute follows from others: "town depends on postcode". */
final readonly class Dependency
{
    /** @param non-empty-list<string> $on */
    public function __construct(public string $of, public array $on, public int $line = 0)
    {
    }
}
