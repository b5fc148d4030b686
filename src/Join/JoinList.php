<?php

declare(strict_types=1);

namespace Fasti\Join;

use Fasti\Register\JoinCounts;
use Fasti\Register\RegisterList;

final readonly class JoinList implements RegisterList
{
    public function __construct(private JoinCounts $joins)
    {
    }

    public function name(): string
    {
        return 'Joins';
    }

    public function route(): string
    {
        return 'joins';
    }

    public function count(): int
    {
        $tally = $this->joins->tally();

        return $tally->declared + $tally->documented;
    }

    public function place(): int
    {
        return 20;
    }
}
