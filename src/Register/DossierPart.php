<?php

declare(strict_types=1);

namespace Fasti\Register;

use Symfony\Component\DependencyInjection\Attribute\AutoconfigureTag;

/**
 * What one room knows of entries, for the page of an entry, for editions, exports and drafts alike. Found by tag.
 *
 * @template-covariant T of object
 */
#[AutoconfigureTag]
interface DossierPart
{
    /** @return class-string<T> what it gives of an entry */
    public function gives(): string;

    /**
     * Reads its own tables only, for any number of entries at once.
     *
     * @param list<EntryView> $entries
     *
     * @return array<int, T> by entry; an entry of which nothing is known is left out
     */
    public function of(array $entries): array;

    /**
     * Where its partials stand on the page of an entry. Each is given the dossier, and `field` where it is about one;
     * live it is there also for an entry of which the room knows nothing.
     *
     * @return array<value-of<Slot>, string> slot → template
     */
    public function partials(): array;
}
