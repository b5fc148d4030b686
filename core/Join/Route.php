<?php

declare(strict_types=1);

namespace Fasti\Core\Join;

/** One chain of joins. */
final readonly class Route
{
    /** @param non-empty-list<Step> $steps */
    public function __construct(public array $steps, public float $cost)
    {
    }

    public function multiplies(): bool
    {
        return [] !== array_filter($this->steps, static fn (Step $step): bool => $step->multiplies());
    }

    public function drops(): bool
    {
        return [] !== array_filter($this->steps, static fn (Step $step): bool => $step->drops());
    }

    public function certainty(): float
    {
        return array_product(array_map(static fn (Step $step): float => $step->link->certainty, $this->steps));
    }

    /** @return list<int> the nodes it passes, both ends included */
    public function nodes(): array
    {
        return [$this->steps[0]->from(), ...array_map(static fn (Step $step): int => $step->to(), $this->steps)];
    }
}
