<?php

declare(strict_types=1);

namespace Fasti\Lineage;

use Fasti\Core\Drift\DriftColumn;
use Fasti\Core\Drift\DriftItem;
use Fasti\Core\Drift\Fate;
use Fasti\Register\EntryStore;
use Fasti\Register\FieldAt;
use Fasti\Register\Fields;

/** What depends on things that change, for those who decide about the change and for texts that it makes doubtful. */
final readonly class Dependants
{
    public function __construct(
        private ReadingStore $store,
        private Lineages $lineages,
        private Fields $fields,
        private EntryStore $entries,
        private Origins $origins,
        private Further $further,
    ) {
    }

    /**
     * The views that name what a drift takes away, renames or changes, and entries of whatever source that are filled from it.
     *
     * @param list<DriftItem> $items
     *
     * @return array<int, list<Dependant>> by the number of the item
     */
    public function ofDrift(int $source, array $items): array
    {
        $places = $this->entries->places($source);
        $entries = [];
        foreach ($items as $i => $item) {
            $entry = $places[$item->before()?->key() ?? ''] ?? null;
            if (null !== $entry) {
                $entries[$i] = $entry;
            }
        }
        $ids = $this->fields->ids(array_values($entries));
        $numbers = [];
        foreach ($entries as $i => $entry) {
            foreach (self::touched($items[$i], $ids[$entry] ?? []) as $field) {
                $numbers[$field] = $i;
            }
        }
        $edges = $this->store->dependingOn(array_keys($numbers));
        $views = $this->entries->placed(array_values(array_unique(array_column($edges, 'entry'))));
        $names = $this->fields->called(array_values(array_filter(array_column($edges, 'field'))));
        $found = [];
        foreach ($edges as $edge) {
            $i = $numbers[$edge['from']];
            $found[$i][$edge['entry']] ??= [
                'id' => $edge['entry'],
                'name' => isset($views[$edge['entry']]) ? (string) $views[$edge['entry']]->place : '',
                'fields' => [],
            ];
            if ($edge['field'] > 0 && Part::Value->value === $edge['part']) {
                $found[$i][$edge['entry']]['fields'][$edge['field']] = $names[$edge['field']] ?? '';
            }
        }

        foreach ($this->filled($numbers) as $field => [$i, $at]) {
            $found[$i][$at->entry] ??= ['id' => $at->entry, 'name' => (string) $at->place->place(), 'fields' => []];
            $found[$i][$at->entry]['fields'][$field] = $at->place->column;
        }

        return array_map(
            static fn (array $of): array => array_values(array_map(
                static fn (array $view): Dependant => new Dependant($view['id'], $view['name'], array_values($view['fields'])),
                $of,
            )),
            $found,
        );
    }

    /**
     * What later rooms make from what a drift takes away, renames or changes, and from what is computed from that.
     *
     * @param list<DriftItem> $items
     *
     * @return array<int, list<Made>> by the number of the item
     */
    public function furtherOfDrift(int $source, array $items): array
    {
        $places = $this->entries->places($source);
        $further = [];
        foreach ($items as $i => $item) {
            $entry = $places[$item->before()?->key() ?? ''] ?? null;
            $touched = null === $entry ? [] : self::touched($item, $this->fields->ids([$entry])[$entry] ?? []);
            $made = [] === $touched ? [] : array_filter(
                array_keys($this->lineages->up($touched, proposed: false)->fields),
                static fn (int $id): bool => $id > 0,
            );
            $found = $this->further->of(array_values(array_unique([...$touched, ...array_values($made)])));
            if ([] !== $found) {
                $further[$i] = $found;
            }
        }

        return $further;
    }

    /**
     * @param array<int, int> $numbers field → the number of its item
     *
     * @return array<int, array{int, FieldAt}> fields that are filled from them, in whatever source → the number, and where they stand
     */
    private function filled(array $numbers): array
    {
        $filled = array_filter($this->origins->said(), static fn (int $from): bool => isset($numbers[$from]));
        $found = [];
        foreach ($this->fields->placed(array_keys($filled)) as $field => $at) {
            $found[$field] = [$numbers[$filled[$field]], $at];
        }

        return $found;
    }

    /**
     * @param array<string, int> $ids of the entry's fields, by name
     *
     * @return list<int> those that the drift takes away, renames or changes
     */
    private static function touched(DriftItem $item, array $ids): array
    {
        if (\in_array($item->change, [Fate::Gone, Fate::Renamed], true)) {
            return array_values($ids);
        }
        $before = array_map(static fn (DriftColumn $column): string => $column->before(), $item->columns);

        return array_values(array_intersect_key($ids, array_flip($before)));
    }

    /**
     * Fields that are computed from others, over any number of views and sources.
     *
     * @param array<int, string> $changed field → what has become of it, the end of a sentence: `which is gone`
     *
     * @return array<int, list<string>> field → why what is written about it may no longer hold
     */
    public function reasons(array $changed): array
    {
        // Of thousands that change, few are used: the others are not followed.
        $used = array_flip([...array_column($this->store->dependingOn(array_keys($changed)), 'from'), ...array_values($this->origins->said())]);
        $changed = array_intersect_key($changed, $used);
        $placed = $this->fields->placed(array_keys($changed));
        $reasons = [];
        foreach ($changed as $field => $what) {
            $at = $placed[$field] ?? null;
            if (null === $at) {
                continue;
            }
            foreach (array_keys($this->lineages->up([$field], proposed: false)->fields) as $made) {
                if ($made !== $field && $made > 0) {
                    $reasons[$made][] = \sprintf('It is computed from %s.%s, %s.', $at->place->table, $at->place->column, $what);
                }
            }
        }

        return $reasons;
    }

    /**
     * @param list<int> $fields
     *
     * @return list<int> their sources
     */
    public function sources(array $fields): array
    {
        return array_values(array_unique(array_map(static fn ($at): int => $at->source, $this->fields->placed($fields))));
    }
}
