<?php

declare(strict_types=1);

namespace Fasti\Register;

/** The register has been brought in line with a source, and something differed. */
final readonly class RegisterFollowed
{
    public function __construct(public int $source)
    {
    }
}
