<?php

declare(strict_types=1);

namespace Fasti\Work;

/** A kind of job of which one runs at a time, in whatever lane, so that a worker is left for everything else. */
interface OneAtATime extends JobKind
{
}
