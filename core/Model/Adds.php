<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

/** Over which dimensions a figure may be added up. */
enum Adds: string
{
    case All = 'all';
    case Some = 'some';
    case None = 'none';

    public function inWords(): string
    {
        return match ($this) {
            self::All => 'over every dimension',
            self::Some => 'over some dimensions',
            self::None => 'over none',
        };
    }
}
