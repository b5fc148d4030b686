<?php

declare(strict_types=1);

namespace Fasti\Core\Catalog;

/** What kind of values a type holds, whatever an engine calls it. */
enum TypeFamily: string
{
    case Whole = 'whole';
    case Number = 'number';
    case Text = 'text';
    case Time = 'time';
    case Flag = 'flag';
    case Bytes = 'bytes';
    case Document = 'document';
    case Spatial = 'spatial';
    case Other = 'other';

    public function isNumeric(): bool
    {
        return self::Whole === $this || self::Number === $this;
    }
}
