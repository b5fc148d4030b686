<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

use Fasti\Core\Catalog\ListOf;
use Fasti\Core\Catalog\WhenSet;
use Fasti\Core\Catalog\With;

/** A question put to a model. Names are those of the model. */
final readonly class Trial
{
    use With;

    /**
     * @param list<string>    $measures
     * @param list<string>    $by       attributes
     * @param list<Condition> $where
     * @param list<Sorting>   $order
     * @param ?int            $limit    rows that are shown; null for as many as may be
     */
    public function __construct(
        #[ListOf('string')]
        public array $measures,
        #[ListOf('string'), WhenSet]
        public array $by = [],
        #[ListOf(Condition::class), WhenSet]
        public array $where = [],
        #[ListOf(Sorting::class), WhenSet]
        public array $order = [],
        #[WhenSet]
        public ?int $limit = null,
    ) {
    }
}
