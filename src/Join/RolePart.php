<?php

declare(strict_types=1);

namespace Fasti\Join;

use Fasti\Register\DossierPart;
use Fasti\Register\EntryView;
use Fasti\Register\Slot;

/**
 * What kind an entry is, and in which subject area it stands.
 *
 * @implements DossierPart<Role>
 */
final readonly class RolePart implements DossierPart
{
    public function __construct(private EntryRoles $roles)
    {
    }

    public function gives(): string
    {
        return Role::class;
    }

    public function of(array $entries): array
    {
        return $this->roles->of(array_map(static fn (EntryView $entry): int => $entry->id, $entries));
    }

    public function partials(): array
    {
        return [Slot::Count->value => 'join/_role.html.twig'];
    }
}
