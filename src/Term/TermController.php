<?php

declare(strict_types=1);

namespace Fasti\Term;

use Fasti\Account\Act\Act;
use Fasti\Core\Wording\Amount;
use Fasti\Register\Entries;
use Fasti\Register\EntryView;
use Fasti\Register\Fields;
use Fasti\Register\LiveLinks;
use Fasti\Text\BadText;
use Fasti\Text\History;
use Symfony\Bundle\FrameworkBundle\Controller\AbstractController;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\Routing\Attribute\Route;
use Symfony\Component\Security\Http\Attribute\IsCsrfTokenValid;
use Symfony\Component\Security\Http\Attribute\IsGranted;

/** The glossary. */
final class TermController extends AbstractController
{
    private const PAGE = 300;
    private const LINKED_SHOWN = 200;

    public function __construct(
        private readonly Terms $terms,
        private readonly Entries $entries,
        private readonly Fields $fields,
        private readonly History $history,
        private readonly LiveLinks $links,
    ) {
    }

    #[Route('/register/glossary', name: 'terms', methods: ['GET'])]
    public function list(Request $request): Response
    {
        $words = mb_strtolower(trim($request->query->getString('q')));
        $area = $request->query->getString('area');
        $page = max(1, $request->query->getInt('page', 1));
        $all = $this->terms->all();
        $shown = array_values(array_filter($all, static fn (TermView $term): bool => ('' === $area || $term->area === $area)
            && ('' === $words || str_contains(mb_strtolower($term->name.' '.$term->synonyms.' '.$term->definition), $words))));
        $areas = array_values(array_unique(array_filter(array_map(static fn (TermView $term): string => $term->area, $all))));
        sort($areas);

        return $this->render('term/list.html.twig', [
            'terms' => \array_slice($shown, self::PAGE * ($page - 1), self::PAGE), 'more' => \count($shown) > self::PAGE * $page, 'page' => $page,
            'links' => $this->links,
            'words' => $words, 'area' => $area, 'areas' => $areas, 'total' => \count($all), 'found' => \count($shown), 'several' => $this->terms->ambiguous(),
        ]);
    }

    #[Route('/register/glossary/{id<\d+>}', name: 'term', methods: ['GET'])]
    public function show(int $id): Response
    {
        $term = $this->terms->one($id) ?? throw $this->createNotFoundException('There is no such term.');
        $linked = $this->terms->linked($term);
        $others = array_values(array_filter(
            array_map(fn (int $other): ?TermView => $other === $id ? null : $this->terms->one($other),
                $this->terms->ambiguous()[mb_strtolower($term->name)] ?? []),
        ));
        $entries = $this->entries->load(\array_slice($linked['entry'] ?? [], 0, self::LINKED_SHOWN), false);

        return $this->render('term/show.html.twig', [
            'term' => $term, 'others' => $others, 'narrower' => $this->terms->narrower($term), 'links' => $this->links,
            'entries' => array_filter($entries, static fn (EntryView $entry): bool => null === $entry->goneAt),
            'fields' => $this->fields->placed(\array_slice($linked['field'] ?? [], 0, self::LINKED_SHOWN)),
            'named' => array_map(fn (string $names): array => array_merge(...array_map($this->terms->named(...), Terms::list($names)) ?: [[]]), [
                'broader' => $term->broader, 'related' => $term->related,
            ]),
        ]);
    }

    #[Route('/register/glossary/{id<\d+>}/history', name: 'term_history', methods: ['GET'])]
    public function history(Request $request, int $id): Response
    {
        $term = $this->terms->one($id) ?? throw $this->createNotFoundException('There is no such term.');

        return $this->render('term/history.html.twig', ['term' => $term] + $this->history->of('term', $id, $request->query->getInt('before', \PHP_INT_MAX)));
    }

    #[Route('/register/glossary', name: 'term_make', methods: ['POST'])]
    #[IsGranted(Act::DESCRIBE)]
    #[IsCsrfTokenValid('terms')]
    public function make(Request $request): Response
    {
        $given = $request->request;
        try {
            if ('' !== trim($given->getString('many'))) {
                [$new, $left] = $this->terms->takeIn(Listing::read($given->getString('many')));
                $this->addFlash('done', Amount::of($new, 'term').' added.');
                foreach (\array_slice($left, 0, 5) as $why) {
                    $this->addFlash('notice', $why);
                }
                if (\count($left) > 5) {
                    $this->addFlash('notice', Amount::of(\count($left) - 5, 'more line').' were not taken for the same reasons.');
                }

                return $this->redirectToRoute('terms', [], 303);
            }
            $id = $this->terms->make($given->getString('name'), $given->getString('area'), $given->getString('definition'), $given->getString('synonyms'));
        } catch (BadText $e) {
            $this->addFlash('bad', $e->getMessage());

            return $this->render('term/make.html.twig', ['given' => $given->all()], new Response(status: 422));
        }

        return $this->redirectToRoute('term', ['id' => $id], 303);
    }
}
