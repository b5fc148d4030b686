<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

/** What some lines of an outline say, and which lines they are. */
final readonly class Statement
{
    /**
     * @param string  $kind   design, rule, thing, attribute, identifier, lookup, condition, dependency, clause, join, list, value, question, answer, block,
     *     view, comment,
     *                        blank or fault
     * @param mixed   $object what it says, where that is an object
     * @param ?int    $in     number of the statement in whose block it stands
     * @param ?string $word   of a clause or rule: what it says, in its own words
     */
    public function __construct(
        public string $kind,
        public int $from,
        public int $to,
        public mixed $object = null,
        public ?int $in = null,
        public ?string $word = null,
    ) {
    }
}
