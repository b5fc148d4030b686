<?php

declare(strict_types=1);

namespace Fasti\Diagram;

use Fasti\Account\Account;
use Fasti\Account\Act\Act;
use Fasti\Core\Diagram\Arrangement;
use Fasti\Core\Diagram\Leading\Rect;
use Fasti\Core\Diagram\PlacingError;
use Fasti\Core\Diagram\Scene;
use Fasti\Core\Diagram\SceneError;
use Fasti\Core\Diagram\SvgDrawing;
use Fasti\Core\Diagram\SvgLine;
use Fasti\Text\BadText;
use Symfony\Bundle\FrameworkBundle\Controller\AbstractController;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\Routing\Attribute\Route;
use Symfony\Component\Security\Http\Attribute\CurrentUser;
use Symfony\Component\Security\Http\Attribute\IsCsrfTokenValid;
use Symfony\Component\Security\Http\Attribute\IsGranted;

/** What the script of a diagram asks for while somebody works on it. */
final class BoardController extends AbstractController
{
    public function __construct(
        private readonly Diagrams $diagrams,
        private readonly KeptDrawing $drawing,
        private readonly RegisterDiagram $register,
        private readonly Board $board,
        private readonly Pieces $pieces,
    ) {
    }

    /**
     * Leads lines anew round what has moved. The scene comes with the question, so that nothing has to be read for the answer.
     */
    #[Route('/diagrams/lead', name: 'diagram_lead', methods: ['POST'])]
    #[IsGranted(Act::READ)]
    public function lead(Request $request): JsonResponse
    {
        $given = self::given($request);
        $open = \is_array($given['scene'] ?? null) ? $given['scene'] : [];
        $moved = array_values(array_filter(\is_array($given['moved'] ?? null) ? $given['moved'] : [], is_string(...)));
        try {
            $before = Scene::fromOpen($open);
        } catch (SceneError $e) {
            return $this->json(['error' => $e->getMessage()], 422);
        }
        $scene = $before->setDown($moved);
        $ways = Scene::ways($given['ways'] ?? null);
        $lines = [];
        foreach ($scene->lead($ways) as $path) {
            if ($path->points !== ($ways[$path->line->id] ?? null)) {
                $lines[$path->line->id] = ['points' => $path->points, 'svg' => SvgLine::inside($path)];
            }
        }
        $places = array_map(static fn (Rect $rect): array => [$rect->x, $rect->y], array_intersect_key($scene->pieces, array_flip($moved)));

        return $this->json(['places' => (object) $places, 'lines' => (object) $lines]);
    }

    /** Writes what was done, and tells what others have done meanwhile. */
    #[Route('/diagrams/{id<\d+>}/changes', name: 'diagram_changes', methods: ['POST'])]
    #[IsGranted(Act::DESCRIBE)]
    #[IsCsrfTokenValid('texts', tokenKey: 'X-Csrf-Token', tokenSource: IsCsrfTokenValid::SOURCE_HEADER)]
    public function changes(Request $request, int $id, #[CurrentUser] Account $account): JsonResponse
    {
        $diagram = $this->diagrams->one($id) ?? throw $this->createNotFoundException('There is no such diagram.');
        $given = self::given($request);
        $changes = \is_array($given['changes'] ?? null) ? $given['changes'] : [];
        $since = \is_int($given['since'] ?? null) ? $given['since'] : $diagram->moves;
        $arrangement = $this->drawing->arrangement($diagram);
        [$come, $wished] = self::coming($changes, $arrangement);
        if ([] !== $come) {
            $keys = array_flip(array_map(static fn (int $entry): string => 't'.$entry, $come));
            $changes = array_merge(array_diff_key($changes, $keys), $this->drawing->placed($arrangement, $come, $wished));
        }
        try {
            $done = $this->board->apply(
                $account,
                $id,
                $changes,
                Scene::ways($given['ways'] ?? null),
                $since,
                \is_string($given['sitting'] ?? null) ? $given['sitting'] : '',
            );
        } catch (BadText $e) {
            return $this->json(['error' => $e->getMessage()], 422);
        }
        $others = $this->pieces->since($id, $since, $account->id());
        $anew = true === ($given['draw'] ?? null) || [] !== $others;

        return $this->json(
            $done + ['others' => (object) array_map(static fn (array $change): string => $change['by'], $others)]
            + ($anew ? $this->drawn($this->diagrams->fresh($diagram), $request) : []),
        );
    }

    /** What others have done since a move. */
    #[Route('/diagrams/{id<\d+>}/changes', name: 'diagram_news', methods: ['GET'])]
    public function news(Request $request, int $id, #[CurrentUser] Account $account): JsonResponse
    {
        $diagram = $this->diagrams->one($id) ?? throw $this->createNotFoundException('There is no such diagram.');
        $others = $this->pieces->since($id, $request->query->getInt('since'), $account->id());

        return $this->json(
            ['move' => $diagram->moves, 'others' => (object) array_map(static fn (array $change): string => $change['by'], $others)]
            + ([] === $others && !$request->query->has('draw') ? [] : $this->drawn($diagram, $request)),
        );
    }

    /** Places for a diagram, which the script then applies as a change that can be undone. */
    #[Route('/diagrams/{id<\d+>}/arrange', name: 'diagram_arrange', methods: ['GET'])]
    #[IsGranted(Act::DESCRIBE)]
    public function arrange(Request $request, int $id): JsonResponse
    {
        $diagram = $this->diagrams->one($id) ?? throw $this->createNotFoundException('There is no such diagram.');
        $arrangement = $this->drawing->arrangement($diagram);
        try {
            $changes = $this->drawing->arrange($arrangement, $this->drawing->entries($arrangement), $request->query->getString('how', 'all'));
        } catch (PlacingError $e) {
            return $this->json(['error' => $e->getMessage()], 500);
        }

        return $this->json(['changes' => (object) $changes]);
    }

    /**
     * Entries that are to come to a diagram, and where, for those that somebody has let fall on a place.
     *
     * @param array<mixed> $changes
     *
     * @return array{list<int>, array<int, array{float, float}>}
     */
    private static function coming(array $changes, Arrangement $arrangement): array
    {
        $come = $wished = [];
        foreach ($changes as $key => $value) {
            $entry = Arrangement::entry((string) $key);
            if (null === $entry || isset($arrangement->pieces[(string) $key]) || !\is_array($value)) {
                continue;
            }
            $x = $value['x'] ?? null;
            $y = $value['y'] ?? null;
            // A tablet that comes back by undo has its place, and perhaps more; only one that is new is found a place for.
            if ([] === $value || true === ($value['drop'] ?? null)) {
                $come[] = $entry;
            }
            if (true === ($value['drop'] ?? null) && (\is_int($x) || \is_float($x)) && (\is_int($y) || \is_float($y))) {
                $wished[$entry] = [(float) $x, (float) $y];
            }
        }

        return [$come, $wished];
    }

    /** @return array<string, mixed> the drawing as it is now, for a script that shows it */
    private function drawn(Diagram $diagram, Request $request): array
    {
        $arrangement = $this->drawing->arrangement($diagram);
        $entries = $this->drawing->entries($arrangement);
        $known = Known::fromJson($diagram->known)->with($entries)->json();
        if ($known !== $diagram->known && $this->isGranted(Act::DESCRIBE)) {
            $diagram->known = $known;
            $this->diagrams->save();
        }
        $business = 'identifiers' !== $request->query->getString('names');
        $look = $this->drawing->look($entries, fn (int $entry): string => $this->generateUrl('entry', ['id' => $entry]), $business);
        $layout = $this->drawing->layout($diagram, $arrangement, $entries, $look);
        if ($business) {
            $this->drawing->keepSmall($diagram, $layout);
        }

        return [
            'svg' => SvgDrawing::draw($layout, KeptDrawing::block($diagram, $entries, $layout)),
            'state' => Shown::state($diagram, $arrangement, $layout, $this->register->areas($arrangement->entries())),
        ];
    }

    /** @return array<mixed> */
    private static function given(Request $request): array
    {
        $given = json_decode($request->getContent(), true);

        return \is_array($given) ? $given : [];
    }
}
