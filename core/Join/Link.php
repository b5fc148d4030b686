<?php

declare(strict_types=1);

namespace Fasti\Core\Join;

/** A join as routes go over it. */
final readonly class Link
{
    /**
     * @param int                              $id         of the asker's
     * @param int                              $from       node that holds the reference
     * @param list<array{string, string}>      $pairs      fields, from and to
     * @param float                            $certainty  1 where the database declares it, less where it is only proposed
     * @param array{string, string}|null       $where      a field of `from` and the value it has in the rows that take part
     * @param bool                             $orphans    some rows are known to lead nowhere
     */
    public function __construct(
        public int $id,
        public int $from,
        public int $to,
        public array $pairs,
        public Cardinality $cardinality,
        public float $certainty = 1.0,
        public ?array $where = null,
        public bool $orphans = false,
    ) {
    }
}
