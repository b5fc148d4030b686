<?php

declare(strict_types=1);

namespace Fasti\Core\Lineage;

/** Rows on their way through the steps of a query: which step they come out of, and what tells them apart. */
final class Flow
{
    /**
     * @param string                    $label what they are called in sentences
     * @param array<string, string>     $places by alias the key of the table that stands behind it, '' where that is no table
     * @param list<array<string, true>> $keys  sets of `alias.field`, each of which tells the rows apart
     */
    public function __construct(public int $step, public string $label, public array $places = [], public array $keys = [])
    {
    }
}
