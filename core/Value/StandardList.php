<?php

declare(strict_types=1);

namespace Fasti\Core\Value;

/** A code list that ships with the application. */
final readonly class StandardList
{
    /** @param array<array-key, string> $codes code → label */
    public function __construct(public string $name, public string $meaning, public array $codes)
    {
    }
}
