<?php

declare(strict_types=1);

namespace Fasti\Profile;

use Fasti\Core\Catalog\FieldPlace;
use Fasti\Core\Privacy\Privacy;
use Fasti\Register\DossierPart;
use Fasti\Register\EntryView;
use Fasti\Register\Slot;

/**
 * What of an entry is personal or secret, with or without a profile.
 *
 * @implements DossierPart<EntryPrivacy>
 */
final readonly class PrivacyPart implements DossierPart
{
    public function __construct(private Profiles $profiles)
    {
    }

    public function gives(): string
    {
        return EntryPrivacy::class;
    }

    public function of(array $entries): array
    {
        $profiles = $this->profiles->all(array_map(static fn (EntryView $entry): int => $entry->id, $entries));
        $found = [];
        foreach ($entries as $entry) {
            $reasons = [];
            foreach ($entry->fields as $field) {
                $seen = ($profiles[$entry->id] ?? null)?->field($field->name)?->personal;
                $reasons[$field->name] = Privacy::known($entry->name, $field->name, $seen, $field->personal);
            }
            $reasons = array_filter($reasons, static fn (string $reason): bool => '' !== $reason);
            if ([] !== $reasons) {
                $found[$entry->id] = new EntryPrivacy($reasons);
            }
        }

        return $found;
    }

    /**
     * @param array<EntryView> $entries
     *
     * @return array<string, string> FieldPlace::key() → why its values are kept from people: personal, or secret
     */
    public function places(array $entries): array
    {
        $places = [];
        $reasons = $this->of(array_values($entries));
        foreach ($entries as $entry) {
            foreach ($reasons[$entry->id]->reasons ?? [] as $field => $why) {
                $places[(new FieldPlace($entry->schema, $entry->name, (string) $field))->key()] = $why;
            }
        }

        return $places;
    }

    public function partials(): array
    {
        return [Slot::FieldTags->value => 'profile/_personal.html.twig', Slot::FieldFacts->value => 'profile/_privacy.html.twig'];
    }
}
