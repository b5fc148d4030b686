<?php

declare(strict_types=1);

namespace Fasti\Lineage;

use Fasti\Register\RegisterList;

final readonly class QueryList implements RegisterList
{
    public function __construct(private KeptQueries $queries)
    {
    }

    public function name(): string
    {
        return 'Queries';
    }

    public function route(): string
    {
        return 'queries';
    }

    public function count(): int
    {
        return $this->queries->count();
    }

    public function place(): int
    {
        return 60;
    }
}
