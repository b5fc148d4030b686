<?php

declare(strict_types=1);

namespace Fasti\Design;

/** The designs into which an entry was taken. */
final readonly class DesignsIn
{
    /** @param array<int, string> $designs id → name */
    public function __construct(public array $designs)
    {
    }
}
