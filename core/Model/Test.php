<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

/** How a condition of a trial holds a value against others. */
enum Test: string
{
    case Is = 'is';
    case IsNot = 'is not';
    case Over = 'is over';
    case Least = 'is at least';
    case Under = 'is under';
    case Most = 'is at most';
    case Between = 'is between';
    case Begins = 'begins with';
    case Contains = 'contains';
    case None = 'is none';
    case Given = 'is given';
    case During = 'is in';
    /** Any of several conditions holds. */
    case Any = 'or';
    /** All of several conditions hold. */
    case All = 'and';
    /** A row has a row of another role, elsewhere, of which conditions hold. */
    case Has = 'has';
    case HasNo = 'has no';

    /** @return array{int, int} how many values it takes, at least and at most */
    public function values(): array
    {
        return match ($this) {
            self::Is, self::IsNot => [1, 1000],
            self::Between => [2, 2],
            self::None, self::Given, self::Any, self::All => [0, 0],
            default => [1, 1],
        };
    }

    /** It is put together of other conditions. */
    public function isOfOthers(): bool
    {
        return self::Any === $this || self::All === $this;
    }

    public function isElsewhere(): bool
    {
        return self::Has === $this || self::HasNo === $this;
    }
}
