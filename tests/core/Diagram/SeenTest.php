<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Diagram;

use Fasti\Core\Diagram\Apart;
use Fasti\Core\Diagram\Detail;
use Fasti\Core\Diagram\FromCatalog;
use Fasti\Core\Diagram\Isotonic;
use Fasti\Core\Diagram\Layout;
use Fasti\Core\Diagram\Leading\Rect;
use Fasti\Core\Diagram\Note;
use Fasti\Core\Diagram\NoteText;
use Fasti\Core\Diagram\Path;
use Fasti\Core\Diagram\Piece\Frame;
use Fasti\Core\Diagram\Piece\Heading;
use Fasti\Core\Diagram\Piece\Remark;
use Fasti\Core\Diagram\RegionMap;
use Fasti\Core\Diagram\SmallPicture;
use Fasti\Core\Diagram\SvgDrawing;
use Fasti\Core\Diagram\SvgRegion;
use Fasti\Core\Diagram\Tablet;
use Fasti\Core\Diagram\TextWidth;
use Fasti\Core\Diagram\TitleBlock;
use Fasti\Tests\Core\Golden\Snapshot;
use Fasti\Tests\Core\Golden\World;
use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;

/** Where everything stands in some drawings, to a tenth of a pixel, as it was seen to: geometry, not bytes. */
final class SeenTest extends TestCase
{
    #[TestWith([6, 8, 0.5, 11])]
    #[TestWith([12, 17, 0.9, 12])]
    #[TestWith([20, 30, 0.7, 13])]
    public function testWhereLinesAreLed(int $tables, int $joins, float $density, int $seed): void
    {
        [$tablets, $lines] = Drawn::schema($tables, $joins, $seed, true);
        $layout = Layout::arranged($tablets, $lines, Detail::All, Drawn::scattered($tablets, $density), self::notes());

        Snapshot::same("diagram.led.$tables", [...self::geometry($layout), ...World::lines('open', $layout->scene?->open() ?? [])]);
    }

    #[TestWith([5, 4, Detail::All])]
    #[TestWith([14, 18, Detail::Keys])]
    #[TestWith([30, 45, Detail::Names])]
    public function testWhereTabletsArePlaced(int $tables, int $joins, Detail $detail): void
    {
        [$tablets, $lines] = Drawn::schema($tables, $joins, 7 * $tables, true);

        Snapshot::same("diagram.placed.$tables", self::geometry(Layout::of($tablets, $lines, $detail)));
        Snapshot::same("diagram.around.$tables", self::geometry(Layout::of($tablets, $lines, $detail, 2, 1.6)));
        $ranked = [];
        foreach (Layout::ranked($tablets, $lines, $detail) as $id => [$x, $y]) {
            $ranked[] = "$id: ".Snapshot::figure($x, 1).' '.Snapshot::figure($y, 1);
        }
        Snapshot::same("diagram.ranked.$tables", $ranked);
    }

    public function testManyDrawings(): void
    {
        $lines = [];
        for ($seed = 1; $seed <= 60; ++$seed) {
            $tables = 3 + $seed % 17;
            $joins = 2 + $seed * 7 % 29;
            [$tablets, $between] = Drawn::schema($tables, $joins, $seed, 0 === $seed % 2);
            $detail = [Detail::All, Detail::Keys, Detail::Names][$seed % 3];
            $layout = Layout::arranged($tablets, $between, $detail, Drawn::scattered($tablets, 0.2 + $seed % 8 / 8), 0 === $seed % 3 ? self::notes() : []);
            $lines[] = World::digest("led $seed", self::geometry($layout));
            $placed = Layout::of($tablets, $between, $detail, 0 === $seed % 4 ? $seed % $tables : null, 0 === $seed % 5 ? 0.6 + $seed / 40 : null);
            $lines[] = World::digest("placed $seed", self::geometry($placed));
            $lines[] = World::digest("drawn $seed", self::elements(SvgDrawing::draw($placed, new TitleBlock("Drawing $seed"), 0 === $seed % 2)));
            $some = \array_slice($layout->places(), 0, intdiv($tables, 2), true);
            $lines[] = World::digest("half placed $seed", self::geometry(Layout::arranged($tablets, $between, $detail, $some)));
            // What has moved a little is led again with what was kept.
            $kept = $layout->scene?->setDown(['t0', 't1'])->lead() ?? [];
            $lines[] = World::digest("moved $seed", World::lines('led', array_map(static fn (Path $path): array => $path->points, $kept)));
        }

        Snapshot::same('diagram.many', $lines);
    }

    public function testManyMapsAndWhatIsPushedApartOnThem(): void
    {
        $lines = [];
        for ($seed = 1; $seed <= 25; ++$seed) {
            $chance = new \Random\Randomizer(new \Random\Engine\Mt19937($seed));
            $areas = $fields = $pairs = $rects = [];
            for ($i = 0; $i < 10 * $seed; ++$i) {
                $areas['a'.$chance->getInt(0, $seed)][] = $i;
                $fields[$i] = $chance->getInt(0, 70);
                $pairs[] = [$i, $chance->getInt(0, $i)];
                $rects[$i] = new Rect($chance->getInt(0, 90 * $seed), $chance->getInt(0, 60 * $seed), $chance->getInt(60, 260), $chance->getInt(40, 200));
            }
            $lines[] = World::digest("map $seed", World::lines('map', RegionMap::of($areas, [], $fields, $pairs)));
            $lines[] = World::digest("apart $seed", World::lines('apart', Apart::pushed(\array_slice($rects, 0, 30))));
            $lines[] = World::digest("beside $seed", World::lines('beside', Apart::beside(new Rect(100, 100, 240, 120), $rects)));
        }

        Snapshot::same('diagram.maps', $lines);
    }

    public function testWhatIsDrawn(): void
    {
        [$tablets, $lines] = Drawn::schema(5, 6, 3, true);
        $tablets[1] = new Tablet(1, $tablets[1]->title, $tablets[1]->rows, 'one row a day', 'fact', '/register/1', 'what it is', marked: true, leads: 3);
        $tablets[2] = new Tablet(2, $tablets[2]->title, $tablets[2]->rows, '', 'view', folded: true, gone: true);
        $tablets = array_values($tablets);
        $layout = Layout::arranged($tablets, $lines, Detail::All, Drawn::scattered($tablets, 0.5), self::notes());
        $block = new TitleBlock('Rivers and reaches', 'To see what leads where', 'fieldwork', 'Oona Lisk', '1 December 2026', '7');

        Snapshot::same('diagram.svg', self::elements(SvgDrawing::draw($layout, $block)));
        Snapshot::same('diagram.svg.alone', self::elements(SvgDrawing::draw($layout, $block, true)));
        Snapshot::same('diagram.svg.bare', self::elements(SvgDrawing::bare($layout, 'Rivers')));
        Snapshot::same('diagram.svg.small', self::elements(SmallPicture::of($layout)));
        Snapshot::same('diagram.words', explode("\n", SvgDrawing::inWords($layout)));
    }

    public function testTheDemoAsItsCatalogHasIt(): void
    {
        [$tablets, $lines] = FromCatalog::of(World::demo());
        $lists = World::lines('tablets', $tablets);
        array_push($lists, ...World::lines('lines', $lines));
        foreach ([1, 2, 3] as $steps) {
            $near = FromCatalog::near($lines, 4, $steps);
            sort($near);
            $lists[] = "near in $steps: ".implode(', ', $near);
        }

        Snapshot::same('diagram.demo', $lists);
    }

    public function testAMapOfRegions(): void
    {
        $areas = $fields = $pairs = [];
        for ($i = 0; $i < 60; ++$i) {
            $areas['area '.($i % 7)][] = $i;
            $fields[$i] = 3 * $i % 41;
            $pairs[] = [$i, intdiv($i, 3)];
        }
        $map = RegionMap::of($areas, ['area 3' => 'Laboratory'], $fields, $pairs);
        [$tablets, $lines] = Drawn::schema(9, 12, 4, true);
        $places = [];
        foreach ($tablets as $i => $tablet) {
            $places[$tablet->id] = new Rect(300.0 * ($i % 3), 260.0 * intdiv($i, 3), 240, 30 + 24 * \count($tablet->rows));
        }

        Snapshot::same('diagram.map', [...World::lines('map', $map), ...self::elements('<svg>'.SvgRegion::inside($tablets, $lines, $places).'</svg>')]);
    }

    public function testTextsAreBrokenAndCutToTheirRoom(): void
    {
        $lines = [];
        foreach (['', 'one', 'a note of several words that goes on', "two\n\nparagraphs", 'averyveryverylongwordthatfitsnowhereatall', '**bold** and `code`',
            'see [the reach](https://arrowmere.example/reach) there', "- a list\n- of two", '*slanted* words', 'größe 顧客 ümläut'] as $text) {
            array_push($lines, ...World::lines($text, NoteText::lines($text, 120)));
            $lines[] = 'cut: '.TextWidth::fitted($text, 90, static fn (string $part): float => TextWidth::text($part, 13));
            $lines[] = \sprintf(
                'wide: %s %s %s', Snapshot::figure(
                    TextWidth::title($text, 15),
                ), Snapshot::figure(TextWidth::text($text, 13)), Snapshot::figure(TextWidth::code($text, 12)),
            );
        }
        foreach (self::notes() as $note) {
            array_push($lines, ...World::lines($note->key, [$note->words(), $note->width, $note->height, $note->ground(), $note->at(7, 8)->ground()]));
        }

        Snapshot::same('diagram.notes', $lines);
    }

    public function testWhatIsPushedApart(): void
    {
        $chance = new \Random\Randomizer(new \Random\Engine\Mt19937(5));
        $rects = [];
        for ($i = 0; $i < 14; ++$i) {
            $rects[$i] = new Rect($chance->getInt(0, 700), $chance->getInt(0, 500), $chance->getInt(60, 260), $chance->getInt(40, 200));
        }
        $lines = World::lines('pushed', Apart::pushed($rects));
        array_push($lines, ...World::lines('beside', Apart::beside(new Rect(300, 200, 200, 100), $rects)));
        foreach ([[[0, 10, 20], [30, 30], -100, 400], [[90, 10, 20, 300], [30, 40, 50], 0, 500], [[5], [], 10, 20], [[500, 400], [60], 0, 300]] as $case) {
            array_push($lines, ...World::lines('tops', Isotonic::tops(...$case)));
        }

        Snapshot::same('diagram.apart', $lines);
    }

    /** @return list<Note> */
    private static function notes(): array
    {
        return [
            new Note('n1', new Heading(), 'What is measured', -300, -120), new Note('n2', new Remark(), 'Only **agreed** ones.', 900, -200, 180),
            new Note('n3', new Frame(), 'Laboratory', -320, 300, 280, 200),
        ];
    }

    /** @return list<string> */
    private static function geometry(Layout $layout): array
    {
        $lines = ['size: '.Snapshot::figure($layout->width, 1).' '.Snapshot::figure($layout->height, 1)];
        foreach ($layout->shapes as $shape) {
            $lines[] = \sprintf(
                'tablet %d: %s %s %s %s', $shape->tablet->id, Snapshot::figure($shape->x, 1), Snapshot::figure($shape->y, 1),
                Snapshot::figure($shape->width, 1),
                Snapshot::figure($shape->height, 1),
            );
        }
        foreach ($layout->paths as $path) {
            $points = array_map(static fn (array $at): string => Snapshot::figure($at[0], 1).','.Snapshot::figure($at[1], 1), $path->points);
            array_push($lines, 'line '.$path->line->id.': '.implode(' ', $points), ...World::lines('words '.$path->line->id, $path->label() ?? []));
        }

        return $lines;
    }

    /** @return list<string> elements in their order, with what they are and where */
    private static function elements(string $svg): array
    {
        $document = new \DOMDocument();
        self::assertTrue($document->loadXML($svg));
        $found = [];
        foreach ($document->getElementsByTagName('*') as $element) {
            $attributes = [];
            foreach ($element->attributes as $attribute) {
                if ($attribute instanceof \DOMAttr) {
                    $attributes[$attribute->name] = (string) preg_replace_callback(
                        '/-?\d+\.\d+/', static fn (array $m): string => Snapshot::figure((float) $m[0], 1), $attribute->value,
                    );
                }
            }
            ksort($attributes);
            $own = '';
            foreach ($element->childNodes as $child) {
                $own .= $child instanceof \DOMText ? trim($child->wholeText) : '';
            }
            $found[] = $element->nodeName.' '.json_encode(
                $attributes,
                \JSON_UNESCAPED_UNICODE | \JSON_UNESCAPED_SLASHES,
            ).('style' === $element->nodeName ? '' : " $own");
        }

        return $found;
    }
}
