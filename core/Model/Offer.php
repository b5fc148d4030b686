<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

/** What could be asked instead of a trial that cannot be answered, or what would make it answerable. */
final readonly class Offer
{
    /** @param ?Trial $trial null where something about the model has to be said first */
    public function __construct(public string $words, public ?Trial $trial = null)
    {
    }
}
