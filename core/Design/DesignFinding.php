<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

/** What a check noticed in a design: where, why it matters and what to do. */
final readonly class DesignFinding
{
    /**
     * @param string $check by which it is known
     * @param int    $line  of the outline, 0 for the whole
     * @param string $about the thing it is about
     * @param string $ask   the question that the people who know the work could answer; '' for none
     */
    public function __construct(
        public string $check,
        public int $line,
        public string $words,
        public string $todo = '',
        public string $about = '',
        public string $ask = '',
        public bool $serious = false,
    ) {
    }
}
