<?php

declare(strict_types=1);

namespace Fasti\Finding;

use Symfony\Component\DependencyInjection\Attribute\AutoconfigureTag;

/** What one key does about the findings of a check: it writes a text, which can be taken back as any other. Found by tag. */
#[AutoconfigureTag]
interface Mending
{
    /** Name of the check. */
    public function check(): string;

    /** What the key does: "say that it is personal". */
    public function words(): string;

    /** Null where nothing is known to write. */
    public function text(FoundAt $place): ?MendingText;
}
