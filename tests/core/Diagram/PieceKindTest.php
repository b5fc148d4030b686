<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Diagram;

use Fasti\Core\Diagram\Arrangement;
use Fasti\Core\Diagram\Note;
use Fasti\Core\Diagram\Piece\Frame;
use Fasti\Core\Diagram\Piece\Heading;
use Fasti\Core\Diagram\Piece\PieceKind;
use Fasti\Core\Diagram\Piece\Remark;
use Fasti\Core\Diagram\SceneError;
use PHPUnit\Framework\TestCase;

/** What each kind of piece says of itself. */
final class PieceKindTest extends TestCase
{
    public function testTheyAreFoundByBeingThereAndOfferedInTheirOrder(): void
    {
        self::assertSame(['heading', 'note', 'frame'], array_keys(PieceKind::known()));
        self::assertInstanceOf(Remark::class, PieceKind::named('note'));
        self::assertNull(PieceKind::named('arrow'));
        $keys = array_map(static fn (PieceKind $one): string => $one->key(), PieceKind::known());
        self::assertSame($keys, array_unique($keys));
    }

    public function testTheBoardIsToldAllThatItsScriptsAsk(): void
    {
        $told = json_decode((string) json_encode(array_map(static fn (PieceKind $one): array => $one->forTheBoard(), PieceKind::known())), true);

        self::assertSame([
            'heading' => ['key' => 'h', 'writing' => 'Heading', 'long' => false, 'holds' => false, 'room' => [300, 40], 'made' => []],
            'note' => ['key' => 't', 'writing' => 'Note, in Markdown', 'long' => true, 'holds' => false, 'room' => [240, 110], 'made' => ['width' => 240]],
            'frame' => [
                'key' => 'r', 'writing' => 'Title of the frame', 'long' => false, 'holds' => true, 'room' => [240, 110],
                'made' => ['width' => 420, 'height' => 300],
            ],
        ], $told);
    }

    public function testHowLargeEachIs(): void
    {
        $size = static fn (PieceKind $kind, string $text, float $width = 240, float $height = 160): array => [
            ($note = new Note('n1', $kind, $text, 0, 0, $width, $height))->width, $note->height,
        ];

        self::assertSame([[240.0, 42.0 + 8], [240.0, 80.0]], [$size(new Remark(), 'a'), $size(new Remark(), "a\n\nb")]);
        self::assertSame([60.0, 60.0], $size(new Frame(), 'a', 10, 10));
        self::assertSame([300.0, 200.0], $size(new Frame(), 'a', 300, 200));
        [$short, $height] = $size(new Heading(), 'a', 500);
        self::assertSame(40.0, $height);
        self::assertLessThan($size(new Heading(), 'a longer one')[0], $short);
        self::assertSame(0.0, fmod($short, 10));
    }

    public function testWhatLinesGoRound(): void
    {
        $ground = static fn (PieceKind $kind): array => [
            ($rect = (new Note('n1', $kind, 'Title', 10, 20, 300, 200))->ground())->x, $rect->y, $rect->width < 100, $rect->height,
        ];

        self::assertSame([10.0, 20.0, true, 30.0], $ground(new Frame()));
        self::assertSame([10.0, 20.0, false, 50.0], $ground(new Remark()));
        self::assertSame([true, false, false], [(new Frame())->holds(), (new Heading())->holds(), (new Remark())->holds()]);
        self::assertSame(['frame', 'words', 'words'], [(new Frame())->small(), (new Heading())->small(), (new Remark())->small()]);
    }

    public function testAKindThatIsNoneIsSaidWithThoseThereAre(): void
    {
        $this->expectException(SceneError::class);
        $this->expectExceptionMessage('“n1” is to be a heading, a note or a frame, and to have a text.');
        Arrangement::checked('n1', ['kind' => 'arrow', 'text' => '', 'x' => 0, 'y' => 0]);
    }
}
