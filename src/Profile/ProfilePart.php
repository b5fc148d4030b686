<?php

declare(strict_types=1);

namespace Fasti\Profile;

use Fasti\Register\DossierPart;
use Fasti\Register\EntryView;
use Fasti\Register\Slot;

/**
 * What the data says of an entry.
 *
 * @implements DossierPart<Profiled>
 */
final readonly class ProfilePart implements DossierPart
{
    public function __construct(private Profiles $profiles)
    {
    }

    public function gives(): string
    {
        return Profiled::class;
    }

    public function of(array $entries): array
    {
        return $this->profiles->all(array_map(static fn (EntryView $entry): int => $entry->id, $entries));
    }

    public function partials(): array
    {
        return [
            Slot::Apart->value => 'profile/_apart.html.twig',
            Slot::Count->value => 'profile/_count.html.twig',
            Slot::FieldHolds->value => 'profile/_full.html.twig',
            Slot::FieldTags->value => 'profile/_likely.html.twig',
            Slot::FieldMore->value => 'profile/_field.html.twig',
        ];
    }
}
