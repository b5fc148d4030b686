<?php

declare(strict_types=1);

namespace Fasti\Diagram;

use Fasti\Account\Account;
use Fasti\Account\Act\Act;
use Fasti\Core\Diagram\Arrangement;
use Fasti\Core\Diagram\Detail;
use Fasti\Core\Diagram\Piece\PieceKind;
use Fasti\Core\Diagram\PlacingError;
use Fasti\Core\Diagram\SvgDrawing;
use Fasti\Diagram\Topic\DiagramTopic;
use Fasti\Register\EntryStore;
use Fasti\Register\EntryView;
use Fasti\Register\JoinCounts;
use Fasti\Source\SourceStore;
use Fasti\Text\BadText;
use Fasti\Text\History;
use Symfony\Bundle\FrameworkBundle\Controller\AbstractController;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\Routing\Attribute\Route;
use Symfony\Component\Security\Http\Attribute\CurrentUser;
use Symfony\Component\Security\Http\Attribute\IsCsrfTokenValid;
use Symfony\Component\Security\Http\Attribute\IsGranted;

/** Diagrams that people make and keep: their list, and each of them. */
final class KeptController extends AbstractController
{
    public function __construct(
        private readonly Diagrams $diagrams,
        private readonly KeptDrawing $drawing,
        private readonly RegisterDiagram $register,
        private readonly Beginning $beginning,
        private readonly Selection $selection,
        private readonly Board $board,
        private readonly Pieces $pieces,
        private readonly EntryStore $entries,
        private readonly JoinCounts $joins,
        private readonly SourceStore $sources,
        private readonly History $history,
        private readonly Answer $answer,
    ) {
    }

    #[Route('/diagrams', name: 'diagrams', methods: ['GET'])]
    public function list(Request $request): Response
    {
        $words = trim($request->query->getString('q'));
        $found = $this->found($words);
        $arrangements = $this->pieces->ofAll(array_map(static fn (Diagram $diagram): int => $diagram->id(), $found));
        $kept = array_map(fn (Diagram $diagram): array => [
            'diagram' => $diagram,
            'small' => $this->drawing->small($diagram),
            'entries' => \count(($arrangements[$diagram->id()] ?? new Arrangement([]))->entries()),
        ], $found);

        return $this->render('diagram/list.html.twig', [
            'words' => $words, 'kept' => $kept, 'total' => $this->diagrams->count(),
            'sources' => $this->sources->all(), 'entries' => $this->entries->countsBySchema(), 'joins' => $this->joins->counts(), 'most' => Automatic::MAP_FROM,
        ]);
    }

    #[Route('/diagrams/new', name: 'diagram_new', methods: ['GET'])]
    public function new(Request $request): Response
    {
        $asked = $this->selection->asked($request);

        return $this->form($asked->entries, $asked->name, $asked->purpose);
    }

    #[Route('/diagrams', name: 'diagram_make', methods: ['POST'])]
    #[IsGranted(Act::DESCRIBE)]
    #[IsCsrfTokenValid('diagrams')]
    public function make(Request $request, #[CurrentUser] Account $account): Response
    {
        $given = $request->request;
        $entries = \array_slice(array_values(array_unique(array_map(intval(...), array_filter($given->all('entries'), is_numeric(...))))), 0, Selection::MOST);
        $name = $given->getString('name');
        $purpose = $given->getString('purpose');
        $into = $this->diagrams->one((int) $given->getString('into'));
        try {
            if (null !== $into) {
                $arrangement = $this->drawing->arrangement($into);
                $this->board->apply($account, $into->id(), $this->drawing->placed($arrangement, $entries), [], $into->moves, 'added-'.bin2hex(random_bytes(6)));
                $this->keepKnown($this->diagrams->fresh($into));
            } else {
                $into = $this->beginning->beginOf($account, $name, $purpose, array_keys($this->entries->placed($entries)));
            }
        } catch (BadText|PlacingError $e) {
            return $this->form($entries, $name, $purpose, $e->getMessage());
        }

        return $this->redirectToRoute('diagram', ['id' => $into->id()], 303);
    }

    #[Route(
        '/diagrams/{id<\d+>}.{_format}',
        name: 'diagram',
        defaults: ['_format' => 'html'],
        requirements: ['_format' => 'html|svg|png|pdf'],
        methods: ['GET'],
    )]
    public function show(Request $request, int $id, string $_format): Response
    {
        $diagram = $this->one($id);
        $arrangement = $this->drawing->arrangement($diagram);
        $entries = $this->drawing->entries($arrangement);
        $names = $request->query->getString('names', 'business');
        $link = fn (int $entry): string => $this->generateUrl('entry', ['id' => $entry], $this->answer->addresses($_format));
        $look = $this->drawing->look($entries, $link, 'business' === $names, 'html' === $_format);
        $detail = Detail::tryFrom($request->query->getString('detail'));
        $layout = $this->drawing->layout($diagram, $arrangement, $entries, $look, $detail);
        $block = KeptDrawing::block($diagram, $entries, $layout);
        if ('html' !== $_format) {
            return $this->answer->file($request, $layout, $block, $_format);
        }
        if ('business' === $names && !$request->query->has('detail')) {
            $this->drawing->keepSmall($diagram, $layout);
        }

        return $this->render('diagram/kept.html.twig', [
            'diagram' => $diagram,
            'svg' => SvgDrawing::draw($layout, $block),
            'state' => Shown::state($diagram, $arrangement, $layout, $this->register->areas($arrangement->entries())),
            'titles' => array_map(static fn (EntryView $entry): string => $entry->title, $entries),
            'names' => $names,
            'detail' => $detail ?? $arrangement->detail() ?? Detail::Keys,
            'news' => Known::fromJson($diagram->known)->news($entries),
            'count' => \count($entries),
            'pieces' => PieceKind::known(),
        ]);
    }

    #[Route('/diagrams/{id<\d+>}/history', name: 'diagram_history', methods: ['GET'])]
    public function history(Request $request, int $id): Response
    {
        return $this->render('kept/history.html.twig', ['kept' => $this->one($id), 'store' => $this->diagrams]
            + ['words' => 'What was done to it, a sitting at a time, the latest first. Any of it can be taken back: the diagram is then as it was before.']
            + $this->history->of(DiagramTopic::NAME, $id, $request->query->getInt('before', \PHP_INT_MAX)));
    }

    /** Brings a diagram up to date with its sources: what is gone leaves it, what is new is known. */
    #[Route('/diagrams/{id<\d+>}/follow', name: 'diagram_follow', methods: ['POST'])]
    #[IsGranted(Act::DESCRIBE)]
    #[IsCsrfTokenValid('diagrams')]
    public function follow(int $id, #[CurrentUser] Account $account): Response
    {
        $diagram = $this->one($id);
        $gone = [];
        foreach ($this->drawing->entries($this->drawing->arrangement($diagram)) as $entry) {
            if (null !== $entry->goneAt) {
                $gone['t'.$entry->id] = null;
            }
        }
        $this->board->apply($account, $id, $gone, [], $diagram->moves, 'followed-'.bin2hex(random_bytes(6)));
        $this->beginning->lookedAfter($this->diagrams->fresh($diagram));

        return $this->redirectToRoute('diagram', ['id' => $id], 303);
    }

    /** @param list<int> $entries */
    private function form(array $entries, string $name, string $purpose, string $error = ''): Response
    {
        return $this->render('diagram/new.html.twig', [
            'placed' => $this->entries->placed($entries), 'entries' => $entries, 'name' => $name, 'purpose' => $purpose, 'error' => $error,
            'kept' => $this->diagrams->all(), 'most' => Selection::MOST,
        ], new Response(status: '' === $error ? 200 : 422));
    }

    /**
     * Diagrams by name and purpose; after those, such as show what is named: a table, or the tables of a query, those with most of them first.
     *
     * @return list<Diagram>
     */
    private function found(string $words): array
    {
        if ('' === $words) {
            return $this->diagrams->all();
        }
        $found = [];
        foreach ($this->diagrams->all($words, true) as $diagram) {
            $found[$diagram->id()] = $diagram;
        }
        preg_match_all('/[\p{L}\p{N}_$]{2,}/u', $words, $m);
        $named = $this->entries->called(array_values(array_unique($m[0])));
        $hits = array_count_values(array_merge(...array_values($this->pieces->diagramsOf($named))));
        arsort($hits);
        foreach (array_keys($hits) as $id) {
            $diagram = $this->diagrams->one($id);
            if (null !== $diagram) {
                $found[$id] ??= $diagram;
            }
        }

        return array_values($found);
    }

    private function keepKnown(Diagram $diagram): void
    {
        $diagram->known = Known::fromJson($diagram->known)->with($this->drawing->entries($this->drawing->arrangement($diagram)))->json();
        $this->diagrams->save();
    }

    private function one(int $id): Diagram
    {
        return $this->diagrams->one($id) ?? throw $this->createNotFoundException('There is no such diagram.');
    }
}
