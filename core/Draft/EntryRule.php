<?php

declare(strict_types=1);

namespace Fasti\Core\Draft;

/** One way to a draft of a text about an entry, or about a join that leads from it. */
interface EntryRule
{
    public function name(): string;

    /** @return iterable<Draft> */
    public function of(Entry $entry): iterable;
}
