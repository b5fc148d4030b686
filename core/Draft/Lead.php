<?php

declare(strict_types=1);

namespace Fasti\Core\Draft;

/** A join, from the entry that holds the reference. */
final readonly class Lead
{
    /**
     * @param int                         $to        number of the entry it leads to
     * @param list<array{string, string}> $pairs     fields, from and to
     * @param float                       $certainty 1 where it is declared
     * @param int                         $id        of the asker's
     */
    public function __construct(
        public int $to,
        public array $pairs,
        public string $verb = '',
        public string $verbBack = '',
        public float $certainty = 1.0,
        public int $id = 0,
    ) {
    }
}
