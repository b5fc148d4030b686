<?php

declare(strict_types=1);

namespace Fasti\Core\Files;

/** Objects turned out to be maps, whose names are keys rather than members: what was read so far is to be read again. */
final class FoundMaps extends \RuntimeException
{
    /** @param array<string, string> $why path → what tells it, in words */
    public function __construct(public readonly array $why)
    {
        parent::__construct('These are the keys of a map.');
    }
}
