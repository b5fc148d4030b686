<?php

declare(strict_types=1);

namespace Fasti\Core\Catalog;

/**
 * A stored procedure, function or aggregate; `parameters` as the engine writes them. `body` is null when the account may not read it; `statement` would make it
 * again, '' where that is not known.
 */
final readonly class Routine
{
    public function __construct(
        public string $schema,
        public string $name,
        public string $kind,
        public ?string $returns,
        public ?string $body,
        public string $comment = '',
        #[WhenSet]
        public string $parameters = '',
        #[WhenSet, OfTheMoment]
        public string $statement = '',
    ) {
    }
}
