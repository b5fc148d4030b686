<?php

declare(strict_types=1);

namespace Fasti\Design;

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
        foreach ($this->designs->takenFromEntries() as $id => $kept) {
            foreach ($kept['brief']->things as [, $from]) {
                foreach ('' === $from ? [] : ($named[mb_strtolower($from)] ?? []) as $entry) {
                    $found[$entry][$id] = $kept['name'];
                }
            }
        }

        return array_map(static fn (array $designs): DesignsIn => new DesignsIn($designs), $found);
    }

    public function partials(): array
    {
        return [Slot::Count->value => 'design/_stands_in.html.twig'];
    }
}
