<?php

declare(strict_types=1);

namespace Fasti\Core\Catalog;

/** What a list of a catalog object holds: reflection cannot see it, and the open form has to know. */
#[\Attribute(\Attribute::TARGET_PROPERTY | \Attribute::TARGET_PARAMETER)]
final readonly class ListOf
{
    /** @param class-string|'string'|'int' $what a class, or 'int' for a map of names to numbers */
    public function __construct(public string $what)
    {
    }
}
