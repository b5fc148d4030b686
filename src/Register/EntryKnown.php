<?php

declare(strict_types=1);

namespace Fasti\Register;

/** More, or something else, is known of an entry than before. */
final readonly class EntryKnown
{
    public function __construct(public int $entry)
    {
    }
}
