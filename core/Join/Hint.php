<?php

declare(strict_types=1);

namespace Fasti\Core\Join;

use Fasti\Core\Catalog\Place;

/** A place where two tables are joined by these fields. */
final readonly class Hint
{
    /**
     * @param list<string> $columns
     * @param list<string> $toColumns
     * @param string       $feature   Feature::VIEW, ROUTINE or QUERY
     * @param string       $where     the view, the routine, the query
     */
    public function __construct(
        public Place $from,
        public array $columns,
        public Place $to,
        public array $toColumns,
        public string $feature,
        public string $where,
    ) {
    }
}
