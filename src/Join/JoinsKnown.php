<?php

declare(strict_types=1);

namespace Fasti\Join;

/** What is known of the joins of one entry. */
final readonly class JoinsKnown
{
    /** @param array<int, Known> $known by join */
    public function __construct(private array $known)
    {
    }

    public function of(int $join): ?Known
    {
        return $this->known[$join] ?? null;
    }
}
