<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

use Fasti\Core\Catalog\ListOf;
use Fasti\Core\Catalog\WhenSet;
use Fasti\Core\Model\Companion\Companion;

/** What stands beside a measure in an answer: its share, its rank, its running total, what it was a year before. Names are those of the model. */
final readonly class Figure
{
    /**
     * @param list<string> $within attributes of the answer: it begins anew for each of their values; none for the whole of it
     * @param string       $along  an attribute: of a running total, along which it runs; of what was before, the date that is gone back by
     * @param int          $many   so many spans back
     */
    public function __construct(
        public string $measure,
        public Companion $as,
        #[ListOf('string'), WhenSet]
        public array $within = [],
        #[WhenSet]
        public string $along = '',
        #[WhenSet]
        public int $many = 0,
        #[WhenSet]
        public ?Span $span = null,
    ) {
    }

    /** As it is asked for, and as its column is called. */
    public function inWords(): string
    {
        return $this->as->inWords($this);
    }
}
