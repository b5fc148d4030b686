<?php

declare(strict_types=1);

namespace Fasti\Core\Diagram;

use Fasti\Core\Diagram\Leading\Rect;

/**
 * Finds places for tablets that have none yet, beside what they are joined with, while everything else stays where it is.
 *
 * @internal
 */
final class Unplaced
{
    private const AWAY = 80.0;

    /**
     * @param list<TabletShape>               $shapes get their places
     * @param array<int, array{float, float}> $places by id of the tablet
     * @param list<Note>                      $notes
     * @param list<array{int, int}>           $pairs  shapes that are joined
     */
    public static function place(array $shapes, array $places, array $notes, array $pairs): void
    {
        $taken = [];
        $wait = [];
        foreach ($notes as $note) {
            $taken[$note->key] = $note->ground();
        }
        foreach ($shapes as $i => $shape) {
            $place = $places[$shape->tablet->id] ?? null;
            if (null === $place) {
                $wait[$i] = $i;
                continue;
            }
            $shape->x = $place[0];
            $shape->y = (int) $place[1];
            $taken[$i] = new Rect($shape->x, $shape->y, $shape->width, $shape->height);
        }
        $near = [];
        foreach ($pairs as [$a, $b]) {
            $near[$a][$b] = $b;
            $near[$b][$a] = $a;
        }
        while ([] !== $wait) {
            // Whoever has the most neighbours that stand already knows best where it belongs.
            $best = (int) array_key_first($wait);
            $most = -1;
            foreach ($wait as $i) {
                $standing = \count(array_intersect_key($near[$i] ?? [], $taken));
                if ($standing > $most) {
                    $best = $i;
                    $most = $standing;
                }
            }
            unset($wait[$best]);
            $shape = $shapes[$best];
            $rect = Apart::beside(self::wished($shape, array_intersect_key($taken, $near[$best] ?? []), $taken), $taken);
            $shape->x = $rect->x;
            $shape->y = (int) $rect->y;
            $taken[$best] = $rect;
        }
    }

    /**
     * @param array<int|string, Rect> $near  what it is joined with
     * @param array<int|string, Rect> $taken
     */
    private static function wished(TabletShape $shape, array $near, array $taken): Rect
    {
        if ([] === $near) {
            $right = [] === $taken ? 0.0 : max(array_map(static fn (Rect $rect): float => $rect->right(), $taken)) + self::AWAY;
            $top = [] === $taken ? 0.0 : min(array_map(static fn (Rect $rect): float => $rect->y, $taken));

            return new Rect($right, $top, $shape->width, $shape->height);
        }
        $x = array_sum(array_map(static fn (Rect $rect): float => $rect->x + $rect->width / 2, $near)) / \count($near);
        $y = array_sum(array_map(static fn (Rect $rect): float => $rect->y + $rect->height / 2, $near)) / \count($near);
        if (1 === \count($near)) {
            // Beside its only neighbour, on the side that looks away from the others.
            $one = $near[array_key_first($near)];
            $middle = array_sum(array_map(static fn (Rect $rect): float => $rect->x + $rect->width / 2, $taken)) / \count($taken);
            $x += ($x >= $middle ? 1 : -1) * ($one->width / 2 + self::AWAY + $shape->width / 2);
        }

        return new Rect($x - $shape->width / 2, $y - $shape->height / 2, $shape->width, $shape->height);
    }
}
