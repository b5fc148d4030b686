<?php

declare(strict_types=1);

namespace Fasti\Diagram;

use Fasti\Core\Diagram\Arrangement;
use Fasti\Core\Diagram\Layout;
use Fasti\Core\Diagram\Piece\PieceKind;
use Fasti\Core\Diagram\TabletShape;

/** What the script of a diagram has to know of the drawing that is shown. */
final class Shown
{
    /**
     * @param array<string, list<int>> $areas subject area → entries of the diagram
     *
     * @return array<string, mixed>
     */
    public static function state(Diagram $diagram, Arrangement $arrangement, Layout $layout, array $areas = []): array
    {
        return [
            'areas' => (object) array_map(static fn (array $entries): array => array_map(static fn (int $entry): string => 't'.$entry, $entries), $areas),
            'id' => $diagram->id(),
            'move' => $diagram->moves,
            'pieces' => (object) $arrangement->pieces,
            'kinds' => array_map(static fn (PieceKind $piece): array => $piece->forTheBoard(), PieceKind::known()),
            'scene' => $layout->scene?->open(),
            'ways' => (object) self::ways($layout),
            'notes' => (object) self::sizes($layout),
            'titles' => (object) array_column(
                array_map(static fn (TabletShape $shape): array => ['id' => 't'.$shape->tablet->id, 'title' => $shape->tablet->title], $layout->shapes),
                'title',
                'id',
            ),
        ];
    }

    /** @return array<int, list<array{float, float}>> how lines are led, by the id of the join */
    public static function ways(Layout $layout): array
    {
        $ways = [];
        foreach ($layout->paths as $path) {
            $ways[$path->line->id] = array_values($path->points);
        }

        return $ways;
    }

    /** @return array<string, array{float, float}> width and height of notes */
    private static function sizes(Layout $layout): array
    {
        $sizes = [];
        foreach ($layout->notes as $note) {
            $sizes[$note->key] = [$note->width, $note->height];
        }

        return $sizes;
    }
}
