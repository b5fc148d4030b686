<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Diagram;

use Fasti\Core\Diagram\Detail;
use Fasti\Core\Diagram\Layout;
use Fasti\Core\Diagram\Note;
use Fasti\Core\Diagram\NoteSpan;
use Fasti\Core\Diagram\NoteText;
use Fasti\Core\Diagram\Piece\Frame;
use Fasti\Core\Diagram\Piece\Heading;
use Fasti\Core\Diagram\Piece\Remark;
use Fasti\Core\Diagram\SmallPicture;
use Fasti\Core\Diagram\SvgDrawing;
use Fasti\Core\Diagram\Tablet;
use Fasti\Core\Diagram\TabletRow;
use Fasti\Core\Diagram\TitleBlock;
use PHPUnit\Framework\TestCase;

/** What people write on a diagram. */
final class NoteTest extends TestCase
{
    /** @return list<string> lines as `style:text` */
    private static function lines(string $text, float $width = 300): array
    {
        $span = static fn (NoteSpan $span): string => ('plain' === $span->style ? '' : $span->style.':')
            .$span->text.('' === $span->link ? '' : ' → '.$span->link);

        return array_map(static fn (array $line): string => implode('|', array_map($span, $line)), NoteText::lines($text, $width));
    }

    public function testMarkdownThatFitsANote(): void
    {
        self::assertSame(['a |strong:b| and |stressed:c| or |code:d_e'], self::lines('a **b** and *c* or `d_e`'));
        self::assertSame(['first', '', 'second'], self::lines("first\n\nsecond\n\n"));
        self::assertSame(['• one', '• two'], self::lines("- one\n* two"));
        self::assertSame(['strong:Head', 'text'], self::lines("## Head\ntext"));
        self::assertSame(['see |the page → https://a.example/x'], self::lines('see [the page](https://a.example/x)'));
    }

    public function testWhatIsNotMarkdownStandsAsItWasWritten(): void
    {
        self::assertSame(['flow_into_id and 2 * 3 * 4'], self::lines('flow_into_id and 2 * 3 * 4'));
        self::assertSame(['[x](javascript:alert(1))'], self::lines('[x](javascript:alert(1))'), 'Such a link is none.');
        self::assertSame([], self::lines(" \n \n"));
    }

    public function testLinesAreBrokenAndLongWordsToo(): void
    {
        $lines = NoteText::lines(str_repeat('reading station ', 12).str_repeat('x', 90), 200);

        self::assertGreaterThan(8, \count($lines));
        foreach ($lines as $line) {
            self::assertLessThanOrEqual(
                201.0,
                array_sum(array_map(static fn (NoteSpan $span): float => (new NoteSpan(rtrim($span->text), $span->style))->width(Note::TEXT_SIZE), $line)),
            );
        }
    }

    public function testANoteIsAsHighAsItsTextAndAFrameIsGoneRoundAtItsTitleOnly(): void
    {
        $note = new Note('n1', new Remark(), "a\n\nb\n\nc", 0, 0);
        self::assertGreaterThan((new Note('n1', new Remark(), 'a', 0, 0))->height, $note->height);
        $frame = new Note('n2', new Frame(), 'Title', 10, 20, 500, 400);
        self::assertSame([500.0, 400.0], [$frame->width, $frame->height]);
        self::assertLessThan(100, $frame->ground()->height);
    }

    public function testAllOfItIsDrawnAndEscaped(): void
    {
        $notes = [
            new Note('n1', new Remark(), '<b> & [docs](https://a.example)', 0, 0),
            new Note('n2', new Heading(), 'Where "it" is', 400, 0),
            new Note('n3', new Frame(), 'Rivers', 0, 300, 400, 200),
        ];
        $layout = Layout::arranged([], [], Detail::Keys, [], $notes);
        foreach ([false, true] as $standalone) {
            $svg = SvgDrawing::draw($layout, new TitleBlock('T'), $standalone);
            $document = new \DOMDocument();
            self::assertTrue($document->loadXML($svg));
            self::assertStringContainsString('&lt;b&gt; &amp; ', $svg);
            self::assertSame($standalone ? 0 : 1, substr_count($svg, '<a href="https://a.example"'));
            self::assertStringContainsString('class="note of-frame" data-note="n3"', $svg);
        }
        self::assertSame(2, substr_count(SmallPicture::of($layout), 'class="words"'));
    }

    public function testAFrameGrowsWithWhatItHoldsAndWithNothingElse(): void
    {
        $rows = array_map(static fn (int $i): TabletRow => new TabletRow("f$i", "field $i"), range(0, 30));
        $tablets = [new Tablet(1, 'Inside', $rows), new Tablet(2, 'Outside', $rows)];
        $frame = [new Note('n1', new Frame(), 'F', 0, 0, 300, 200)];
        $places = [1 => [20.0, 60.0], 2 => [400.0, 0.0]];
        $drawn = static fn (Detail $detail): Note => Layout::arranged($tablets, [], $detail, $places, $frame)->notes[0];

        self::assertSame([300.0, 200.0], [$drawn(Detail::Names)->width, $drawn(Detail::Names)->height]);
        self::assertSame(300.0, $drawn(Detail::All)->width);
        self::assertGreaterThan(60 + 31 * 20, $drawn(Detail::All)->height);
    }

    public function testANoteThatWouldCoverAnotherMovesBesideIt(): void
    {
        $notes = [new Note('n1', new Remark(), 'one', 0, 0), new Note('n2', new Heading(), 'two', 20, 10)];
        $drawn = Layout::arranged([], [], Detail::Keys, [], $notes)->notes;

        self::assertFalse($drawn[0]->ground()->meets($drawn[1]->ground()));
        self::assertSame([0.0, 0.0], [$drawn[0]->x, $drawn[0]->y]);
    }
}
