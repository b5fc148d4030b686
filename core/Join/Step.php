<?php

declare(strict_types=1);

namespace Fasti\Core\Join;

/** One join of a route, in the direction in which it is gone. */
final readonly class Step
{
    /** @param bool $forth from the end that holds the reference to the end it points to */
    public function __construct(public Link $link, public bool $forth)
    {
    }

    public function from(): int
    {
        return $this->forth ? $this->link->from : $this->link->to;
    }

    public function to(): int
    {
        return $this->forth ? $this->link->to : $this->link->from;
    }

    /** The rows at the end it leads to. */
    public function end(): End
    {
        return $this->forth ? $this->link->cardinality->to : $this->link->cardinality->from;
    }

    public function multiplies(): bool
    {
        return $this->end()->many();
    }

    /** Rows that find nothing there drop out of the result. */
    public function drops(): bool
    {
        return \in_array($this->end(), [End::NoneOrOne, End::NoneOrMore], true) || $this->forth && (null !== $this->link->where || $this->link->orphans);
    }
}
