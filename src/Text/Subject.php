<?php

declare(strict_types=1);

namespace Fasti\Text;

/** One thing that is written about, and the thing on whose page its history stands: a field's stands with its entry. */
final readonly class Subject
{
    public function __construct(public string $topic, public int $id, public string $page, public int $pageId)
    {
    }
}
