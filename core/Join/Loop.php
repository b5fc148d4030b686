<?php

declare(strict_types=1);

namespace Fasti\Core\Join;

/** Two ways from a row to the row it belongs to, with nothing in common but their ends. */
final readonly class Loop
{
    /**
     * @param list<Step> $one   empty in a loop of one join, which leads back to its own table
     * @param list<Step> $other
     */
    public function __construct(public int $from, public int $to, public array $one, public array $other)
    {
    }

    /** @return list<int> every entry that it goes by, each once */
    public function nodes(): array
    {
        $nodes = [$this->from, $this->to];
        foreach ([...$this->one, ...$this->other] as $step) {
            array_push($nodes, $step->from(), $step->to());
        }

        return array_values(array_unique($nodes));
    }

    public function length(): int
    {
        return \count($this->one) + \count($this->other);
    }
}
