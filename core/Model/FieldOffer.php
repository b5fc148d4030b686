<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

/** A field that somebody may take into a model: as a measure or as an attribute, with what speaks for it. */
final readonly class FieldOffer
{
    /** @param Measure|Attribute $as how it would stand in the model */
    public function __construct(public string $role, public string $field, public Measure|Attribute $as, public string $reason)
    {
    }
}
