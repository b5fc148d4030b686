<?php

declare(strict_types=1);

namespace Fasti\Core\Catalog;

/** A figure of the moment rather than structure: it does not count when two tables are held against each other. */
#[\Attribute(\Attribute::TARGET_PROPERTY | \Attribute::TARGET_PARAMETER)]
final readonly class OfTheMoment
{
}
