<?php

declare(strict_types=1);

namespace Fasti\Diagram;

use Fasti\Register\DossierPart;
use Fasti\Register\EntryView;
use Fasti\Register\Slot;

/**
 * The kept diagrams that an entry stands in.
 *
 * @implements DossierPart<StandsIn>
 */
final readonly class DiagramPart implements DossierPart
{
    public function __construct(private Pieces $pieces, private Diagrams $diagrams)
    {
    }

    public function gives(): string
    {
        return StandsIn::class;
    }

    public function of(array $entries): array
    {
        $names = [];
        $found = $this->pieces->diagramsOf(array_map(static fn (EntryView $entry): int => $entry->id, $entries));
        foreach ([] === $found ? [] : $this->diagrams->all() as $diagram) {
            $names[$diagram->id()] = $diagram->name;
        }

        return array_filter(array_map(
            static fn (array $diagrams): StandsIn => new StandsIn(array_intersect_key($names, array_flip($diagrams))),
            $found,
        ), static fn (StandsIn $in): bool => [] !== $in->diagrams);
    }

    public function partials(): array
    {
        return [Slot::Count->value => 'diagram/_stands_in.html.twig'];
    }
}
