<?php

declare(strict_types=1);

namespace Fasti\Draft;

use Fasti\Register\DossierPart;
use Fasti\Register\Slot;

/**
 * Drafts in the margin of an entry. They are read, or made, only when a page asks for them: an edition never does.
 *
 * @implements DossierPart<EntryDrafts>
 */
final readonly class DraftPart implements DossierPart
{
    public function __construct(private Drafting $drafting)
    {
    }

    public function gives(): string
    {
        return EntryDrafts::class;
    }

    public function of(array $entries): array
    {
        $of = [];
        foreach ($entries as $entry) {
            $of[$entry->id] = new EntryDrafts(fn (): array => null !== $entry->goneAt ? [] : $this->drafting->of([$entry->id])[$entry->id] ?? []);
        }

        return $of;
    }

    public function partials(): array
    {
        return [Slot::Head->value => 'draft/_entry.html.twig', Slot::Join->value => 'draft/_join.html.twig',
            Slot::FieldMargin->value => 'draft/_field.html.twig'];
    }
}
