<?php

declare(strict_types=1);

namespace Fasti\Finding;

use Fasti\Core\Finding\Check;
use Fasti\Register\Dossier;
use Symfony\Component\DependencyInjection\Attribute\AutoconfigureTag;

/** A check over everything that is known of one entry. Found by tag. */
#[AutoconfigureTag]
interface DossierCheck extends Check
{
    /** @return iterable<Noticed> */
    public function of(Dossier $dossier): iterable;
}
