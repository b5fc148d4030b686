<?php

declare(strict_types=1);

namespace Fasti\Model;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Join\EntryKind;
use Fasti\Core\Join\Link;
use Fasti\Core\Model\Proposal;
use Fasti\Core\Model\Proposed;
use Fasti\Diagram\Diagrams;
use Fasti\Diagram\Pieces;
use Fasti\Diagram\Selection;
use Fasti\Join\EntryRoles;
use Fasti\Join\SourceGraph;
use Fasti\Register\Entries;
use Fasti\Register\EntryStore;
use Fasti\Source\SourceStore;
use Symfony\Component\HttpFoundation\Request;

/** What a new model is proposed from: a fact and all that it leads to, an area, a diagram, or a choice of entries. */
final readonly class Beginning
{
    /** Entries that a model is proposed from at the most. */
    public const MOST = 120;

    public function __construct(
        private Selection $selection,
        private EntryStore $store,
        private Entries $entries,
        private EntryRoles $roles,
        private SourceGraph $graph,
        private SourceStore $sources,
        private Pieces $pieces,
        private Diagrams $diagrams,
    ) {
    }

    /** @return list<array{id: int, source: int, title: string, place: string, reason: string}> entries that seem to be facts */
    public function facts(): array
    {
        $facts = [];
        foreach (array_keys($this->sources->all()) as $source) {
            $ids = array_values($this->store->places($source));
            foreach ($this->roles->of($ids) as $entry => $role) {
                if (EntryKind::Fact->value === $role->kind()) {
                    $facts[$entry] = $role->reason;
                }
            }
        }
        $found = [];
        foreach ($this->store->placed(array_keys($facts)) as $entry => $at) {
            $found[] = ['id' => $entry, 'source' => $at->source, 'title' => $at->title, 'place' => (string) $at->place, 'reason' => $facts[$entry]];
        }

        return $found;
    }

    public function asked(Request $request): BegunFrom
    {
        $fact = $request->query->getInt('fact');
        if ($fact > 0) {
            $at = $this->store->placed([$fact])[$fact] ?? null;

            return new BegunFrom(null === $at ? [] : $this->around($at->source, $fact), [$fact], $at->title ?? '');
        }
        $diagram = $request->query->getInt('diagram');
        if ($diagram > 0) {
            $entries = $this->pieces->of($diagram)->entries();

            return new BegunFrom(\array_slice($entries, 0, self::MOST), [], $this->diagrams->one($diagram)->name ?? '');
        }
        $asked = $this->selection->asked($request);

        return new BegunFrom(\array_slice($asked->entries, 0, self::MOST), [], $asked->name);
    }

    /** @return list<int> a fact and everything on the one-side of its joins */
    private function around(int $source, int $fact): array
    {
        [$catalog, $ids, $links] = $this->source($source);
        $at = array_search($fact, $ids, true);
        if (false === $at) {
            return [];
        }

        return array_map(static fn (int $table): int => $ids[$table], (new Proposal($catalog, $links, []))->around($at));
    }

    /** @return array{Catalog, array<int, int>, list<Link>} tables by their number in the catalog */
    private function source(int $source): array
    {
        [$catalog, $ids] = $this->graph->catalog($source);
        $at = array_flip($ids);
        $links = [];
        foreach ($this->graph->links($source, 0.9) as $link) {
            if (isset($at[$link->from], $at[$link->to])) {
                $links[] = new Link(
                    $link->id,
                    $at[$link->from],
                    $at[$link->to],
                    $link->pairs,
                    $link->cardinality,
                    $link->certainty,
                    $link->where,
                    $link->orphans,
                );
            }
        }

        return [$catalog, $ids, $links];
    }

    /**
     * @param list<int>            $entries
     * @param list<int>            $facts
     * @param array<int, string>   $kinds   entry → what somebody says it is: fact, dimension, link
     */
    public function proposed(int $source, string $name, array $entries, array $facts, array $kinds = []): Proposed
    {
        [$catalog, $ids, $links] = $this->source($source);
        $at = array_flip($ids);
        $guesses = $reasons = $names = $grains = [];
        $said = $this->roles->of($entries);
        foreach ($this->entries->load($entries, false) as $view) {
            $table = $at[$view->id] ?? null;
            if (null === $table) {
                continue;
            }
            if ('' !== $view->businessName) {
                $names[$table] = $view->businessName;
            }
            if ('' !== $view->grain) {
                $grains[$table] = $view->grain;
            }
            $role = $said[$view->id] ?? null;
            $kind = $kinds[$view->id] ?? (null === $role ? '' : ($role->kind()));
            $guesses[$table] = EntryKind::tryFrom($kind) ?? EntryKind::Other;
            $reasons[$table] = isset($kinds[$view->id]) ? 'you say so' : ($role->reason ?? '');
        }
        $chosen = array_values(
            array_filter(array_map(static fn (int $entry): ?int => $at[$entry] ?? null, $entries), static fn (?int $table): bool => null !== $table),
        );
        $facts = array_values(
            array_filter(array_map(static fn (int $entry): ?int => $at[$entry] ?? null, $facts), static fn (?int $table): bool => null !== $table),
        );

        return (new Proposal($catalog, $links, $guesses, $reasons, $names, $grains))->of($name, $chosen, $facts);
    }

    /** @param list<int> $entries */
    public function sourceOf(array $entries): int
    {
        return array_values($this->store->sources($entries))[0] ?? 0;
    }

    /**
     * @param list<int> $entries
     *
     * @return list<int> those of one source
     */
    public function ofSource(array $entries, int $source): array
    {
        $sources = $this->store->sources($entries);

        return array_values(array_filter($entries, static fn (int $entry): bool => ($sources[$entry] ?? 0) === $source));
    }
}
