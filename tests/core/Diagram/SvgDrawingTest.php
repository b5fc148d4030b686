<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Diagram;

use Fasti\Core\Diagram\Detail;
use Fasti\Core\Diagram\FromCatalog;
use Fasti\Core\Diagram\Layout;
use Fasti\Core\Diagram\Line;
use Fasti\Core\Diagram\SvgDrawing;
use Fasti\Core\Diagram\Tablet;
use Fasti\Core\Diagram\TabletRow;
use Fasti\Core\Diagram\TitleBlock;
use Fasti\Core\Join\End;
use Fasti\Tests\Core\Made;
use PHPUnit\Framework\TestCase;

final class SvgDrawingTest extends TestCase
{
    public function testIsWellFormedWhateverTheNamesHold(): void
    {
        $odd = "<b>&\"'\u{1}\u{FFFE}\xFF 顧客";
        $layout = Layout::of(
            [new Tablet(1, $odd, [new TabletRow('id', $odd, true, $odd)], $odd, $odd, 'x?a=1&b="2"', $odd), new Tablet(2, 'B', [new TabletRow('r', 'r')])],
            [new Line(1, 2, 'r', 1, 'id', End::OneOrMore, End::NoneOrOne, $odd, 'documented', $odd)],
            Detail::All,
        );
        foreach ([true, false] as $standalone) {
            $document = new \DOMDocument();
            self::assertTrue($document->loadXML(SvgDrawing::draw($layout, new TitleBlock($odd, $odd, $odd, $odd, $odd, $odd), $standalone)));
        }
    }

    public function testALinkedDrawingHasNoInlineStyleAndAStandaloneOneNoLinks(): void
    {
        $layout = Layout::of([new Tablet(1, 'A', [], link: '/register/1')], [], Detail::All);
        $linked = SvgDrawing::draw($layout, new TitleBlock('A'));
        $alone = SvgDrawing::draw($layout, new TitleBlock('A'), true, ['Marcellus' => 'data:font/woff2;base64,AA']);

        self::assertStringContainsString('<a href="/register/1">', $linked);
        self::assertDoesNotMatchRegularExpression('/<style|style=/', $linked);
        self::assertStringNotContainsString('<a ', $alone);
        self::assertStringContainsString('data:font/woff2;base64,AA', $alone);
    }

    public function testTheLegendExplainsJustTheSignsInUse(): void
    {
        $two = [new Tablet(1, 'A', [new TabletRow('id', 'id', true)]), new Tablet(2, 'B', [new TabletRow('r', 'r')])];
        $svg = static fn (Line ...$lines): string => SvgDrawing::draw(Layout::of($two, array_values($lines), Detail::All), new TitleBlock('A'));
        $declared = $svg(new Line(1, 2, 'r', 1, 'id', End::NoneOrMore, End::One));

        self::assertStringContainsString('exactly one', $declared);
        self::assertStringContainsString('none or more', $declared);
        self::assertStringContainsString('primary key', $declared);
        self::assertStringNotContainsString('documented, not enforced', $declared);
        self::assertStringNotContainsString('>one or more<', $declared);
        self::assertStringContainsString('documented, not enforced', $svg(new Line(1, 2, 'r', 1, 'id', End::OneOrMore, End::One, '', 'documented')));
    }

    public function testAJoinOverSeveralFieldsIsTiedToEachOfItsRows(): void
    {
        $rows = static fn (string ...$names): array => array_map(
            static fn (string $name): TabletRow => new TabletRow($name, $name, 'a' === $name || 'b' === $name),
            array_values($names),
        );
        $tablets = [new Tablet(1, 'Parts', $rows('a', 'b', 'note')), new Tablet(2, 'Uses', $rows('id', 'x', 'first', 'second'))];
        $line = new Line(1, 2, 'first', 1, 'a', End::NoneOrMore, End::One, fromMore: ['second'], toMore: ['b']);
        $layout = Layout::of($tablets, [$line], Detail::Keys);

        self::assertSame(
            ['first', 'second'],
            array_map(static fn (TabletRow $row): string => $row->name, Drawn::shapeOf($layout, 2)->rows),
            'Both fields are shown where only those of joins are.',
        );
        self::assertSame([], Drawn::faults($layout));
        $svg = SvgDrawing::draw($layout, new TitleBlock('A'));
        self::assertSame(2, substr_count($svg, 'class="tie"'));
        foreach ([[1, ['a', 'b']], [2, ['first', 'second']]] as [$id, $names]) {
            $shape = Drawn::shapeOf($layout, $id);
            foreach ($names as $name) {
                $row = $shape->rowOf($name);
                self::assertStringContainsString(','.($shape->y + $shape->rowTops[$row] + $shape->rowHeights[$row] / 2).'H', $svg, $name);
            }
        }
        self::assertStringNotContainsString('class="tie"', SvgDrawing::draw(Layout::of($tablets, [$line], Detail::Names), new TitleBlock('A')));
    }

    public function testACatalogIsDrawnWithItsJoinsAsSentences(): void
    {
        [$tablets, $lines] = FromCatalog::of(Made::catalog(
            Made::table('station'),
            Made::table('reading', ['station_id' => 'int?'], ['station_id' => 'station']),
            Made::table('stray', ['x_id' => 'int'], ['x_id' => 'elsewhere']),
        ));

        self::assertCount(3, $tablets);
        self::assertCount(1, $lines, 'A join to a table that was not read cannot be drawn.');
        self::assertSame('A reading refers to at most one station.', $lines[0]->tooltip);
    }
}
