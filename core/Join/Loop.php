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

    public function length(): int
    {
        return \count($this->one) + \count($this->other);
    }
}
