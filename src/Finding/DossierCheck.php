<?php

declare(strict_types=1);

namespace Fasti\Finding;

use Fasti\Core\Finding\Check;
use Fasti\Register\Dossier;
use Symfony\Component\DependencyInjection\Attribute\AutoconfigureTag;

/** A check over everything that is known of one entry. Found by tag; run when the data was looked at and when a text is written that it is about. */
#[AutoconfigureTag]
interface DossierCheck extends Check
{
    /** @return list<string> names of the properties that it looks at; see Text\Property */
    public function about(): array;

    /** @return iterable<Noticed> */
    public function of(Dossier $dossier): iterable;
}
