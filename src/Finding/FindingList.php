<?php

declare(strict_types=1);

namespace Fasti\Finding;

use Fasti\Register\RegisterList;

final readonly class FindingList implements RegisterList
{
    public function __construct(private Findings $findings)
    {
    }

    public function name(): string
    {
        return 'Findings';
    }

    public function route(): string
    {
        return 'findings';
    }

    public function count(): int
    {
        return $this->findings->count();
    }

    public function place(): int
    {
        return 70;
    }
}
