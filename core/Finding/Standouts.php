<?php

declare(strict_types=1);

namespace Fasti\Core\Finding;

use Fasti\Core\Catalog\Catalog;

/**
 * What several checks find in a catalog, group by group.
 *
 * @phpstan-type Group array{check: Check, group: string, title: string, findings: non-empty-list<Finding>}
 */
final readonly class Standouts
{
    /** @param iterable<CatalogCheck> $checks */
    public function __construct(private iterable $checks)
    {
    }

    /** @return list<Group> the gravest first; within a check, those with few places */
    public function of(Catalog $catalog): array
    {
        $found = [];
        foreach ($this->checks as $check) {
            $groups = [];
            foreach ($check->of($catalog) as $finding) {
                $groups[$finding->group][] = $finding;
            }
            uasort($groups, static fn (array $a, array $b): int => \count($a) <=> \count($b));
            foreach ($groups as $group => $findings) {
                $found[] = [
                    'check' => $check,
                    'group' => (string) $group,
                    'title' => $check->title((string) $group, $findings[0]->title, \count($findings)),
                    'findings' => $findings,
                ];
            }
        }
        usort(
            $found,
            static fn (array $a, array $b): int => $b['check']->severity()->rank() <=> $a['check']->severity()->rank(),
        );

        return $found;
    }
}
