<?php

declare(strict_types=1);

namespace Fasti\Diagram;

use Fasti\Core\Diagram\Detail;

/** How entries are drawn. */
final readonly class Look
{
    /**
     * @param \Closure(int): string $link     address of an entry
     * @param list<int>             $folded   entries to show by name only
     * @param ?int                  $around   the entry that the diagram is about
     * @param bool                  $proposed whether joins that are only proposed are drawn, faint
     * @param array<int, string>    $words    what kind an entry is, where that is worth a word
     * @param bool                  $leads    whether tablets say how many of their joins lead out of the picture
     */
    public function __construct(
        public Detail $detail,
        public \Closure $link,
        public bool $businessNames = true,
        public array $folded = [],
        public ?int $around = null,
        public bool $proposed = true,
        public array $words = [],
        public bool $leads = false,
    ) {
    }
}
