<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

/** A line of a query with what it does, in words. */
final readonly class SqlLine
{
    public function __construct(public string $text, public string $does = '')
    {
    }
}
