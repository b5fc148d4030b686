<?php

declare(strict_types=1);

namespace Fasti\Lineage;

/** What a later room makes from fields, of what, and where it is shown. */
final readonly class Made
{
    /**
     * @param array<string, int|string> $parameters
     * @param list<int>                 $fields     from which it is made, where several were asked about
     */
    public function __construct(
        public string $words,
        public string $of,
        public string $route,
        public array $parameters,
        public array $fields = [],
    ) {
    }
}
