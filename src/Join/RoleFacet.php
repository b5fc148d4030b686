<?php

declare(strict_types=1);

namespace Fasti\Join;

use Fasti\Core\Join\EntryKind;
use Fasti\Register\EntryFacet;

/** The register by kind and by subject area. */
final readonly class RoleFacet implements EntryFacet
{
    public function __construct(private EntryRoles $roles)
    {
    }

    public function choices(): array
    {
        $choices = [];
        $kinds = $this->roles->kinds();
        foreach (EntryKind::cases() as $kind) {
            if (isset($kinds[$kind->value])) {
                $choices['kind-'.strtr($kind->value, ' ', '-')] = ['Kind: '.$kind->value, $this->roles->ofKind($kind->value)];
            }
        }
        foreach (array_keys($this->roles->areas()) as $area) {
            $choices['area-'.$area] = ['Area: '.$area, $this->roles->inArea((string) $area)];
        }

        return $choices;
    }
}
