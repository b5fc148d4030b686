<?php

declare(strict_types=1);

namespace Fasti\Diagram;

use Fasti\Register\EntryFacet;

/** The register by diagram: what stands in one. */
final readonly class DiagramFacet implements EntryFacet
{
    public function __construct(private Diagrams $diagrams, private Pieces $pieces)
    {
    }

    public function choices(): array
    {
        $choices = [];
        foreach ($this->diagrams->all() as $diagram) {
            $choices['diagram-'.$diagram->id()] = ['Diagram: '.$diagram->name, $this->pieces->standsIn($diagram->id())];
        }

        return $choices;
    }
}
