<?php

declare(strict_types=1);

namespace Fasti\Finding;

/** A check that did not run does so from now on: whoever runs it looks at what is known already. */
final readonly class CheckSwitched
{
    public function __construct(public string $check)
    {
    }
}
