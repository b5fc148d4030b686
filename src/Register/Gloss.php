<?php

declare(strict_types=1);

namespace Fasti\Register;

use Symfony\Component\DependencyInjection\Attribute\AutoconfigureTag;

/** What a room adds to a text as one reads it, such as links to what its words mean. Found by tag. */
#[AutoconfigureTag]
interface Gloss
{
    /** @param int $except a thing of the room that the text itself belongs to */
    public function html(string $html, Links $links, int $except): string;
}
