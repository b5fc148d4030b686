<?php

declare(strict_types=1);

namespace Fasti\Join\Property;

/** The rows at the end that is referred to, where a steward says it. */
final class JoinToEnd extends StatedEnd
{
    public const NAME = 'toEnd';

    public function name(): string
    {
        return self::NAME;
    }

    public function label(): string
    {
        return 'rows referred to';
    }
}
