<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

use Fasti\Core\Join\End;
use Fasti\Core\Wording\Amount;

/** How many there may be at one end of a join. */
final readonly class Count
{
    /** The words of an outline for how many, as a regular expression. */
    public const WORDS = 'exactly one|at most one|one or more|any number of|exactly \d+|at most \d+|\d[\d,]* or more|\d[\d,]* to \d[\d,]*';

    public function __construct(public int $least, public ?int $most)
    {
    }

    public function many(): bool
    {
        return null === $this->most || $this->most > 1;
    }

    public function end(): End
    {
        return End::of(0 === $this->least, $this->many());
    }

    /** What tables hold by themselves; anything else is said and not held. */
    public function held(): bool
    {
        return $this->many() ? 0 === $this->least && null === $this->most : true;
    }

    public function inWords(): string
    {
        return match (true) {
            1 === $this->least && 1 === $this->most => 'exactly one',
            0 === $this->least && 1 === $this->most => 'at most one',
            0 === $this->least && null === $this->most => 'any number of',
            1 === $this->least && null === $this->most => 'one or more',
            null === $this->most => Amount::count($this->least).' or more',
            $this->least === $this->most => 'exactly '.Amount::count($this->least),
            0 === $this->least => 'at most '.Amount::count($this->most),
            default => Amount::count($this->least).' to '.Amount::count($this->most),
        };
    }
}
