<?php

declare(strict_types=1);

namespace Fasti\Core\Diagram;

/** A field on a tablet: `name` is what joins point to, `label` what is shown; `leads` where a join goes from it, be it drawn or not. */
final readonly class TabletRow
{
    /**
     * @param string $type   what stands beside it where all fields are shown: type, and whether it may be empty
     * @param bool   $worked nobody wrote it: it follows from something else
     */
    public function __construct(
        public string $name,
        public string $label,
        public bool $key = false,
        public string $tooltip = '',
        public string $type = '',
        public bool $leads = false,
        public bool $worked = false,
    ) {
    }
}
