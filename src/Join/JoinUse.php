<?php

declare(strict_types=1);

namespace Fasti\Join;

use Fasti\Register\JoinView;
use Symfony\Component\DependencyInjection\Attribute\AutoconfigureTag;

/** What another room makes of joins, for the page of one, where it is decided about. Found by tag. */
#[AutoconfigureTag]
interface JoinUse
{
    /** @return list<array{words: string, route: string, parameters: array<string, int|string>}> */
    public function of(JoinView $join): array;
}
