<?php

declare(strict_types=1);

namespace Fasti\Join\Property;

/** The rows at the end that holds the reference, where a steward says it. */
final class JoinFromEnd extends StatedEnd
{
    public const NAME = 'fromEnd';

    public function name(): string
    {
        return self::NAME;
    }

    public function label(): string
    {
        return 'rows that refer';
    }
}
