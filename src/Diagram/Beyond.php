<?php

declare(strict_types=1);

namespace Fasti\Diagram;

use Fasti\Register\EntryView;

/** What is not in a picture but joins two of its tablets. */
final class Beyond
{
    /**
     * @param list<EntryView> $entries those in the picture
     *
     * @return list<BeyondEntry> by how many of the tablets each joins
     */
    public static function of(array $entries): array
    {
        $titles = $found = [];
        foreach ($entries as $entry) {
            $titles[$entry->id] = $entry->title;
        }
        foreach ($entries as $entry) {
            foreach ($entry->countedJoins() as $join) {
                $other = $join->otherId();
                if (!isset($titles[$other])) {
                    $found[$other] ??= ['id' => $other, 'title' => $join->out ? $join->toTitle : $join->fromTitle, 'joins' => []];
                    $found[$other]['joins'][$entry->id] = $entry->title;
                }
            }
        }
        $found = array_filter($found, static fn (array $one): bool => \count($one['joins']) > 1);
        usort($found, static fn (array $a, array $b): int => \count($b['joins']) <=> \count($a['joins']) ?: $a['id'] <=> $b['id']);

        return array_map(static fn (array $one): BeyondEntry => new BeyondEntry($one['id'], $one['title'], array_values($one['joins'])), $found);
    }
}
