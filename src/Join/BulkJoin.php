<?php

declare(strict_types=1);

namespace Fasti\Join;

use Fasti\Register\JoinView;

/** A proposal among many: what speaks for it, whether it is ticked, and what counts most. */
final readonly class BulkJoin
{
    /** @param string $group see Bulk::GROUPS */
    public function __construct(
        public JoinView $join,
        public string $group,
        public bool $ticked,
        public string $words,
    ) {
    }
}
