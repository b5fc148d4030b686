<?php

declare(strict_types=1);

namespace Fasti\Kept;

/** The shared things in which an entry stands. */
final readonly class KeptIn
{
    /** @param array<string, array<int, string>> $of kind → id → name */
    public function __construct(public array $of)
    {
    }
}
