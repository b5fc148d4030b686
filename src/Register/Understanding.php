<?php

declare(strict_types=1);

namespace Fasti\Register;

use Symfony\Component\DependencyInjection\Attribute\AutoconfigureTag;

/** Something that a room makes of what is typed into the search, besides names and texts. Found by tag. */
#[AutoconfigureTag]
interface Understanding
{
    /** @return list<Understood> */
    public function of(string $query): array;
}
