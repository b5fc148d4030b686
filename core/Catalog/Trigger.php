<?php

declare(strict_types=1);

namespace Fasti\Core\Catalog;

/**
 * A trigger: `timing` is BEFORE or AFTER, `event` is INSERT, UPDATE or DELETE. `statement` is what would make it again, where that says more
 * than its parts do (the columns that it watches, a condition).
 */
final readonly class Trigger
{
    public function __construct(
        public string $name, public string $timing, public string $event, public string $body, #[WhenSet, OfTheMoment] public string $statement = '',
    ) {
    }
}
