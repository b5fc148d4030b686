<?php

declare(strict_types=1);

namespace Fasti\Finding;

use Fasti\Core\Finding\Check;
use Symfony\Component\DependencyInjection\Attribute\AutoconfigureTag;

/** A check over the whole register. Found by tag; run whenever the register follows a source or a text is written that it is about. */
#[AutoconfigureTag]
interface RegisterCheck extends Check
{
    /** @return list<string> names of the properties that it looks at; see Text\Property */
    public function about(): array;

    /** @return iterable<Noticed> */
    public function of(): iterable;
}
