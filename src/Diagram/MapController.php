<?php

declare(strict_types=1);

namespace Fasti\Diagram;

use Fasti\Core\Diagram\Detail;
use Fasti\Core\Diagram\Leading\Rect;
use Fasti\Core\Diagram\PlacingError;
use Fasti\Core\Diagram\Region;
use Fasti\Core\Diagram\SvgRegion;
use Fasti\Core\Wording\Amount;
use Fasti\Register\Entries;
use Fasti\Source\SourceStore;
use Symfony\Bundle\FrameworkBundle\Controller\AbstractController;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\Routing\Attribute\Route;

/** A source as a map, into which one goes. */
final class MapController extends AbstractController
{
    public function __construct(
        private readonly SourceStore $sources,
        private readonly SourceMap $map,
        private readonly Entries $entries,
    ) {
    }

    #[Route('/diagrams/map/{id<\d+>}', name: 'diagram_map', methods: ['GET'])]
    public function map(Request $request, int $id): Response
    {
        $source = $this->sources->all()[$id]->name ?? throw $this->createNotFoundException('There is no such source.');
        $schema = $request->query->getString('schema');
        try {
            $map = $this->map->of($id, $schema ?: null);
        } catch (PlacingError $e) {
            return new Response($e->getMessage(), 500, ['Content-Type' => 'text/plain; charset=UTF-8']);
        }
        $keys = array_keys($map['regions']);
        $number = array_flip($keys);
        $regions = $tablets = [];
        foreach ($map['regions'] as $key => $region) {
            $regions[] = self::region($region, \in_array($key, $map['proposed'], true));
            foreach ($region->tablets as $entry => $rect) {
                $tablets[$entry] = [$number[$key], $rect->x, $rect->y, $rect->width, $rect->height, $map['entries'][$entry]->title];
            }
        }

        return $this->render('diagram/map.html.twig', [
            'name' => $schema ?: $source, 'source' => $id, 'schema' => $schema, 'regions' => $regions, 'entries' => \count($tablets),
            'state' => [
                'regions' => $regions, 'tablets' => (object) $tablets, 'go' => $request->query->getInt('entry'),
                'between' => array_map(static fn (array $pair): array => [$number[$pair[0]], $number[$pair[1]], $pair[2]], $map['between']),
            ],
        ]);
    }

    /** What stands in a region: given where, since the page knows that already. */
    #[Route('/diagrams/map/region', name: 'diagram_region', methods: ['POST'])]
    public function inside(Request $request): Response
    {
        $given = json_decode($request->getContent(), true);
        $places = \is_array($given) ? self::places($given) : [];
        if ([] === $places || \count($places) > 2000) {
            return new Response('A region has entries, and where each of them stands.', 422, ['Content-Type' => 'text/plain; charset=UTF-8']);
        }
        $look = new Look(Detail::All, fn (int $entry): string => $this->generateUrl('entry', ['id' => $entry]));
        [$tablets, $lines] = RegisterDiagram::parts($this->entries->load(array_keys($places)), $look);

        return new Response(SvgRegion::inside($tablets, $lines, $places), 200, ['Content-Type' => 'image/svg+xml']);
    }

    /** @return array{key: string, name: string, words: string, proposed: bool, box: array{float, float, float, float}} */
    private static function region(Region $region, bool $proposed): array
    {
        $words = Amount::of(\count($region->tablets), 'entry').($proposed ? ', proposed' : '');
        $box = $region->box;

        return [
            'key' => $region->key,
            'name' => $region->name,
            'words' => $words,
            'proposed' => $proposed,
            'box' => [$box->x, $box->y, $box->width, $box->height],
        ];
    }

    /**
     * @param array<mixed> $given
     *
     * @return array<int, Rect>
     */
    private static function places(array $given): array
    {
        $places = [];
        foreach ($given as $entry => $rect) {
            $figures = array_values(array_filter(\is_array($rect) ? $rect : [], static fn (mixed $figure): bool => \is_int($figure) || \is_float($figure)));
            if (\is_int($entry) && 4 === \count($figures)) {
                $places[$entry] = new Rect((float) $figures[0], (float) $figures[1], (float) $figures[2], (float) $figures[3]);
            }
        }

        return $places;
    }
}
