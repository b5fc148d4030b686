<?php

declare(strict_types=1);

namespace Fasti\Diagram;

final readonly class StandsIn
{
    /** @param array<int, string> $diagrams id → name */
    public function __construct(public array $diagrams)
    {
    }
}
