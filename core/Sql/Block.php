<?php

declare(strict_types=1);

namespace Fasti\Core\Sql;

/** What a query gives. */
final class Block
{
    /**
     * @param list<Meaning>       $columns
     * @param array<string, true> $conditions fields that decide which rows there are
     */
    public function __construct(public array $columns, public array $conditions = [], public bool $open = false)
    {
    }
}
