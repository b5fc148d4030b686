<?php

declare(strict_types=1);

namespace Fasti\Core\Cage;

/** There is no cage on this machine, or what runs in it ended otherwise than it should. The message says what to do. */
final class CageError extends \RuntimeException
{
}
