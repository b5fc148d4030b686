<?php

declare(strict_types=1);

namespace Fasti\Lineage;

use Symfony\Component\DependencyInjection\Attribute\AutoconfigureTag;

/** Tells whether two fields hold the same data, as far as is known. Found by tag. */
#[AutoconfigureTag]
interface SameData
{
    public function agree(int $field, int $other): bool;
}
