<?php

declare(strict_types=1);

namespace Fasti\Core\Files;

/** An object with so many different names in it that they are keys rather than members. */
final class TooManyNames extends \RuntimeException
{
    public function __construct(public readonly string $path, public readonly int $names)
    {
        parent::__construct('These are the keys of a map.');
    }
}
