<?php

declare(strict_types=1);

namespace Fasti\Core\Join;

/**
 * Joins that hold some nodes together, one fewer than there are nodes: grown from the node that refers to most others, always by the step
 * that multiplies no rows and is the most certain (Prim 1957).
 */
final readonly class Tree
{
    private const MULTIPLIES = 4.0;
    private const DROPS = 0.5;

    /**
     * @param list<Step> $steps  each from a node that is there already
     * @param list<Link> $unused further joins between the nodes
     * @param list<int>  $apart  nodes that no join leads to
     */
    private function __construct(public int $first, public array $steps, public array $unused, public array $apart)
    {
    }

    /**
     * @param non-empty-list<int> $nodes
     * @param list<Link>          $links
     */
    public static function of(array $nodes, array $links): self
    {
        $wanted = array_fill_keys($nodes, true);
        $links = array_values(array_filter($links, static fn (Link $link): bool => isset($wanted[$link->from], $wanted[$link->to])));
        $refers = array_fill_keys($nodes, 0);
        foreach ($links as $link) {
            $refers[$link->from] += $link->from === $link->to ? 0 : 1;
            $refers[$link->to] -= $link->from === $link->to ? 0 : 1;
        }
        $first = $nodes[0];
        foreach ($nodes as $node) {
            $first = $refers[$node] > $refers[$first] ? $node : $first;
        }
        $reached = [$first => true];
        $steps = $used = [];
        while (null !== $step = self::next($links, $reached)) {
            $reached[$step->to()] = true;
            $steps[] = $step;
            $used[$step->link->id] = true;
        }

        return new self(
            $first,
            $steps,
            array_values(array_filter($links, static fn (Link $link): bool => !isset($used[$link->id]))),
            array_values(array_filter($nodes, static fn (int $node): bool => !isset($reached[$node]))),
        );
    }

    /**
     * @param list<Link>       $links
     * @param array<int, true> $reached
     */
    private static function next(array $links, array $reached): ?Step
    {
        $best = null;
        $bestCost = \INF;
        foreach ($links as $link) {
            if (isset($reached[$link->from]) === isset($reached[$link->to])) {
                continue;
            }
            $step = new Step($link, isset($reached[$link->from]));
            $cost = ($step->multiplies() ? self::MULTIPLIES : 0.0) + ($step->drops() ? self::DROPS : 0.0) + 1.0 - $link->certainty;
            if ($cost < $bestCost) {
                $best = $step;
                $bestCost = $cost;
            }
        }

        return $best;
    }
}
