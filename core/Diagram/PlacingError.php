<?php

declare(strict_types=1);

namespace Fasti\Core\Diagram;

/** The placing engine is missing or failed; the message says which. */
final class PlacingError extends \RuntimeException
{
}
