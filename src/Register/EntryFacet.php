<?php

declare(strict_types=1);

namespace Fasti\Register;

use Symfony\Component\DependencyInjection\Attribute\AutoconfigureTag;

/** Several things that the register can be narrowed to, such as one for each subject area. Found by tag. */
#[AutoconfigureTag]
interface EntryFacet
{
    /** @return array<string, array{string, string}> as addresses have it → words, and a condition on the column e.id over the room's own tables */
    public function choices(): array;
}
