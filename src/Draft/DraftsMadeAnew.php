<?php

declare(strict_types=1);

namespace Fasti\Draft;

/** The drafts of a source have been made anew, as a whole. */
final readonly class DraftsMadeAnew
{
    public function __construct(public int $source)
    {
    }
}
