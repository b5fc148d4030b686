<?php

declare(strict_types=1);

namespace Fasti\Work;

/** The work cannot be done; the message tells people why and what to do. */
final class JobFailed extends \RuntimeException
{
}
