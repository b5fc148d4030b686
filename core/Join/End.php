<?php

declare(strict_types=1);

namespace Fasti\Core\Join;

/** How many rows may stand at one end of a join. */
enum End: string
{
    case One = 'one';
    case NoneOrOne = 'none-or-one';
    case OneOrMore = 'one-or-more';
    case NoneOrMore = 'none-or-more';

    public static function of(bool $optional, bool $many): self
    {
        return match (true) {
            $many => $optional ? self::NoneOrMore : self::OneOrMore,
            $optional => self::NoneOrOne,
            default => self::One,
        };
    }

    public function many(): bool
    {
        return self::OneOrMore === $this || self::NoneOrMore === $this;
    }

    public function inWords(): string
    {
        return match ($this) {
            self::One => 'exactly one',
            self::NoneOrOne => 'at most one',
            self::OneOrMore => 'one or more',
            self::NoneOrMore => 'any number of',
        };
    }
}
