<?php

declare(strict_types=1);

namespace Fasti\Work;

/** The work lets another go first and goes on afterwards. */
final class SteppedBack extends \RuntimeException
{
}
