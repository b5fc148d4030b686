<?php

declare(strict_types=1);

namespace Fasti\Core\Join;

/**
 * The best chains of joins between two nodes that pass no node twice.
 *
 * Distances from the goal are found first (E. W. Dijkstra, 1959); they are then the exact bound by which a best-first search
 * (P. Hart, N. Nilsson, B. Raphael, "A Formal Basis for the Heuristic Determination of Minimum Cost Paths", 1968) lets beginnings
 * of routes wait, so that the routes come out in the order of their cost. What a turn costs (see Turns) hangs on the step before: distances are of a node and
 * the way on which it is reached.
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
    /** @var array<int, list<array{int, int, float}>> node → nodes from which it is reached, the way of the step, and its least cost */
    private array $back = [];
    private readonly Turns $turns;

    /** @param list<Link> $links */
    public function __construct(array $links)
    {
        $this->turns = new Turns($links);
        $least = [];
        foreach ($links as $link) {
            foreach ($link->from === $link->to ? [] : [true, false] as $forth) {
                $step = new Step($link, $forth);
                $this->steps[$step->from()][] = $step;
                $way = Turns::way($step);
                $least[$step->to()][$step->from()][$way] = min(self::cost($step), $least[$step->to()][$step->from()][$way] ?? \INF);
            }
        }
        foreach ($least as $to => $from) {
            foreach ($from as $node => $ways) {
                foreach ($ways as $way => $cost) {
                    $this->back[$to][] = [$node, $way, $cost];
                }
            }
        }
    }

    /** By length, by how certain it is, and whether it multiplies rows. */
    private static function cost(Step $step): float
    {
        return 1.0 + ($step->multiplies() ? self::MULTIPLIED : 0.0) + ($step->drops() ? self::DROPPED : 0.0) + 3.0 * -log(max(0.01, $step->link->certainty));
    }

    /** @return list<Route> the plainest first; none where there is no chain of at most LONGEST joins */
    public function between(int $from, int $to, int $most = self::MOST, int $longest = self::LONGEST): array
    {
        if ($from === $to) {
            return [];
        }
        [$distance, $hops] = $this->distances($to, $longest);
        if (!isset($hops[$from])) {
            return [];
        }
        $sorted = [];
        $queue = new \SplPriorityQueue();
        $serial = 0;
        // A beginning: node, cost so far, the step that led here, the beginning before, its length, its way. Of the steps that go on from
        // it only the best waits in the queue; the next best follows when that one is taken. So hubs cost little.
        $put = function (array $begun, int $at) use (&$sorted, $queue, &$serial, $distance, $hops, $longest): void {
            /** @var array{int, float, ?Step, ?array<mixed>, int, int} $begun */
            $here = 3 * $begun[0] + $begun[5];
            $sorted[$here] ??= $this->sorted($begun[0], $begun[5], $distance);
            for ($n = \count($sorted[$here]); $at < $n; ++$at) {
                [$worth, $step] = $sorted[$here][$at];
                if ($begun[4] + 1 + $hops[$step->to()] <= $longest && !self::passes($begun, $step->to())) {
                    $queue->insert([$begun, $at], [-($begun[1] + $worth), --$serial]);

                    return;
                }
            }
        };
        $put([$from, 0.0, null, null, 0, Turns::LEVEL], 0);
        $found = [];
        for ($patience = self::PATIENCE; !$queue->isEmpty() && $patience > 0 && \count($found) < $most; --$patience) {
            /** @var array{array{int, float, ?Step, ?array<mixed>, int, int}, int} $top */
            $top = $queue->extract();
            [$begun, $at] = $top;
            $step = $sorted[3 * $begun[0] + $begun[5]][$at][1];
            $put($begun, $at + 1);
            $way = Turns::way($step);
            $cost = $begun[1] + self::cost($step) + $this->turns->cost($begun[0], $begun[5], $way);
            $next = [$step->to(), $cost, $step, $begun, $begun[4] + 1, Turns::after($begun[5], $way)];
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
     * @return list<array{float, Step}> the steps from a node that is reached on a way, with the least that a route over each adds
     */
    private function sorted(int $node, int $before, array $distance): array
    {
        $steps = [];
        foreach ($this->steps[$node] ?? [] as $step) {
            $way = Turns::way($step);
            $on = $distance[3 * $step->to() + Turns::after($before, $way)] ?? null;
            if (null !== $on) {
                $steps[] = [self::cost($step) + $this->turns->cost($node, $before, $way) + $on, $step];
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

    /** @return array{array<int, float>, array<int, int>} least cost to the goal, of 3 × node + way on which it is reached; least number of joins, of a node */
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
        $distance = [];
        $queue = new \SplPriorityQueue();
        $queue->setExtractFlags(\SplPriorityQueue::EXTR_BOTH);
        foreach ([Turns::LEVEL, Turns::UP, Turns::DOWN] as $way) {
            $distance[3 * $to + $way] = 0.0;
            $queue->insert(3 * $to + $way, 0.0);
        }
        while (!$queue->isEmpty()) {
            /** @var array{data: int, priority: float} $top */
            $top = $queue->extract();
            $here = $top['data'];
            if (-$top['priority'] > $distance[$here] + 1e-12) {
                continue;
            }
            foreach ($this->back[intdiv($here, 3)] ?? [] as [$before, $step, $cost]) {
                foreach (isset($hops[$before]) ? [Turns::LEVEL, Turns::UP, Turns::DOWN] : [] as $way) {
                    $so = $distance[$here] + $cost + $this->turns->cost($before, $way, $step);
                    if (Turns::after($way, $step) === $here % 3 && $so < ($distance[3 * $before + $way] ?? \INF)) {
                        $distance[3 * $before + $way] = $so;
                        $queue->insert(3 * $before + $way, -$so);
                    }
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
