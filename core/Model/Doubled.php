<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

/** Keys of an entry that stand more than once, so that a trial is not answered. */
final readonly class Doubled
{
    /** @param list<array<string, ?string>> $rows the first of them */
    public function __construct(public string $words, public Way $way, public array $rows, public string $sql)
    {
    }
}
