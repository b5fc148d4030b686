<?php

declare(strict_types=1);

namespace Fasti\Core\Join;

/** One thing that speaks for a join, or against it where its weight is below 0. */
final readonly class Evidence
{
    /** @param float $weight what it adds to the logarithm of the odds */
    public function __construct(public string $words, public float $weight, public EvidenceKind $kind = EvidenceKind::Structure)
    {
    }
}
