<?php

declare(strict_types=1);

namespace Fasti\Core\Dialect;

/** What scripts of one dialect hold, and those of few others do. */
final readonly class Telltale
{
    /**
     * @param string $pattern  a regular expression
     * @param int    $weight   how much it tells
     * @param string $name     for people, in “It was read as …, by …”
     * @param bool   $anywhere it tells within texts and comments too
     * @param bool   $shared   every dialect of the family has it
     */
    public function __construct(
        public string $pattern,
        public int $weight,
        public string $name,
        public bool $anywhere = false,
        public bool $shared = false,
    ) {
    }
}
