<?php

declare(strict_types=1);

namespace Fasti\Diagram;

use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Join\Link;
use Fasti\Core\Join\RouteSql;
use Fasti\Core\Join\Step;
use Fasti\Core\Join\Tree;
use Fasti\Join\JoinEvidences;
use Fasti\Join\SourceGraph;
use Fasti\Register\Entries;
use Fasti\Register\EntryAt;
use Fasti\Register\EntryStore;
use Fasti\Register\EntryView;
use Fasti\Register\Joins;
use Fasti\Register\JoinView;
use Fasti\Register\Search;
use Fasti\Source\SourceStore;
use Symfony\Bundle\FrameworkBundle\Controller\AbstractController;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\Routing\Attribute\Route;

/** What stands in the margin of a diagram: a join, the joins that lead out of the picture, a query, what can be added. */
final class AskController extends AbstractController
{
    private const FOUND = 12;

    public function __construct(
        private readonly Entries $entries,
        private readonly EntryStore $store,
        private readonly Joins $joins,
        private readonly JoinEvidences $evidences,
        private readonly SourceGraph $graph,
        private readonly SourceStore $sources,
        private readonly Search $search,
        private readonly Diagrams $diagrams,
        private readonly KeptDrawing $drawing,
    ) {
    }

    /** What a diagram is, whose, and what is not in it but joins two of its tablets. */
    #[Route('/diagrams/margin/about/{id<\d+>}', name: 'diagram_about', methods: ['GET'])]
    public function about(int $id): Response
    {
        $diagram = $this->diagrams->one($id) ?? throw $this->createNotFoundException('There is no such diagram.');
        $entries = $this->drawing->entries($this->drawing->arrangement($diagram));

        return $this->render('diagram/_about.html.twig', [
            'diagram' => $diagram,
            'beyond' => Beyond::of($entries),
            'sources' => array_values(array_unique(array_map(static fn (EntryView $entry): string => $entry->sourceName, $entries))),
        ]);
    }

    #[Route('/diagrams/margin/join/{id<\d+>}', name: 'diagram_join', methods: ['GET'])]
    public function join(int $id): Response
    {
        $join = $this->joins->one($id) ?? throw $this->createNotFoundException('There is no such join.');

        return $this->render('diagram/_join.html.twig', ['join' => $join, 'known' => $this->evidences->of([$id])[$id] ?? null]);
    }

    /** An entry: what it is, its joins in the picture and out of it. */
    #[Route('/diagrams/margin/tablet/{id<\d+>}', name: 'diagram_tablet', methods: ['GET'])]
    public function tablet(Request $request, int $id): Response
    {
        $entry = $this->entries->one($id) ?? throw $this->createNotFoundException('There is no such entry.');

        return $this->render('diagram/_tablet.html.twig', ['entry' => $entry, 'inside' => Selection::numbers($request->query->getString('inside'))]);
    }

    /** The fields of an entry, from which some are picked by hand. */
    #[Route('/diagrams/margin/fields/{id<\d+>}', name: 'diagram_fields', methods: ['GET'])]
    public function fields(int $id): Response
    {
        return $this->render(
            'diagram/_fields.html.twig',
            ['entry' => $this->entries->one($id) ?? throw $this->createNotFoundException('There is no such entry.')],
        );
    }

    /** The joins of an entry that lead to none of some others. */
    #[Route('/diagrams/margin/leads/{id<\d+>}', name: 'diagram_leads', methods: ['GET'])]
    public function leads(Request $request, int $id): Response
    {
        $entry = $this->entries->one($id) ?? throw $this->createNotFoundException('There is no such entry.');
        $inside = array_flip(Selection::numbers($request->query->getString('inside')));
        $joins = array_filter($entry->countedJoins(), static fn (JoinView $join): bool => !isset($inside[$join->otherId()]));

        return $this->render('diagram/_leads.html.twig', ['entry' => $entry, 'joins' => $joins]);
    }

    /** Entries that can be added, as their names are typed. */
    #[Route('/diagrams/margin/add', name: 'diagram_add', methods: ['GET'])]
    public function add(Request $request): Response
    {
        $words = trim($request->query->getString('q'));
        $inside = array_flip(Selection::numbers($request->query->getString('inside')));
        $found = '' === $words ? [] : $this->search->entriesFor($words);
        $there = \count(array_filter($found, static fn (int $id): bool => isset($inside[$id])));
        $found = \array_slice(array_values(array_filter($found, static fn (int $id): bool => !isset($inside[$id]))), 0, self::FOUND);

        return $this->render('diagram/_add.html.twig', ['words' => $words, 'found' => $found, 'placed' => $this->store->placed($found), 'there' => $there]);
    }

    /** A query over some tablets. */
    #[Route('/diagrams/margin/query', name: 'diagram_query', methods: ['GET'])]
    public function query(Request $request): Response
    {
        $entries = Selection::numbers($request->query->getString('entries'));
        $placed = $this->store->placed($entries);
        $entries = array_values(array_filter($entries, static fn (int $id): bool => isset($placed[$id])));
        $sources = array_values(array_unique(array_map(static fn (int $id): int => $placed[$id]->source, $entries)));
        if (\count($entries) < 2 || 1 !== \count($sources)) {
            return $this->render('diagram/_query.html.twig', ['sql' => '', 'tree' => null, 'placed' => $placed, 'warnings' => [
                \count($entries) < 2 ? 'Mark two tablets or more.' : 'These tablets are of several sources; no statement reaches both.',
            ]]);
        }
        $tree = Tree::of($entries, $this->graph->links($sources[0], 0.0));
        $sql = new RouteSql(Dialects::of($this->sources->engine($sources[0])), $this->graph->places($entries));

        return $this->render('diagram/_query.html.twig', [
            'sql' => $sql->tree($tree->first, $tree->steps), 'tree' => $tree, 'placed' => $placed, 'warnings' => self::warnings($tree, $placed),
        ]);
    }

    /**
     * @param array<int, EntryAt> $placed
     *
     * @return list<string>
     */
    private static function warnings(Tree $tree, array $placed): array
    {
        $title = static fn (int $node): string => isset($placed[$node]) ? $placed[$node]->words() : '';
        $warnings = [];
        foreach ($tree->steps as $step) {
            $warnings = [...$warnings, ...self::ofStep($step, $title)];
        }
        foreach ($tree->unused as $link) {
            $warnings[] = $link->from === $link->to
                ? \sprintf('%s also refers to itself, by %s; that is left out.', $title($link->from), self::named($link))
                : \sprintf(
                    '%s leads to %s by %s too; that join is left out, and would be a further condition.',
                    $title($link->from),
                    $title($link->to),
                    self::named($link),
                );
        }
        foreach ($tree->apart as $node) {
            $warnings[] = \sprintf('No join leads to %s from the others, so it is not in the statement.', $title($node));
        }

        return $warnings;
    }

    /**
     * @param callable(int): string $title
     *
     * @return list<string>
     */
    private static function ofStep(Step $step, callable $title): array
    {
        $from = $title($step->from());
        $to = $title($step->to());

        return array_values(array_filter([
            $step->multiplies() ? \sprintf('Rows multiply: a row of %s may find many of %s, and totals over it count double.', $from, $to) : '',
            $step->drops() ? \sprintf('Rows of %s that find none of %s drop out; LEFT JOIN keeps them.', $from, $to) : '',
            $step->link->certainty < 0.99 ? \sprintf('The join from %s by %s is only proposed.', $title($step->link->from), self::named($step->link)) : '',
        ]));
    }

    private static function named(Link $link): string
    {
        return implode(', ', array_column($link->pairs, 0));
    }
}
