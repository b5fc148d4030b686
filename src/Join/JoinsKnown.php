<?php

declare(strict_types=1);

namespace Fasti\Join;

/** What is known of the joins of one entry. */
final readonly class JoinsKnown
{
    /**
     * @param array<int, Known> $known by join
     * @param list<Across>      $across what it goes with, over tables that link
     * @param list<string>      $own    of a link: fields that belong to the pair, and to neither end
     */
    public function __construct(private array $known, public array $across = [], public array $own = [])
    {
    }

    public function of(int $join): ?Known
    {
        return $this->known[$join] ?? null;
    }
}
