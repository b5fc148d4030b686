<?php

declare(strict_types=1);

namespace Fasti\Join;

use Doctrine\ORM\EntityManagerInterface;
use Fasti\Account\Account;
use Fasti\Account\Act\Act;
use Fasti\Core\Catalog\Place;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Join\LookAlikes;
use Fasti\Core\Join\Route as Way;
use Fasti\Core\Join\Routes;
use Fasti\Core\Join\RouteSql;
use Fasti\Core\Join\Step;
use Fasti\Register\EntryAt;
use Fasti\Register\EntryStore;
use Fasti\Register\Joins;
use Fasti\Register\JoinView;
use Fasti\Source\Source;
use Fasti\Source\SourceStore;
use Fasti\Work\Jobs;
use Symfony\Bundle\FrameworkBundle\Controller\AbstractController;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\Routing\Attribute\Route;
use Symfony\Component\Security\Http\Attribute\CurrentUser;
use Symfony\Component\Security\Http\Attribute\IsCsrfTokenValid;
use Symfony\Component\Security\Http\Attribute\IsGranted;

/** How one gets from an entry to another. */
final class RouteController extends AbstractController
{
    public function __construct(
        private readonly SourceGraph $graph,
        private readonly EntryStore $entries,
        private readonly Joins $joins,
        private readonly SourceStore $sources,
        private readonly Jobs $jobs,
        private readonly CountJob $kind,
        private readonly EntityManagerInterface $orm,
    ) {
    }

    #[Route('/register/route', name: 'route', methods: ['GET'])]
    public function show(Request $request): Response
    {
        $from = $request->query->getInt('from');
        $to = $request->query->getInt('to');
        $placed = $this->entries->placed(array_values(array_filter([$from, $to])));
        $job = CountJob::ofSource($this->jobs->find($request->query->getInt('job')), $placed[$from]->source ?? 0);
        $data = [
            'from' => $placed[$from] ?? null,
            'to' => $placed[$to] ?? null,
            'fromId' => $from,
            'toId' => $to,
            'routes' => null,
            'near' => [],
            'job' => $job,
            'counted' => -1,
            'answers' => [],
        ];
        if (!isset($placed[$from], $placed[$to])) {
            return $this->render('join/route.html.twig', $data + ['placed' => $placed]);
        }
        [$found, $routes] = $this->found($from, $to);
        $nodes = array_values(array_unique(array_merge([$from, $to], ...array_map(static fn (Way $way): array => $way->nodes(), $found))));
        $near = [];
        if ([] === $found) {
            $near = [$from => $routes->near($from, 6), $to => $routes->near($to, 6)];
            array_push($nodes, ...$near[$from], ...$near[$to]);
        }
        $placed = $this->entries->placed($nodes);
        $places = array_map(static fn (EntryAt $one): Place => $one->place, $placed);
        $sql = new RouteSql(Dialects::of($this->sources->engine($placed[$from]->source)), $places);
        $asked = CountJob::questions($job);
        $counted = -1;
        foreach ([] === $asked ? [] : $found as $number => $way) {
            if (self::questions($way, $sql) === $asked) {
                $counted = $number;
            }
        }
        $ids = array_map(static fn (Way $way): array => array_map(static fn (Step $step): int => $step->link->id, $way->steps), $found);
        $views = $this->joins->many(array_values(array_unique(array_merge(...$ids ?: [[]]))));

        return $this->render('join/route.html.twig', [
            'routes' => array_map(
                static fn (Way $way, array $told): array => ['way' => $way, 'told' => $told, 'sql' => $sql->select($way), 'steps' => self::steps($way, $views)],
                $found,
                LookAlikes::told($found),
            ),
            'placed' => $placed, 'near' => $near, 'counted' => $counted, 'answers' => array_values(CountJob::answers($job)),
        ] + $data);
    }

    /** The rows after each step of one route. */
    #[Route('/register/route/count', name: 'route_count', methods: ['POST'])]
    #[IsGranted(Act::ASK)]
    #[IsCsrfTokenValid('joins')]
    public function count(Request $request, #[CurrentUser] Account $account): Response
    {
        $from = $request->request->getInt('from');
        $to = $request->request->getInt('to');
        $number = $request->request->getInt('number');
        $placed = $this->entries->placed(array_values(array_filter([$from, $to])));
        [$found] = isset($placed[$from], $placed[$to]) ? $this->found($from, $to) : [[]];
        $way = $found[$number] ?? throw $this->createNotFoundException('This route is not there any more.');
        $source = $this->orm->find(Source::class, $placed[$from]->source) ?? throw $this->createNotFoundException('There is no such source.');
        $sql = new RouteSql(Dialects::of($this->sources->engine($source->id())), $this->graph->places($way->nodes()));
        $job = $this->jobs->start(
            $this->kind,
            'count '.$source->id(),
            CountJob::payload($source->id(), self::questions($way, $sql), 'route', ['from' => $from, 'to' => $to]),
            $account,
        );

        return $this->redirectToRoute('route', ['from' => $from, 'to' => $to, 'job' => $job->id()], 303);
    }

    /** @return list<string> how many rows there are to begin with, and after each step */
    private static function questions(Way $way, RouteSql $sql): array
    {
        return array_map(static fn (int $steps): string => $sql->select($way, $steps, 'COUNT(*) AS n'), range(0, \count($way->steps)));
    }

    /** @return array{list<Way>, Routes} */
    private function found(int $from, int $to): array
    {
        $source = $this->entries->sources([$from, $to]);
        // Rows of two sources are never in one statement; a route stays within one.
        $links = ($source[$from] ?? 0) === ($source[$to] ?? -1) ? $this->graph->links($source[$from]) : [];
        $routes = new Routes($links);

        return [$routes->between($from, $to), $routes];
    }

    /**
     * @param array<int, JoinView> $views
     *
     * @return list<array{step: Step, join: ?JoinView}>
     */
    private static function steps(Way $way, array $views): array
    {
        return array_map(static fn (Step $step): array => ['step' => $step, 'join' => $views[$step->link->id] ?? null], $way->steps);
    }
}
