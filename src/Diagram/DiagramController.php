<?php

declare(strict_types=1);

namespace Fasti\Diagram;

use Fasti\Account\Account;
use Fasti\Account\Act\Act;
use Fasti\Core\Diagram\Detail;
use Fasti\Core\Diagram\PlacingError;
use Fasti\Core\Diagram\SvgDrawing;
use Fasti\Core\Diagram\TitleBlock;
use Fasti\Core\Wording\Amount;
use Fasti\Register\Entries;
use Fasti\Source\SourceStore;
use Symfony\Bundle\FrameworkBundle\Controller\AbstractController;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\Routing\Attribute\Route;
use Symfony\Component\Security\Http\Attribute\CurrentUser;
use Symfony\Component\Security\Http\Attribute\IsCsrfTokenValid;
use Symfony\Component\Security\Http\Attribute\IsGranted;

/** Diagrams that draw themselves: of a source, of a schema, of what an entry joins. */
final class DiagramController extends AbstractController
{
    private const ALL_UP_TO = 12;
    private const KEYS_UP_TO = 60;

    public function __construct(
        private readonly SourceStore $sources,
        private readonly RegisterDiagram $diagrams,
        private readonly Entries $entries,
        private readonly Beginning $beginning,
        private readonly Answer $answer,
    ) {
    }

    #[Route('/diagrams/sources/{id<\d+>}.{_format}', name: 'diagram_source', defaults: ['_format' => 'html'], requirements: ['_format' => 'html|svg|png|pdf'],
        methods: ['GET'])]
    public function source(Request $request, int $id, string $_format, #[CurrentUser] Account $account): Response
    {
        $schema = $request->query->getString('schema');
        $source = $this->sources->all()[$id]->name ?? throw $this->createNotFoundException('There is no such source.');
        $what = '' === $schema ? 'source' : 'schema';

        return $this->drawn($request, $_format, $account, new Automatic(
            Scope::source($id, '' === $schema ? null : $schema),
            $schema ?: $source,
            "All entries of the $what and how they join",
            $source,
            'diagram_source',
            ['id' => $id, 'schema' => $schema ?: null],
        ));
    }

    #[Route('/diagrams/entries/{id<\d+>}.{_format}', name: 'diagram_entry', defaults: ['_format' => 'html'], requirements: ['_format' => 'html|svg|png|pdf'],
        methods: ['GET'])]
    public function entry(Request $request, int $id, string $_format, #[CurrentUser] Account $account): Response
    {
        $entry = $this->entries->one($id) ?? throw $this->createNotFoundException('There is no such entry in the register.');
        $steps = max(1, min(4, $request->query->getInt('steps', 1)));
        $beyond = Selection::numbers($request->query->getString('beyond'));

        return $this->drawn($request, $_format, $account, new Automatic(
            Scope::entry($id, $steps, $beyond),
            $entry->title,
            'The entry and what it joins',
            $entry->sourceName,
            'diagram_entry',
            ['id' => $id, 'steps' => 1 === $steps ? null : $steps, 'beyond' => [] === $beyond ? null : implode(',', $beyond)],
        ));
    }

    /** Keeps an automatic diagram as it stands. */
    #[Route('/diagrams/sources/{id<\d+>}/keep', name: 'diagram_source_keep', methods: ['POST'])]
    #[Route('/diagrams/entries/{id<\d+>}/keep', name: 'diagram_entry_keep', methods: ['POST'])]
    #[IsGranted(Act::DESCRIBE)]
    #[IsCsrfTokenValid('diagrams')]
    public function keep(Request $request, int $id, string $_route, #[CurrentUser] Account $account): Response
    {
        $ofEntry = 'diagram_entry_keep' === $_route;
        $schema = $request->query->getString('schema');
        $entry = $ofEntry ? $this->entries->one($id) : null;
        $source = $this->sources->all()[$id]->name ?? null;
        if (null === ($ofEntry ? $entry : $source)) {
            throw $this->createNotFoundException('What this diagram was of is not there any more.');
        }
        $scope = null === $entry
            ? Scope::source($id, '' === $schema ? null : $schema)
            : Scope::entry($id, $request->query->getInt('steps', 1), Selection::numbers($request->query->getString('beyond')));
        $name = null === $entry ? $schema ?: (string) $source : 'Around '.$entry->title;
        $members = $this->diagrams->members($scope);
        if (\count($members) > Selection::MOST) {
            $this->addFlash('notice', \sprintf('A diagram of %s would show nothing. Choose some of them.', Amount::of(\count($members), 'entry')));

            return $this->redirectToRoute(substr($_route, 0, -5), ['id' => $id]);
        }
        $detail = $this->detail($request, \count($members));
        $layout = $this->diagrams->layout($scope, $members, new Look($detail, static fn (): string => '', around: $entry?->id));
        $diagram = $this->beginning->begin($account, $name, '', $layout->places(), $detail);

        return $this->redirectToRoute('diagram', ['id' => $diagram->id()], 303);
    }

    private function detail(Request $request, int $count): Detail
    {
        $usual = match (true) {
            $count <= self::ALL_UP_TO => Detail::All,
            $count <= self::KEYS_UP_TO => Detail::Keys,
            default => Detail::Names,
        };

        return Detail::tryFrom($request->query->getString('detail')) ?? $usual;
    }

    private function drawn(Request $request, string $format, Account $account, Automatic $of): Response
    {
        $members = $this->diagrams->members($of->scope);
        $count = \count($members);
        if ('html' === $format && $of->isMap($count) && !$request->query->has('detail')) {
            return $this->redirectToRoute('diagram_map', $of->address);
        }
        $detail = $this->detail($request, $count);
        $names = $request->query->getString('names', 'business');
        $folded = Selection::numbers($request->query->getString('fold'));
        $address = $of->address + [
            'detail' => $request->query->has('detail') ? $detail->value : null,
            'names' => 'business' === $names ? null : $names,
            'fold' => [] === $folded ? null : implode(',', $folded),
        ];
        $look = new Look(
            $detail,
            fn (int $id): string => $this->generateUrl('entry', ['id' => $id], $this->answer->addresses($format)),
            'business' === $names,
            $folded,
            $of->scope->entry,
            words: $this->diagrams->words($members),
            leads: null !== $of->scope->entry,
        );
        try {
            $layout = 'pdf' === $format ? $this->diagrams->onPaper($members, $look) : $this->diagrams->layout($of->scope, $members, $look);
        } catch (PlacingError $e) {
            return new Response($e->getMessage(), 500, ['Content-Type' => 'text/plain; charset=UTF-8']);
        }
        $block = new TitleBlock($of->name, $of->purpose, $of->source, $account->name, date('j M Y'), RegisterDiagram::counted($layout));
        if ('html' !== $format) {
            return $this->answer->file($request, $layout, $block, $format);
        }

        return $this->render($this->answer->isFetched($request) ? 'diagram/_drawing.html.twig' : 'diagram/show.html.twig', [
            'of' => $of, 'svg' => SvgDrawing::draw($layout, $block), 'detail' => $detail, 'names' => $names, 'address' => $address,
            'folded' => $folded, 'count' => $count, 'members' => $members, 'words' => SvgDrawing::inWords($layout),
        ]);
    }
}
