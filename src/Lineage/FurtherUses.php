<?php

declare(strict_types=1);

namespace Fasti\Lineage;

use Symfony\Component\DependencyInjection\Attribute\AutoconfigureTag;

/**
 * What a later room makes from fields: the figures of models. The room that keeps such things brings it; found by tag.
 */
#[AutoconfigureTag]
interface FurtherUses
{
    /**
     * @param list<int> $fields
     *
     * @return array<int, list<Made>> by field: what is made, of what, and where it is shown
     */
    public function of(array $fields): array;
}
