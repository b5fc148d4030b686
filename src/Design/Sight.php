<?php

declare(strict_types=1);

namespace Fasti\Design;

use Fasti\Core\Design\Checks;
use Fasti\Core\Design\DesignFinding;
use Fasti\Core\Design\Drawing;
use Fasti\Core\Design\Fault;
use Fasti\Core\Design\Ledger;
use Fasti\Core\Design\Outline;
use Fasti\Core\Design\Physical;
use Fasti\Core\Design\Pieces;
use Fasti\Core\Design\Thing;
use Fasti\Core\Design\Working;
use Fasti\Core\Diagram\Detail;
use Fasti\Core\Diagram\Layout;
use Fasti\Core\Diagram\Line;
use Fasti\Core\Diagram\SvgDrawing;
use Fasti\Core\Diagram\Tablet;

/** What is seen of an outline: what is not understood, what is noticed, and its drawing at one of its depths. */
final readonly class Sight
{
    public const DEPTHS = ['conceptual', 'logical', 'physical'];

    /** How much wider than high a new drawing is to be: as the room beside an outline. */
    private const SHAPE = 1.15;

    public function __construct(private Abbreviations $short)
    {
    }

    /**
     * @param array<int|string, array{float, float}> $places where tablets stand, by their numbers
     * @param array<int, list<array{float, float}>>  $ways   how lines were led before, by their numbers
     *
     * @return array{faults: list<array<string, mixed>>, findings: list<array<mixed>>, counts: DesignTally, engine: string,
     * svg: ?string, places: array<int, array{float, float}>, ways: array<int, list<array{float, float}>>, things: list<array<string, mixed>>|null,
     * names: list<string>, asked: list<array{text: string, answer: string, by: string,
     *     of: string}>}
     */
    public function of(string $text, string $depth, array $places, bool $ledger = true, array $ways = []): array
    {
        $outline = Outline::read($text);
        $design = $outline->design;
        $worked = Working::of($design);
        $findings = Checks::of($design, $worked);
        $svg = null;
        $at = $led = [];
        if ([] === $outline->faults) {
            $physical = 'physical' === $depth ? new Physical($worked, Physical::dialectOf($design), $this->short->all()) : null;
            if (null !== $physical) {
                $findings = [...$findings, ...$physical->findings];
            }
            [$tablets, $lines] = match (true) {
                null !== $physical => Drawing::physical($physical),
                'logical' === $depth => Drawing::logical($worked),
                default => Drawing::conceptual($design),
            };
            $layout = self::laid($tablets, $lines, 'conceptual' === $depth ? Detail::Names : Detail::All, $places, $ways);
            foreach ($layout->paths as $path) {
                $led[$path->line->id] = $path->points;
            }
            $svg = SvgDrawing::bare($layout, $design->name);
            $at = $layout->places();
        }

        return [
            'faults' => array_map(static fn (Fault $fault): array => $fault->open(), $outline->faults),
            'findings' => array_map(static fn (DesignFinding $finding): array => get_object_vars($finding), $findings),
            'counts' => Designs::tallyOf($design), 'engine' => Physical::dialectOf($design)->name(), 'svg' => $svg, 'places' => $at, 'ways' => $led,
            'things' => $ledger ? Ledger::of($outline) : null, 'names' => array_map(static fn (Thing $thing): string => $thing->name, $design->things),
            'asked' => array_map(static fn ($question): array => ['text' => $question->text, 'answer' => $question->answer, 'by' => $question->by,
                'of' => implode(', ', $question->of)], $design->questions),
        ];
    }

    /**
     * What is told of a piece of the drawing.
     *
     * @return array<string, mixed>|null
     */
    public function piece(string $text, string $depth, int $tablet, int $line): ?array
    {
        $design = Outline::read($text)->design;
        $worked = Working::of($design);
        $pieces = new Pieces($design, $worked, 'physical' === $depth ? new Physical($worked, Physical::dialectOf($design), $this->short->all()) : null);

        return $tablet > 0 ? $pieces->tablets()[$tablet] ?? null : $pieces->lines()[$line] ?? null;
    }

    /**
     * @param list<Tablet>                           $tablets
     * @param list<Line>                             $lines
     * @param array<int|string, array{float, float}> $places
     * @param array<int, list<array{float, float}>>  $ways
     */
    public static function laid(array $tablets, array $lines, Detail $detail, array $places, array $ways = []): Layout
    {
        $known = [];
        foreach ($tablets as $tablet) {
            if (isset($places[$tablet->id])) {
                $known[$tablet->id] = $places[$tablet->id];
            }
        }

        // Where hardly anything has a place yet, all find theirs together.
        return 2 * \count($known) < \count($tablets) ? Layout::of(
            $tablets,
            $lines,
            $detail,
            null,
            self::SHAPE,
        ) : Layout::arranged($tablets, $lines, $detail, $known, [], $ways);
    }
}
