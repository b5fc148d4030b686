<?php

declare(strict_types=1);

namespace Fasti\Register;

use Fasti\Core\Catalog\Place;
use Fasti\Register\Topic\EntryTopic;
use Fasti\Source\SourceStore;
use Fasti\Text\History;
use Symfony\Bundle\FrameworkBundle\Controller\AbstractController;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\Routing\Attribute\Route;

final class RegisterController extends AbstractController
{
    private const INDEX_MOST = 200;

    private const FIELDS_MOST = 1000;

    public function __construct(
        private readonly EntryStore $store,
        private readonly RegisterPages $pages,
        private readonly Dossiers $dossiers,
        private readonly Entries $entries,
        private readonly SourceStore $sources,
        private readonly History $history,
        private readonly LiveLinks $links,
    ) {
    }

    #[Route('/register', name: 'register', methods: ['GET'])]
    public function register(Request $request): Response
    {
        $filter = RegisterFilter::from($request);
        $data = ['filter' => $filter, 'page' => $this->pages->page($filter)];
        if ('fetch' === $request->headers->get('X-Requested-With')) {
            return $this->render('register/_rows.html.twig', $data);
        }

        return $this->render('register/register.html.twig', $data + [
            'sources' => $this->sources->all(),
            'schemas' => $this->store->schemas($filter->source),
            'coverage' => $this->store->coverage(),
            'choices' => $this->pages->choices(),
        ]);
    }

    #[Route('/register/{id<\d+>}', name: 'entry', methods: ['GET'])]
    public function entry(Request $request, int $id): Response
    {
        $dossier = $this->dossiers->one($id) ?? throw $this->createNotFoundException('There is no such entry in the register.');
        $entry = $dossier->entry;
        $pages = max(1, (int) ceil(\count($entry->fields) / self::FIELDS_MOST));
        $page = max(1, min($pages, $request->query->getInt('part', 1)));

        return $this->render('register/entry.html.twig', [
            'dossier' => $dossier,
            'entry' => $entry,
            // A page of tens of thousands of fields is read by nobody, and keeps everybody waiting.
            'part' => ['page' => $page, 'pages' => $pages, 'from' => ($page - 1) * self::FIELDS_MOST, 'most' => self::FIELDS_MOST],
            'links' => $this->links,
            'index' => $this->index($entry->sourceId, '', $entry->place()),
            'before' => $this->store->neighbour($entry->sourceId, $entry->place(), -1),
            'after' => $this->store->neighbour($entry->sourceId, $entry->place(), 1),
        ]);
    }

    /** The index beside an entry, narrowed by what is typed. */
    #[Route('/register/index/{source<\d+>}', name: 'register_index', methods: ['GET'])]
    public function indexRows(Request $request, int $source): Response
    {
        return $this->render(
            'register/_index.html.twig',
            ['index' => $this->index($source, trim($request->query->getString('q')), null), 'current' => $request->query->getInt('current')],
        );
    }

    #[Route('/register/{id<\d+>}/history', name: 'entry_history', methods: ['GET'])]
    public function history(Request $request, int $id): Response
    {
        $entry = $this->entries->one($id) ?? throw $this->createNotFoundException('There is no such entry in the register.');

        return $this->render(
            'register/history.html.twig',
            ['entry' => $entry] + $this->history->of(EntryTopic::NAME, $id, $request->query->getInt('before', \PHP_INT_MAX)),
        );
    }

    /** @return array{rows: list<array<string, mixed>>, total: int, source: int, shown: int} */
    private function index(int $source, string $text, ?Place $around): array
    {
        $index = $this->store->index($source, $text, $around, self::INDEX_MOST);

        return $index + ['source' => $source, 'shown' => \count($index['rows'])];
    }
}
