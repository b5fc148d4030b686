<?php

declare(strict_types=1);

namespace Fasti\Edition;

/** What an edition says of itself. */
final readonly class About
{
    public function __construct(public int $number, public string $title, public string $note, public string $by, public string $date)
    {
    }
}
