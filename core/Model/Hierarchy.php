<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

use Fasti\Core\Catalog\ListOf;
use Fasti\Core\Catalog\WhenSet;

/** Attributes of which each determines the next: station → reach → catchment. Or one role whose rows lead to rows of itself. */
final readonly class Hierarchy
{
    /**
     * @param list<Level>  $levels the finest first
     * @param bool         $ragged not every row has a value at every level
     * @param list<string> $parent fields that hold the key of the row above, where rows lead to rows of the same entry
     */
    public function __construct(
        public string $name,
        #[ListOf(Level::class)]
        public array $levels,
        #[WhenSet]
        public bool $ragged = false,
        #[ListOf('string'), WhenSet]
        public array $parent = [],
    ) {
        if ('' === trim($name)) {
            throw new \InvalidArgumentException('A hierarchy needs a name.');
        }
    }
}
