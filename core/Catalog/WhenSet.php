<?php

declare(strict_types=1);

namespace Fasti\Core\Catalog;

/** A member that its open form leaves out where it says nothing. */
#[\Attribute(\Attribute::TARGET_PROPERTY | \Attribute::TARGET_PARAMETER)]
final readonly class WhenSet
{
}
