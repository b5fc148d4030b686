<?php

declare(strict_types=1);

namespace Fasti\Core\Draft;

/** A short form that names use, and what it stands for. */
final readonly class Abbreviation
{
    /** @param string $because what it was learned from, in a few words; '' where a person says it */
    public function __construct(public string $short, public string $long, public float $confidence = 1.0, public string $because = '', public int $uses = 0)
    {
    }
}
