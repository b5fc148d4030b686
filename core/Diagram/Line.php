<?php

declare(strict_types=1);

namespace Fasti\Core\Diagram;

use Fasti\Core\Join\End;

/** A join as it enters a diagram: from the row of one tablet, which holds the reference, to the row of another. */
final readonly class Line
{
    /**
     * @param string       $kind     declared, documented or proposed
     * @param list<string> $fromMore further rows of a join over several fields
     * @param list<string> $toMore   the rows they refer to
     */
    public function __construct(
        public int $id,
        public int $from,
        public string $fromRow,
        public int $to,
        public string $toRow,
        public End $fromEnd,
        public End $toEnd,
        public string $verb = '',
        public string $kind = 'declared',
        public string $tooltip = '',
        public array $fromMore = [],
        public array $toMore = [],
    ) {
    }
}
