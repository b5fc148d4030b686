<?php

declare(strict_types=1);

namespace Fasti\Profile;

/** All entries of a source have been looked at. */
final readonly class SourceProfiled
{
    public function __construct(public int $source)
    {
    }
}
