<?php

declare(strict_types=1);

namespace Fasti\Core\Join;

/** One thing that speaks for a join, or against it where its weight is below 0. */
final readonly class Evidence
{
    /**
     * @param float  $weight what it adds to the logarithm of the odds
     * @param string $none   of what was found: a value that stands for none; '' where there is none
     */
    public function __construct(
        public string $words,
        public float $weight,
        public EvidenceKind $kind = EvidenceKind::Structure,
        public string $none = '',
    ) {
    }

    /** The same by what has been counted since: one page has one count. */
    public function by(JoinFigures $figures): self
    {
        return EvidenceKind::Found !== $this->kind ? $this
            : new self(DataEvidence::counted($figures, $this->none)->inWords(), $this->weight, $this->kind, $this->none);
    }
}
