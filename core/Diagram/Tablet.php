<?php

declare(strict_types=1);

namespace Fasti\Core\Diagram;

/** An entry as it enters a diagram. */
final readonly class Tablet
{
    /**
     * @param list<TabletRow> $rows   in the order of the entry
     * @param string          $word   what it is, when not a plain table: "view", "fact"
     * @param string          $link   where a click leads; empty for none
     * @param bool            $folded show its name only, whatever the level of detail
     * @param bool            $marked the entry that the diagram is about
     * @param ?Detail         $detail how much this one shows; null for as much as the diagram
     * @param ?list<string>   $picked names of the rows to show, whatever the level of detail
     * @param bool            $spoken its rows are labelled as people talk, not by identifiers
     * @param int             $leads  joins of the entry that lead to none in the diagram
     * @param bool            $gone   it is not in its source any more
     */
    public function __construct(
        public int $id,
        public string $title,
        public array $rows,
        public string $grain = '',
        public string $word = '',
        public string $link = '',
        public string $tooltip = '',
        public bool $folded = false,
        public bool $marked = false,
        public ?Detail $detail = null,
        public ?array $picked = null,
        public bool $spoken = false,
        public int $leads = 0,
        public bool $gone = false,
    ) {
    }
}
