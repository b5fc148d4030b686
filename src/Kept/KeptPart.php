<?php

declare(strict_types=1);

namespace Fasti\Kept;

use Fasti\Register\DossierPart;
use Fasti\Register\Slot;

/**
 * In which things that people keep and share an entry stands.
 *
 * @implements DossierPart<KeptIn>
 */
final readonly class KeptPart implements DossierPart
{
    public function __construct(private KeptStores $stores)
    {
    }

    public function gives(): string
    {
        return KeptIn::class;
    }

    public function of(array $entries): array
    {
        $of = [];
        foreach ($this->stores->inWhichEntriesStand() as $kind => $store) {
            foreach ($store->standingIn($entries) as $entry => $names) {
                $of[$entry][$kind] = $names;
            }
        }

        return array_map(static fn (array $kinds): KeptIn => new KeptIn($kinds), $of);
    }

    public function partials(): array
    {
        return [Slot::Count->value => 'kept/_stands_in.html.twig'];
    }
}
