<?php

declare(strict_types=1);

namespace Fasti\Core\Join;

/**
 * The best chains of joins between two nodes that pass no node twice.
 *
 * Distances from the goal are found first (E. W. Dijkstra, 1959); they are then the exact bound by which a best-first search
 * (P. Hart, N. Nilsson, B. Raphael, "A Formal Basis for the Heuristic Determination of Minimum Cost Paths", 1968) lets beginnings
 * of routes wait, so that the routes come out in the order of their cost.
 */
final class Routes
{
    public const LONGEST = 6;
    public const MOST = 20;
    /** Beginnings of routes that may be looked at before the search is given up. */
    private const PATIENCE = 60000;
    private const MULTIPLIED = 0.75;
    private const DROPPED = 0.1;

    /** @var array<int, list<Step>> */
    private array $steps = [];
    /** @var array<int, list<array{int, float}>> node → nodes from which it is reached, with the least cost */
    private array $back = [];

    /** @param list<Link> $links */
    public function __construct(array $links)
    {
        $least = [];
        foreach ($links as $link) {
            foreach ($link->from === $link->to ? [] : [true, false] as $forth) {
                $step = new Step($link, $forth);
                $this->steps[$step->from()][] = $step;
                $cost = self::cost($step);
                $least[$step->to()][$step->from()] = min($cost, $least[$step->to()][$step->from()] ?? \INF);
            }
        }
        foreach ($least as $to => $from) {
            foreach ($from as $node => $cost) {
                $this->back[$to][] = [$node, $cost];
            }
        }
    }

    /** By length first, then by how certain it is and whether it multiplies rows. */
    private static function cost(Step $step): float
    {
        return 1.0 + ($step->multiplies() ? self::MULTIPLIED : 0.0) + ($step->drops() ? self::DROPPED : 0.0) + 3.0 * -log(max(0.01, $step->link->certainty));
    }

    /** @return list<Route> the best first; none where there is no chain of at most LONGEST joins */
    public function between(int $from, int $to, int $most = self::MOST, int $longest = self::LONGEST): array
    {
        if ($from === $to) {
            return [];
        }
        [$distance, $hops] = $this->distances($to, $longest);
        if (!isset($distance[$from])) {
            return [];
        }
        $sorted = [];
        $queue = new \SplPriorityQueue();
        $serial = 0;
        // A beginning: node, cost so far, the step that led here, the beginning before, its length. Of the steps that go on from
        // it only the best waits in the queue; the next best follows when that one is taken. So hubs cost little.
        $put = function (array $begun, int $at) use (&$sorted, $queue, &$serial, $distance, $hops, $longest): void {
            /** @var array{int, float, ?Step, ?array<mixed>, int} $begun */
            $sorted[$begun[0]] ??= $this->sorted($begun[0], $distance);
            for ($n = \count($sorted[$begun[0]]); $at < $n; ++$at) {
                [$worth, $step] = $sorted[$begun[0]][$at];
                if ($begun[4] + 1 + $hops[$step->to()] <= $longest && !self::passes($begun, $step->to())) {
                    $queue->insert([$begun, $at], [-($begun[1] + $worth), --$serial]);

                    return;
                }
            }
        };
        $put([$from, 0.0, null, null, 0], 0);
        $found = [];
        for ($patience = self::PATIENCE; !$queue->isEmpty() && $patience > 0 && \count($found) < $most; --$patience) {
            /** @var array{array{int, float, ?Step, ?array<mixed>, int}, int} $top */
            $top = $queue->extract();
            [$begun, $at] = $top;
            $step = $sorted[$begun[0]][$at][1];
            $put($begun, $at + 1);
            $next = [$step->to(), $begun[1] + self::cost($step), $step, $begun, $begun[4] + 1];
            if ($step->to() === $to) {
                $found[] = new Route(self::steps($next), $next[1]);
            } else {
                $put($next, 0);
            }
        }

        return $found;
    }

    /**
     * @param array<int, float> $distance
     *
     * @return list<array{float, Step}> the steps from a node, with the least that a route over each adds
     */
    private function sorted(int $node, array $distance): array
    {
        $steps = [];
        foreach ($this->steps[$node] ?? [] as $step) {
            if (isset($distance[$step->to()])) {
                $steps[] = [self::cost($step) + $distance[$step->to()], $step];
            }
        }
        usort($steps, static fn (array $a, array $b): int => $a[0] <=> $b[0]);

        return $steps;
    }

    /** @param array<mixed> $begun */
    private static function passes(array $begun, int $node): bool
    {
        for ($at = $begun; \is_array($at); $at = $at[3]) {
            if ($at[0] === $node) {
                return true;
            }
        }

        return false;
    }

    /** @return list<int> nodes that joins lead to from one, the nearest first */
    public function near(int $node, int $most): array
    {
        $seen = [$node => true];
        $wave = [$node];
        $found = [];
        while ([] !== $wave && \count($found) < $most) {
            $next = [];
            foreach ($wave as $here) {
                foreach ($this->steps[$here] ?? [] as $step) {
                    if (!isset($seen[$step->to()])) {
                        $seen[$step->to()] = true;
                        $next[] = $found[] = $step->to();
                    }
                }
            }
            $wave = $next;
        }

        return \array_slice($found, 0, $most);
    }

    /** @return array{array<int, float>, array<int, int>} least cost to the goal, and least number of joins */
    private function distances(int $to, int $longest): array
    {
        $hops = [$to => 0];
        $wave = [$to];
        for ($n = 1; $n <= $longest && [] !== $wave; ++$n) {
            $next = [];
            foreach ($wave as $node) {
                foreach ($this->back[$node] ?? [] as [$before]) {
                    if (!isset($hops[$before])) {
                        $hops[$before] = $n;
                        $next[] = $before;
                    }
                }
            }
            $wave = $next;
        }
        $distance = [$to => 0.0];
        $queue = new \SplPriorityQueue();
        $queue->setExtractFlags(\SplPriorityQueue::EXTR_BOTH);
        $queue->insert($to, 0.0);
        while (!$queue->isEmpty()) {
            /** @var array{data: int, priority: float} $top */
            $top = $queue->extract();
            $node = $top['data'];
            if (-$top['priority'] > $distance[$node] + 1e-12) {
                continue;
            }
            foreach ($this->back[$node] ?? [] as [$before, $cost]) {
                $so = $distance[$node] + $cost;
                if (isset($hops[$before]) && $so < ($distance[$before] ?? \INF)) {
                    $distance[$before] = $so;
                    $queue->insert($before, -$so);
                }
            }
        }

        return [$distance, $hops];
    }

    /**
     * @param array<mixed> $begun
     *
     * @return non-empty-list<Step>
     */
    private static function steps(array $begun): array
    {
        $steps = [];
        for ($at = $begun; \is_array($at) && $at[2] instanceof Step; $at = $at[3]) {
            array_unshift($steps, $at[2]);
        }

        return $steps ?: throw new \LogicException('A route has a step at least.');
    }
}
