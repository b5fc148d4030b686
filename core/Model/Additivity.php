<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

/** Over which dimensions a figure may be added up. */
enum Additivity: string
{
    case Additive = 'all';
    case SemiAdditive = 'some';
    case NonAdditive = 'none';

    public function inWords(): string
    {
        return match ($this) {
            self::Additive => 'over every dimension',
            self::SemiAdditive => 'over some dimensions',
            self::NonAdditive => 'over none',
        };
    }
}
