<?php

declare(strict_types=1);

namespace Fasti\Register;

use Symfony\Component\DependencyInjection\Attribute\AutoconfigureTag;

/** Something that the register can be narrowed to, which another room knows. Found by tag. */
#[AutoconfigureTag]
interface EntryFilter
{
    /** As addresses have it. */
    public function key(): string;

    public function words(): string;

    /** A condition on the column e.id, over the room's own tables. */
    public function condition(): string;
}
