<?php

declare(strict_types=1);

namespace Fasti\Core\Diagram;

use Fasti\Core\Diagram\Leading\Ends;
use Fasti\Core\Diagram\Leading\Leading;
use Fasti\Core\Diagram\Leading\Rect;
use Fasti\Core\Diagram\Leading\Trace;
use Fasti\Core\Diagram\Leading\Verbs;
use Fasti\Core\Join\End;

/**
 * What stands where on a diagram, and the lines between: all that leading them needs. Pieces are tablets (`t` and the id of the entry) and
 * notes. A scene travels to the browser and back, so that lines can be led anew without asking the database.
 *
 * @phpstan-type OpenLine array{
 *     id: int, from: string, leaves: array{float, float}, to: string, enters: array{float, float}, ends: array{string, string},
 *     kind: string, verb: string, tip: string
 * }
 */
final readonly class Scene
{
    private const MOST_PIECES = 3000;

    /**
     * @param array<string, Rect>  $pieces
     * @param list<SceneLine>      $lines
     * @param list<Rect>           $frames the whole of each frame; its title is among the pieces
     */
    public function __construct(public array $pieces, public array $lines, public array $frames = [])
    {
    }

    /**
     * @param list<TabletShape> $shapes
     * @param list<Note>        $notes
     * @param list<Line>        $lines  all of them between these tablets
     */
    public static function of(array $shapes, array $notes, array $lines): self
    {
        $pieces = $byId = $drawn = $frames = [];
        foreach ($shapes as $shape) {
            $pieces['t'.$shape->tablet->id] = new Rect($shape->x, $shape->y, $shape->width, $shape->height);
            $byId[$shape->tablet->id] = $shape;
        }
        foreach ($notes as $note) {
            $pieces[$note->key] = $note->ground();
            if ($note->kind->holds()) {
                $frames[] = new Rect($note->x, $note->y, $note->width, $note->height);
            }
        }
        $row = static function (TabletShape $shape, string $name): array {
            $row = $shape->rowOf($name);

            return [(float) $shape->rowTops[$row], (float) ($shape->rowTops[$row] + $shape->rowHeights[$row])];
        };
        foreach ($lines as $line) {
            $from = $byId[$line->from];
            $to = $byId[$line->to];
            $drawn[] = new SceneLine($line, 't'.$line->from, $row($from, $line->fromRow), 't'.$line->to, $row($to, $line->toRow));
        }

        return new self($pieces, $drawn, $frames);
    }

    /**
     * @param array<int, list<array{float, float}>> $kept by id of the line: as it was led before; it stays so where that is still possible
     *
     * @return list<Path>
     */
    public function lead(array $kept = []): array
    {
        $number = array_flip(array_keys($this->pieces));
        $rects = array_values($this->pieces);
        $ends = $stay = [];
        foreach ($this->lines as $k => $line) {
            $from = $rects[$number[$line->from]];
            $to = $rects[$number[$line->to]];
            $ends[] = new Ends(
                $k,
                $number[$line->from],
                [$from->y + $line->leaves[0], $from->y + $line->leaves[1]],
                $number[$line->to],
                [$to->y + $line->enters[0], $to->y + $line->enters[1]],
                '' === $line->line->verb ? 0.0 : TextWidth::text($line->line->verb, Router::LABEL_SIZE),
            );
            $trace = isset($kept[$line->line->id]) ? Trace::along($ends[$k], $kept[$line->line->id], $rects) : null;
            if (null !== $trace) {
                $stay[$k] = $trace;
            }
        }
        $traces = Leading::lead($rects, $ends, $stay, $this->frames);
        $verbs = Verbs::place($rects, $traces);

        return array_map(
            fn (Trace $trace): Path => new Path($this->lines[$trace->ends->id]->line, $trace->points(), $trace->sides, $verbs[$trace->ends->id] ?? false),
            $traces,
        );
    }

    /**
     * Moves what was set down on something else beside it. Frames hold what lies in them, so only their titles are in the way.
     *
     * @param list<string> $moved in the order in which they take their places
     */
    public function setDown(array $moved): self
    {
        $pieces = $this->pieces;
        $wait = array_fill_keys($moved, true);
        foreach ($moved as $key) {
            if (isset($pieces[$key])) {
                unset($wait[$key]);
                $pieces[$key] = Apart::beside($pieces[$key], array_diff_key($pieces, $wait, [$key => true]));
            }
        }

        return new self($pieces, $this->lines, $this->frames);
    }

    /** @return array{pieces: array<string, array{float, float, float, float}>, frames: list<array{float, float, float, float}>, lines: list<OpenLine>} */
    public function open(): array
    {
        return [
            'pieces' => array_map(static fn (Rect $rect): array => [$rect->x, $rect->y, $rect->width, $rect->height], $this->pieces),
            'frames' => array_map(static fn (Rect $rect): array => [$rect->x, $rect->y, $rect->width, $rect->height], $this->frames),
            'lines' => array_map(static fn (SceneLine $line): array => [
                'id' => $line->line->id, 'from' => $line->from, 'leaves' => $line->leaves, 'to' => $line->to, 'enters' => $line->enters,
                'ends' => [$line->line->fromEnd->value, $line->line->toEnd->value],
                'kind' => $line->line->kind, 'verb' => $line->line->verb, 'tip' => $line->line->tooltip,
            ], $this->lines),
        ];
    }

    /**
     * @param array<mixed> $open as open() gives it, perhaps with other places
     *
     * @throws SceneError
     */
    public static function fromOpen(array $open): self
    {
        $given = $open['pieces'] ?? null;
        if (!\is_array($given) || \count($given) > self::MOST_PIECES) {
            throw new SceneError('“pieces” is to be an object of rectangles, of which there may be '.self::MOST_PIECES.'.');
        }
        $pieces = $lines = $frames = [];
        foreach ($given as $key => $rect) {
            [$x, $y, $width, $height] = self::figures($rect, 4, "pieces.$key");
            $pieces[(string) $key] = new Rect($x, $y, max(10.0, $width), max(10.0, $height));
        }
        foreach (\is_array($open['lines'] ?? null) ? array_values($open['lines']) : [] as $i => $line) {
            $lines[] = self::line($line, $pieces, "lines[$i]");
        }

        foreach (\is_array($open['frames'] ?? null) ? array_values($open['frames']) : [] as $i => $rect) {
            [$x, $y, $width, $height] = self::figures($rect, 4, "frames[$i]");
            $frames[] = new Rect($x, $y, $width, $height);
        }

        return new self($pieces, $lines, $frames);
    }

    /** @param array<string, Rect> $pieces */
    private static function line(mixed $line, array $pieces, string $where): SceneLine
    {
        if (!\is_array($line)) {
            throw new SceneError("“{$where}” is not an object.");
        }
        $text = static fn (string $name): string => \is_string($line[$name] ?? null)
            ? $line[$name]
            : throw new SceneError("“{$where}.{$name}” is to be a text.");
        $ends = \is_array($line['ends'] ?? null) ? $line['ends'] : [];
        $end = static fn (int $i): End => End::tryFrom(\is_string($ends[$i] ?? null) ? $ends[$i] : '') ?? throw new SceneError("“{$where}.ends” is not known.");
        $from = $text('from');
        $to = $text('to');
        if (!isset($pieces[$from], $pieces[$to])) {
            throw new SceneError("“{$where}” leads to what is not among the pieces.");
        }
        $kind = $text('kind');
        $id = \is_int($line['id'] ?? null) ? $line['id'] : throw new SceneError("“{$where}.id” is to be a number.");

        return new SceneLine(
            new Line($id, 0, '', 0, '', $end(0), $end(1), $text('verb'), $kind, $text('tip')),
            $from,
            self::pair($line['leaves'] ?? null, "$where.leaves"),
            $to,
            self::pair($line['enters'] ?? null, "$where.enters"),
        );
    }

    /** @return array{float, float} */
    private static function pair(mixed $value, string $where): array
    {
        [$top, $bottom] = self::figures($value, 2, $where);

        return [$top, max($bottom, $top + 1)];
    }

    /** @return list<float> */
    private static function figures(mixed $value, int $count, string $where): array
    {
        $figures = [];
        foreach (\is_array($value) ? $value : [] as $figure) {
            if ((\is_int($figure) || \is_float($figure)) && abs($figure) < 1e6) {
                $figures[] = (float) $figure;
            }
        }

        return \count($figures) === $count ? $figures : throw new SceneError("“{$where}” is to be {$count} numbers.");
    }

    /**
     * Ways of lines as they came from a browser or out of a store: what is not one is left out, since every way can be found anew.
     *
     * @return array<int, list<array{float, float}>>
     */
    public static function ways(mixed $given): array
    {
        $ways = [];
        foreach (\is_array($given) ? $given : [] as $id => $points) {
            $way = [];
            foreach (\is_array($points) ? $points : [] as $point) {
                try {
                    [$x, $y] = self::figures($point, 2, 'point');
                } catch (SceneError) {
                    continue 2;
                }
                $way[] = [$x, $y];
            }
            if (\is_int($id) && \count($way) >= 2 && \count($way) <= 200) {
                $ways[$id] = $way;
            }
        }

        return $ways;
    }
}
