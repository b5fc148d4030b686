<?php

declare(strict_types=1);

namespace Fasti\Register;

use Symfony\Component\DependencyInjection\Attribute\AutowireIterator;
use Twig\Attribute\AsTwigFunction;

final readonly class RegisterLists
{
    /** @param iterable<RegisterList> $lists */
    public function __construct(#[AutowireIterator(RegisterList::class)] private iterable $lists)
    {
    }

    /** @return list<RegisterList> */
    #[AsTwigFunction('register_lists')]
    public function all(): array
    {
        $lists = [...$this->lists];
        usort($lists, static fn (RegisterList $a, RegisterList $b): int => $a->place() <=> $b->place());

        return $lists;
    }
}
