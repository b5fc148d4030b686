<?php

declare(strict_types=1);

namespace Fasti\Kept;

use Fasti\Account\Account;
use Symfony\Bundle\SecurityBundle\Security;
use Symfony\Component\DependencyInjection\Attribute\AutowireIterator;
use Twig\Attribute\AsTwigFunction;

/** All kinds of things that people keep. */
final readonly class KeptStores
{
    /** @param iterable<KeptStore<Kept>> $stores */
    public function __construct(#[AutowireIterator(KeptStore::class)] private iterable $stores, private Security $security)
    {
    }

    /** @return array<string, KeptStore<Kept>> by kind */
    public function all(): array
    {
        $all = [];
        foreach ($this->stores as $store) {
            $all[$store->kind()] = $store;
        }

        return $all;
    }

    /**
     * @return KeptStore<Kept>
     *
     * @throws NotThere
     */
    public function of(string $kind): KeptStore
    {
        return $this->all()[$kind] ?? throw new NotThere('There is nothing of this kind.');
    }

    /** @return list<Kept> what whoever looks threw away */
    #[AsTwigFunction('thrown_away')]
    public function thrown(string $kind): array
    {
        $user = $this->security->getUser();

        return $user instanceof Account ? $this->of($kind)->thrown($user) : [];
    }

    /** @return array<string, KeptStore<Kept>> those in which entries stand */
    #[AsTwigFunction('kinds_of_kept')]
    public function inWhichEntriesStand(): array
    {
        return array_filter($this->all(), static fn (KeptStore $store): bool => null !== $store->beginning());
    }
}
