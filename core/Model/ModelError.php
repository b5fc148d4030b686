<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

/** A model that cannot be worked with: what is wrong, and what to do. */
final class ModelError extends \RuntimeException
{
}
