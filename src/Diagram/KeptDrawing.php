<?php

declare(strict_types=1);

namespace Fasti\Diagram;

use Fasti\Core\Diagram\Apart;
use Fasti\Core\Diagram\Arrangement;
use Fasti\Core\Diagram\Detail;
use Fasti\Core\Diagram\Layout;
use Fasti\Core\Diagram\Leading\Rect;
use Fasti\Core\Diagram\PlacingError;
use Fasti\Core\Diagram\Scene;
use Fasti\Core\Diagram\SmallPicture;
use Fasti\Core\Diagram\TitleBlock;
use Fasti\Register\Entries;
use Fasti\Register\EntryView;

/** Draws diagrams that are kept. */
final readonly class KeptDrawing
{
    public function __construct(private Pieces $pieces, private Entries $entries, private RegisterDiagram $register, private Diagrams $diagrams)
    {
    }

    public function arrangement(Diagram $diagram): Arrangement
    {
        return $this->pieces->of($diagram->id());
    }

    /** @return list<EntryView> what stands on it; an entry that is in the register no more is left out */
    public function entries(Arrangement $arrangement): array
    {
        return $this->entries->load($arrangement->entries());
    }

    /**
     * @param list<EntryView>         $entries
     * @param callable(int): string   $link
     */
    public function look(array $entries, callable $link, bool $businessNames = true, bool $live = true): Look
    {
        $ids = array_map(static fn (EntryView $entry): int => $entry->id, $entries);

        return new Look(Detail::Keys, $link(...), $businessNames, proposed: $live, words: $this->register->words($ids), leads: $live);
    }

    /**
     * @param list<EntryView> $entries
     * @param ?Detail         $detail  another level than the one it is kept with
     */
    public function layout(Diagram $diagram, Arrangement $arrangement, array $entries, Look $look, ?Detail $detail = null): Layout
    {
        if (null !== $detail) {
            $arrangement = new Arrangement(['detail' => ['shows' => $detail->value]] + $arrangement->pieces);
        }

        return RegisterDiagram::arranged($entries, $look, $arrangement, Scene::ways(json_decode($diagram->ways, true)));
    }

    /** @param list<EntryView> $entries */
    public static function block(Diagram $diagram, array $entries, Layout $layout, string $edition = ''): TitleBlock
    {
        $sources = array_values(array_unique(array_map(static fn (EntryView $entry): string => $entry->sourceName, $entries)));
        $counted = RegisterDiagram::counted($layout);

        return new TitleBlock(
            $diagram->name,
            $diagram->purpose,
            implode(', ', $sources),
            $diagram->owner->name,
            $diagram->changedAt->format('j M Y'),
            '' === $edition ? $counted : $edition.' · '.$counted,
        );
    }

    /** The small picture of a diagram, drawn anew where it is out of date. */
    public function small(Diagram $diagram): string
    {
        $mark = '<!--'.$diagram->moves.'-->';
        if (!str_starts_with($diagram->small, $mark)) {
            $arrangement = $this->pieces->of($diagram->id());
            $entries = $this->entries($arrangement);
            $this->keepSmall($diagram, $this->layout($diagram, $arrangement, $entries, $this->look($entries, static fn (): string => '')));
        }

        return substr($diagram->small, \strlen($mark));
    }

    public function keepSmall(Diagram $diagram, Layout $layout): void
    {
        $small = '<!--'.$diagram->moves.'-->'.SmallPicture::of($layout);
        if ($diagram->small !== $small) {
            $diagram->small = $small;
            $this->diagrams->save();
        }
    }

    /**
     * Pieces for entries that come to a diagram: beside what they join there, or where a person has let them fall, and then beside whatever
     * stands there.
     *
     * @param list<int>                       $new
     * @param array<int, array{float, float}> $wished
     *
     * @return array<string, array<string, mixed>>
     */
    public function placed(Arrangement $arrangement, array $new, array $wished = []): array
    {
        $pieces = $arrangement->pieces;
        foreach ($new as $entry) {
            $pieces['t'.$entry] ??= [];
        }
        $all = new Arrangement($pieces);
        $entries = $this->entries($all);
        $layout = RegisterDiagram::arranged($entries, $this->look($entries, static fn (): string => ''), $all, []);
        $made = [];
        $rects = $layout->scene->pieces ?? [];
        foreach ($layout->places() as $entry => [$x, $y]) {
            $key = 't'.$entry;
            if (!\in_array($entry, $new, true) || isset($arrangement->pieces[$key])) {
                continue;
            }
            $made[$key] = ['x' => $x, 'y' => $y, 'auto' => true];
            if (isset($wished[$entry], $rects[$key])) {
                $rects[$key] = Apart::beside(
                    new Rect($wished[$entry][0], $wished[$entry][1], $rects[$key]->width, $rects[$key]->height),
                    array_diff_key($rects, [$key => true]),
                );
                $made[$key] = ['x' => $rects[$key]->x, 'y' => $rects[$key]->y];
            }
        }

        return $made;
    }

    /**
     * Places for a whole diagram: by Fasti's own layout, for what no person has placed only, or in ranks with what refers below.
     *
     * @param list<EntryView> $entries
     *
     * @return array<string, array<string, mixed>> the pieces that change
     *
     * @throws PlacingError
     */
    public function arrange(Arrangement $arrangement, array $entries, string $how): array
    {
        $look = $this->look($entries, static fn (): string => '');
        $byHand = 'new' === $how ? $arrangement->byHand() : new Arrangement(array_filter(
            $arrangement->pieces,
            static fn (string $key): bool => null === Arrangement::entry($key),
            \ARRAY_FILTER_USE_KEY,
        ));
        [$tablets, $lines] = RegisterDiagram::parts($entries, $look);
        $tablets = array_map($arrangement->shown(...), $tablets);
        $detail = $arrangement->detail() ?? $look->detail;
        $places = match ($how) {
            'new' => Layout::arranged($tablets, $lines, $detail, $byHand->places(), $byHand->notes())->places(),
            'facts' => Layout::ranked($tablets, $lines, $detail),
            default => Layout::of($tablets, $lines, $detail)->places(),
        };
        $changes = [];
        foreach ($places as $entry => [$x, $y]) {
            $piece = $arrangement->pieces['t'.$entry] ?? [];
            if (isset($byHand->pieces['t'.$entry]) || ['x' => $x, 'y' => $y] === ['x' => $piece['x'] ?? null, 'y' => $piece['y'] ?? null]) {
                continue;
            }
            $changes['t'.$entry] = ['x' => $x, 'y' => $y] + $piece + ['auto' => true];
        }

        return $changes;
    }
}
