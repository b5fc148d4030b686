<?php

declare(strict_types=1);

namespace Fasti\Lineage;

use Fasti\Core\Lineage\Picture;
use Fasti\Core\Lineage\PlacedTablet;
use Fasti\Register\Entries;
use Fasti\Register\EntryStore;
use Fasti\Register\FieldAt;
use Fasti\Register\Fields;
use Fasti\Register\LiveLinks;
use Fasti\Source\SourceStore;
use Symfony\Bundle\FrameworkBundle\Controller\AbstractController;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\Routing\Attribute\Route;

/** Where fields come from, what is made of them, and what breaks. */
final class LineageController extends AbstractController
{
    public function __construct(
        private readonly Lineages $lineages,
        private readonly ReadingStore $readings,
        private readonly Fields $fields,
        private readonly Entries $entries,
        private readonly EntryStore $store,
        private readonly SourceStore $sources,
        private readonly LiveLinks $links,
        private readonly Further $further,
    ) {
    }

    #[Route('/register/fields/{id<\d+>}/lineage', name: 'lineage_field', methods: ['GET'])]
    public function field(Request $request, int $id): Response
    {
        $at = $this->fields->placed([$id])[$id] ?? throw $this->createNotFoundException('There is no such field in the register.');

        return $this->traced($request, [$id], $at, $at->entry);
    }

    #[Route('/register/{id<\d+>}/lineage', name: 'lineage_entry', methods: ['GET'])]
    public function entry(Request $request, int $id): Response
    {
        $this->store->placed([$id])[$id] ?? throw $this->createNotFoundException('There is no such entry in the register.');

        return $this->traced($request, $this->fields->present($id), null, $id);
    }

    /** @param list<int> $starts */
    private function traced(Request $request, array $starts, ?FieldAt $at, int $entry): Response
    {
        $conditions = $request->query->getBoolean('conditions');
        $down = $this->lineages->down($starts, $conditions);
        $up = $this->lineages->up($starts, $conditions);
        $whole = (new Trace($starts))->join($down)->join($up);
        if (null === $at) {
            // Of an entry, only the fields that have to do with others are shown.
            $tied = array_merge([], ...array_map(static fn (array $tie): array => [$tie['from'], $tie['to']], array_values($whole->ties)));
            $whole->fields = array_intersect_key($whole->fields, array_flip($tied));
        }
        $ids = array_keys($whole->fields);
        $placed = $this->fields->placed(array_values(array_filter($ids, static fn (int $id): bool => $id > 0)));
        $rows = array_map(
            abs(...),
            array_values(
                array_filter(
                    array_merge([], ...array_map(static fn (array $tie): array => [$tie['from'], $tie['to']], array_values($whole->ties))),
                    static fn (int $id): bool => $id < 0,
                ),
            ),
        );
        $breaks = $this->lineages->breaks($starts);
        $views = array_values(array_unique([...array_map(static fn (FieldAt $field): int => $field->entry, $placed), ...array_keys($breaks), ...$rows]));
        $readings = $this->readings->of($views);
        $picture = new Picture($this->tablets($placed, $starts, array_flip($rows)), array_map(
            static fn (array $tie): array => ['from' => (string) $tie['from'], 'to' => (string) $tie['to'], 'word' => $tie['part']],
            array_values($whole->ties),
        ));

        return $this->render('lineage/show.html.twig', [
            'at' => $at, 'entry' => $this->entries->one($entry), 'picture' => $picture, 'down' => $this->tree($down, $starts, true),
            'up' => $this->tree($up, $starts, false),
            'placed' => $placed + $this->fields->placed([
                ...array_keys($down->fields),
                ...array_keys($up->fields),
            ]), 'readings' => $readings, 'breaks' => $this->broken($breaks),
            'further' => $this->further->of(
                array_values(array_unique([...$starts, ...array_values(array_filter(array_keys($up->fields), static fn (int $id): bool => $id > 0))])),
            ),
            'conditions' => $conditions, 'cut' => $whole->cut, 'sources' => $this->sources->all(), 'links' => $this->links,
            'views' => $this->store->placed($rows),
        ]);
    }

    /**
     * @param array<int, FieldAt> $placed
     * @param list<int>           $starts
     * @param array<int, int>     $rows   views whose rows are decided about
     *
     * @return list<PlacedTablet>
     */
    private function tablets(array $placed, array $starts, array $rows): array
    {
        $sources = $this->sources->all();
        $of = $views = [];
        foreach ($placed as $field) {
            $of[$field->entry][] = $field;
        }
        foreach ($this->store->placed(array_keys(array_diff_key($rows, $of))) as $view => $at) {
            $of[$view] = [];
            $views[$view] = $at;
        }
        $starts = array_flip($starts);
        $focused = \count($starts) < 2 || \count($of) < 2;
        $tablets = [];
        foreach ($of as $entry => $fields) {
            $order = array_flip($this->fields->present($entry));
            usort($fields, static fn (FieldAt $a, FieldAt $b): int => ($order[$a->id] ?? \PHP_INT_MAX) <=> ($order[$b->id] ?? \PHP_INT_MAX));
            $first = $fields[0] ?? null;
            $shown = array_map(fn (FieldAt $field): array => [
                'key' => (string) $field->id, 'label' => $field->place->column, 'code' => true,
                'link' => $this->generateUrl('lineage_field', ['id' => $field->id]), 'focus' => $focused && isset($starts[$field->id]),
            ], $fields);
            if (isset($rows[$entry])) {
                $shown[] = [
                    'key' => (string) -$entry,
                    'label' => 'which rows it has',
                    'code' => false,
                    'link' => $this->links->entry($entry).'#steps',
                    'focus' => false,
                ];
            }
            $isView = null === $first || $first->isOfView();
            $source = null === $first ? $views[$entry]->source : $first->source;
            $tablets[] = new PlacedTablet(
                $entry,
                null === $first ? $views[$entry]->title : $first->entryTitle(),
                ($sources[$source]->name ?? '').' · '.($first->entryType ?? 'view'),
                $this->links->entry($entry).($isView ? '#steps' : ''),
                $isView,
                $shown,
                $first->entryRetired ?? false,
            );
        }

        return $tablets;
    }

    /**
     * @param array<int, Broken> $breaks
     *
     * @return list<array{id: int, place: string, fields: list<string>, on: list<string>, decides: bool, away: int}> names of its own
     *                                                                     fields that are computed, and of what it depends on
     */
    private function broken(array $breaks): array
    {
        $views = $this->store->placed(array_keys($breaks));
        $named = [];
        foreach ($breaks as $broken) {
            array_push($named, ...$broken->on(), ...array_merge([], ...array_map(array_keys(...), array_values($broken->values))));
        }
        $placed = $this->fields->placed($named);
        $rows = [];
        foreach ($breaks as $id => $broken) {
            $own = array_keys(array_replace([], ...array_values($broken->values)));
            $rows[] = [
                'id' => $id,
                'place' => isset($views[$id]) ? (string) $views[$id]->place : '',
                'fields' => array_values(array_map(static fn (int $field): string => ($placed[$field] ?? null)?->place->column ?? '', $own)),
                // Of a view in between, all that it shows is in question: it is named as a whole.
                'on' => array_values(array_unique(array_map(
                    static fn (int $field): string => isset($placed[$field])
                        ? $placed[$field]->place->table.(1 === $broken->away ? '.'.$placed[$field]->place->column : '') : '',
                    $broken->on(),
                ))),
                'decides' => [] !== $broken->conditions,
                'away' => $broken->away,
            ];
        }

        return $rows;
    }

    /**
     * A trace as a list: what is nearest, and under it what that comes from or is made into. What was listed before is only named.
     *
     * @param list<int> $starts
     *
     * @return list<array{field: int, depth: int, part: string, again: bool}>
     */
    private function tree(Trace $trace, array $starts, bool $down): array
    {
        $next = [];
        foreach ($trace->ties as $tie) {
            $next[$down ? $tie['to'] : $tie['from']][] = [$down ? $tie['from'] : $tie['to'], $tie['part']];
        }
        $rows = [];
        $seen = array_fill_keys($starts, true);
        $stack = [];
        foreach (array_reverse($starts) as $start) {
            foreach (array_reverse($next[$start] ?? []) as [$field, $part]) {
                $stack[] = [$field, 0, $part];
            }
        }
        while ([] !== $stack && \count($rows) < 800) {
            [$field, $depth, $part] = array_pop($stack);
            $again = isset($seen[$field]);
            $seen[$field] = true;
            $rows[] = ['field' => $field, 'depth' => $depth, 'part' => $part, 'again' => $again && [] !== ($next[$field] ?? [])];
            foreach ($again ? [] : array_reverse($next[$field] ?? []) as [$further, $how]) {
                $stack[] = [$further, $depth + 1, $how];
            }
        }

        return $rows;
    }
}
