<?php

declare(strict_types=1);

namespace Fasti\Diagram;

use Fasti\Account\Account;
use Fasti\Core\Diagram\Detail;
use Fasti\Core\Diagram\Layout;
use Fasti\Core\Diagram\Path;
use Fasti\Core\Diagram\PlacingError;
use Fasti\Core\Diagram\SvgDrawing;
use Fasti\Core\Diagram\TitleBlock;
use Fasti\Core\Wording\Amount;
use Fasti\Register\Entries;
use Fasti\Register\EntryStore;
use Fasti\Register\Joins;
use Fasti\Source\SourceStore;
use Symfony\Bundle\FrameworkBundle\Controller\AbstractController;
use Symfony\Component\HttpFoundation\HeaderUtils;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\Routing\Attribute\Route;
use Symfony\Component\Security\Http\Attribute\CurrentUser;

final class DiagramController extends AbstractController
{
    private const ALL_UP_TO = 12;
    private const KEYS_UP_TO = 60;

    public function __construct(
        private readonly EntryStore $store,
        private readonly Joins $joins,
        private readonly SourceStore $sources,
        private readonly RegisterDiagram $diagrams,
        private readonly Entries $entries,
        private readonly Fonts $fonts,
        private readonly Raster $raster,
    ) {
    }

    #[Route('/diagrams', name: 'diagrams', methods: ['GET'])]
    public function list(): Response
    {
        return $this->render('diagram/list.html.twig', [
            'sources' => $this->sources->all(), 'entries' => $this->store->countsBySchema(), 'joins' => $this->joins->counts(), 'most' => RegisterDiagram::MOST,
        ]);
    }

    #[Route('/diagrams/sources/{id<\d+>}.{_format}', name: 'diagram_source', defaults: ['_format' => 'html'], requirements: ['_format' => 'html|svg|png'], methods: ['GET'])]
    public function source(Request $request, int $id, string $_format, #[CurrentUser] Account $account): Response
    {
        $schema = $request->query->getString('schema');
        $source = $this->sources->all()[$id]['name'] ?? throw $this->createNotFoundException('There is no such source.');

        return $this->drawn($request, Scope::source($id, '' === $schema ? null : $schema), '' === $schema ? $source : $schema, '' === $schema ? 'All entries of the source and how they join' : 'All entries of the schema and how they join', $source, $_format, $account, ['id' => $id, 'schema' => '' === $schema ? null : $schema], 'diagram_source');
    }

    #[Route('/diagrams/entries/{id<\d+>}.{_format}', name: 'diagram_entry', defaults: ['_format' => 'html'], requirements: ['_format' => 'html|svg|png'], methods: ['GET'])]
    public function entry(Request $request, int $id, string $_format, #[CurrentUser] Account $account): Response
    {
        $entry = $this->entries->one($id) ?? throw $this->createNotFoundException('There is no such entry in the register.');

        return $this->drawn($request, Scope::entry($id), $entry->title, 'The entry and what it joins', $entry->sourceName, $_format, $account, ['id' => $id], 'diagram_entry');
    }

    /** @param array<string, int|string|null> $address */
    private function drawn(Request $request, Scope $scope, string $name, string $purpose, string $source, string $format, Account $account, array $address, string $route): Response
    {
        $members = $this->diagrams->members($scope);
        $count = \count($members);
        $detail = Detail::tryFrom($request->query->getString('detail')) ?? ($count <= self::ALL_UP_TO ? Detail::All : ($count <= self::KEYS_UP_TO ? Detail::Keys : Detail::Names));
        $names = $request->query->getString('names', 'business');
        $folded = array_map(intval(...), array_values(array_filter(explode(',', $request->query->getString('fold')), is_numeric(...))));
        $address += ['detail' => $request->query->has('detail') ? $detail->value : null, 'names' => 'business' === $names ? null : $names, 'fold' => [] === $folded ? null : implode(',', $folded)];
        $error = null;
        $svg = '';
        try {
            $layout = $this->diagrams->layout($scope, $members, $detail, 'business' === $names, $folded, fn (int $id): string => $this->generateUrl('entry', ['id' => $id]));
            $block = new TitleBlock(
                $name,
                $purpose,
                $source,
                $account->name,
                date('j M Y'),
                \sprintf('%s, %s', Amount::of($count, 'entry'), self::joins($layout)),
            );
            $svg = SvgDrawing::draw($layout, $block, 'html' !== $format, 'html' === $format ? [] : $this->fonts->embedded());
        } catch (TooLarge|PlacingError $e) {
            $error = $e->getMessage();
        }
        if ('html' !== $format) {
            return null === $error ? $this->download($svg, $format, $name) : new Response($error, 422, ['Content-Type' => 'text/plain; charset=UTF-8']);
        }

        return $this->render('fetch' === $request->headers->get('X-Requested-With') ? 'diagram/_drawing.html.twig' : 'diagram/show.html.twig', [
            'name' => $name, 'purpose' => $purpose, 'svg' => $svg, 'error' => $error, 'detail' => $detail, 'names' => $names, 'address' => $address, 'route' => $route, 'folded' => $folded, 'count' => $count,
        ], new Response(status: null === $error ? 200 : 422));
    }

    /** How many joins a drawing shows; those that are only proposed are not counted among them. */
    private static function joins(Layout $layout): string
    {
        $proposed = \count(array_filter($layout->paths, static fn (Path $path): bool => 'proposed' === $path->line->kind));

        return Amount::of(\count($layout->paths) - $proposed, 'join').(0 === $proposed ? '' : \sprintf(' and %s proposed', Amount::count($proposed)));
    }

    private function download(string $svg, string $format, string $name): Response
    {
        $file = preg_replace('/[^\w.-]+/u', '-', $name).'.'.$format;
        try {
            $body = 'png' === $format ? $this->raster->png($svg) : $svg;
        } catch (\RuntimeException $e) {
            return new Response($e->getMessage(), 500, ['Content-Type' => 'text/plain; charset=UTF-8']);
        }

        return new Response($body, 200, [
            'Content-Type' => 'png' === $format ? 'image/png' : 'image/svg+xml',
            'Content-Disposition' => HeaderUtils::makeDisposition('attachment', $file, preg_replace('/[^\x20-\x7E]|[%\/\\\\]/', '-', $file) ?? 'diagram.'.$format),
        ]);
    }
}
