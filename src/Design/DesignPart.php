<?php

declare(strict_types=1);

namespace Fasti\Design;

use Fasti\Core\Design\Thing;
use Fasti\Register\DossierPart;
use Fasti\Register\Slot;

/**
 * The shared designs into which an entry was taken, or that speak of it.
 *
 * @implements DossierPart<DesignsIn>
 */
final readonly class DesignPart implements DossierPart
{
    public function __construct(private Designs $designs)
    {
    }

    public function gives(): string
    {
        return DesignsIn::class;
    }

    public function of(array $entries): array
    {
        $named = [];
        foreach ($entries as $entry) {
            $named[mb_strtolower($entry->sourceName.'.'.$entry->name)][] = $entry->id;
        }
        $found = [];
        foreach ($this->designs->shared() as $kept) {
            // The outline is asked before it is read.
            foreach (str_contains($kept->readable, 'taken from ') ? $kept->design()->things : [] as $thing) {
                foreach ($this->taken($thing, $named) as $entry) {
                    $found[$entry][$kept->id()] = $kept->name;
                }
            }
        }

        return array_map(static fn (array $designs): DesignsIn => new DesignsIn($designs), $found);
    }

    /**
     * @param array<string, list<int>> $named
     *
     * @return list<int>
     */
    private function taken(Thing $thing, array $named): array
    {
        return '' === $thing->from ? [] : ($named[mb_strtolower($thing->from)] ?? []);
    }

    public function partials(): array
    {
        return [Slot::Count->value => 'design/_stands_in.html.twig'];
    }
}
