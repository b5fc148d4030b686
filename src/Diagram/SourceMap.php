<?php

declare(strict_types=1);

namespace Fasti\Diagram;

use Fasti\Core\Diagram\Region;
use Fasti\Core\Diagram\RegionMap;
use Fasti\Core\Join\Areas;
use Fasti\Core\Join\Link;
use Fasti\Core\Wording\Naming;
use Fasti\Join\EntryRoles;
use Fasti\Join\SourceGraph;
use Fasti\Register\EntryStore;
use Fasti\Register\Measured;

/** A source, or one of its schemas, as a map: its subject areas, proposed ones where nobody has made any, and what stands alone. */
final readonly class SourceMap
{
    private const ALONE = 'alone';

    public function __construct(private EntryStore $entries, private EntryRoles $roles, private SourceGraph $graph)
    {
    }

    /**
     * @return array{
     *     regions: array<string, Region>, between: list<array{string, string, int}>, proposed: list<string>,
     *     entries: array<int, Measured>
     * }
     *
     * @throws \Fasti\Core\Diagram\PlacingError
     */
    public function of(int $source, ?string $schema = null): array
    {
        $entries = $this->entries->measured($source, $schema);
        $links = array_values(array_filter(
            $this->graph->links($source),
            static fn (Link $link): bool => isset($entries[$link->from], $entries[$link->to]) && $link->from !== $link->to,
        ));
        [$areas, $names, $proposed] = $this->areas($entries, $links);

        return RegionMap::of(
            $areas,
            $names,
            array_column(array_map(static fn (int $id, Measured $entry): array => [$id, $entry->fields], array_keys($entries), $entries), 1, 0),
            array_map(static fn (Link $link): array => [$link->from, $link->to], $links),
        ) + ['proposed' => $proposed, 'entries' => $entries];
    }

    /**
     * @param array<int, Measured> $entries
     * @param list<Link>           $links
     *
     * @return array{array<string, list<int>>, array<string, string>, list<string>}
     */
    private function areas(array $entries, array $links): array
    {
        $areas = $names = $taken = $proposed = [];
        foreach ($this->roles->areas() as $name => $members) {
            $own = array_values(array_filter($members, static fn (int $entry): bool => isset($entries[$entry])));
            if ([] !== $own) {
                $areas['a-'.$name] = $own;
                $names['a-'.$name] = (string) $name;
                $taken += array_fill_keys($own, true);
            }
        }
        foreach (Areas::of(array_keys($entries), $links) as $area) {
            $open = array_values(array_filter($area->nodes, static fn (int $entry): bool => !isset($taken[$entry])));
            if (\count($open) >= 2) {
                $key = 'p-'.$area->middle;
                $areas[$key] = $open;
                $names[$key] = Naming::asName($entries[$area->middle]->title);
                $taken += array_fill_keys($open, true);
                $proposed[] = $key;
            }
        }
        $alone = array_values(array_filter(array_keys($entries), static fn (int $entry): bool => !isset($taken[$entry])));
        if ([] !== $alone) {
            $areas[self::ALONE] = $alone;
            $names[self::ALONE] = 'In no area';
        }

        return [$areas, $names, $proposed];
    }
}
