<?php

declare(strict_types=1);

namespace Fasti\Work;

/** A job that cannot be paused, and that has to be begun anew where its worker died. */
trait InOneGo
{
    public function pauses(): bool
    {
        return false;
    }

    public function cameToItsEnd(Job $job): bool
    {
        return false;
    }
}
