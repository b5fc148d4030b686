<?php

declare(strict_types=1);

namespace Fasti\Edition;

/** What an edition holds, when all of it has gone by. */
final readonly class Contents
{
    /** @param list<SourceSheet> $sheets without their lists of entries */
    public function __construct(public array $sheets, public int $entries, public int $fields, public int $described)
    {
    }
}
