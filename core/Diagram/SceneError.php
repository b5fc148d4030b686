<?php

declare(strict_types=1);

namespace Fasti\Core\Diagram;

/** What was handed in is not the ground of a drawing; the message says where. */
final class SceneError extends \InvalidArgumentException
{
}
