<?php

declare(strict_types=1);

namespace Fasti\Work;

/** A kind of job that puts things down on its way which nobody takes away when its worker dies. */
interface LeavesThings extends JobKind
{
    /** Takes away what one left that died before it came to its end. */
    public function sweep(Job $job): void;
}
