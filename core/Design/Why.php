<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

/** By which rule something came about that nobody wrote. */
final readonly class Why
{
    /** @param string $rule of Rules::ALL; '' where it follows from what was said without one */
    public function __construct(public string $rule, public string $words)
    {
    }
}
