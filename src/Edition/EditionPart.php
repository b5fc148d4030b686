<?php

declare(strict_types=1);

namespace Fasti\Edition;

use Symfony\Component\DependencyInjection\Attribute\AutoconfigureTag;

/**
 * A maker of pages or files of an edition. Found by tag. All entries go by once, a source at a time; each part takes from
 * them what it needs, and keeps nothing that grows with their number.
 */
#[AutoconfigureTag]
abstract class EditionPart
{
    public function begin(Folder $folder): void
    {
    }

    public function entry(Folder $folder, EntryPage $page): void
    {
    }

    /** After all entries of a source. */
    public function source(Folder $folder, SourceSheet $sheet): void
    {
    }

    public function end(Folder $folder, Contents $contents): void
    {
    }
}
