<?php

declare(strict_types=1);

namespace Fasti\Register;

/** Somebody looked for something, and there was nothing. Whoever it was is not told. */
final readonly class SoughtInVain
{
    public function __construct(public string $words)
    {
    }
}
