<?php

declare(strict_types=1);

namespace Fasti\Finding;

use Fasti\Register\DossierPart;
use Fasti\Register\EntryView;
use Fasti\Register\Slot;

/**
 * What checks say of an entry, in its margin.
 *
 * @implements DossierPart<EntryFindings>
 */
final readonly class FindingPart implements DossierPart
{
    public function __construct(private Findings $findings)
    {
    }

    public function gives(): string
    {
        return EntryFindings::class;
    }

    public function of(array $entries): array
    {
        $found = $this->findings->asking(array_map(static fn (EntryView $entry): int => $entry->id, $entries));

        return array_map(static fn (array $places): EntryFindings => new EntryFindings($places), $found);
    }

    public function partials(): array
    {
        return [Slot::Head->value => 'finding/_entry.html.twig', Slot::FieldMargin->value => 'finding/_field.html.twig'];
    }
}
