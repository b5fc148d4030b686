<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

/** How what belongs to several counts among them. */
enum Shared: string
{
    case Equally = 'equal';
    case ByWeight = 'weight';
    case InEach = 'each';

    public function inWords(): string
    {
        return match ($this) {
            self::Equally => 'shared in equal parts',
            self::ByWeight => 'shared by a weight',
            self::InEach => 'counted in each',
        };
    }
}
