<?php

declare(strict_types=1);

namespace Fasti\Finding;

use Fasti\Core\Finding\CatalogCheck;
use Fasti\Core\Finding\Check;
use Symfony\Component\DependencyInjection\Attribute\AutowireIterator;

/** All checks, by what they look at. */
final readonly class Checks
{
    /**
     * @param iterable<CatalogCheck>  $ofCatalogs
     * @param iterable<DossierCheck>  $ofDossiers
     * @param iterable<RegisterCheck> $ofRegister
     * @param iterable<Check>         $others that are run by the room which has them
     */
    public function __construct(
        #[AutowireIterator('fasti.catalog_check')]
        public iterable $ofCatalogs,
        #[AutowireIterator(DossierCheck::class)]
        public iterable $ofDossiers,
        #[AutowireIterator(RegisterCheck::class)]
        public iterable $ofRegister,
        #[AutowireIterator('fasti.check')]
        private iterable $others,
    ) {
    }

    public function of(string $name): ?Check
    {
        foreach ([$this->ofCatalogs, $this->ofDossiers, $this->ofRegister, $this->others] as $checks) {
            foreach ($checks as $check) {
                if ($check->name() === $name) {
                    return $check;
                }
            }
        }

        return null;
    }

    /** @return list<Check> all of them, by name */
    public function all(): array
    {
        $all = [];
        foreach ([$this->ofCatalogs, $this->ofDossiers, $this->ofRegister, $this->others] as $checks) {
            foreach ($checks as $check) {
                $all[$check->name()] = $check;
            }
        }
        ksort($all);

        return array_values($all);
    }
}
