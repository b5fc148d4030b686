<?php

declare(strict_types=1);

namespace Fasti\Core\Catalog;

/** What a member of documents was seen to hold, in all of them. Figures of the moment, not structure. */
final readonly class Seen
{
    /**
     * @param int                $present in how many of the objects that could hold it the member stands
     * @param int                $of      how many objects could
     * @param array<string, int> $types   JSON type → how often
     * @param array<string, int> $values  value → how often, for a member that looks like a code; else empty
     */
    public function __construct(
        public int $present,
        public int $of,
        #[ListOf('int')]
        public array $types,
        #[ListOf('int')]
        public array $values = [],
    ) {
    }
}
