<?php

declare(strict_types=1);

namespace Fasti\Register;

/** A page that answers what is typed into the search. */
final readonly class Understood
{
    /** @param array<string, int|string> $parameters */
    public function __construct(
        public string $words,
        public string $route,
        public array $parameters,
    ) {
    }
}
