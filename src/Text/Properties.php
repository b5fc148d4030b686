<?php

declare(strict_types=1);

namespace Fasti\Text;

use Symfony\Component\DependencyInjection\Attribute\AutoconfigureTag;

/** The texts that a room lets people write, in the order in which they show; found by tag. */
#[AutoconfigureTag]
interface Properties
{
    /** @return iterable<Property> */
    public function all(): iterable;
}
