<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Catalog;

use Fasti\Core\Catalog\Place;
use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;

final class PlaceTest extends TestCase
{
    public function testNamesWithDotsAreNeverTakenForOthers(): void
    {
        $one = new Place('a', 'b.c');
        $other = new Place('a.b', 'c');

        self::assertNotSame($one->key(), $other->key());
        self::assertNotSame((string) $one, (string) $other);
        self::assertNotEquals($one, $other);
    }

    #[TestWith(['main', 'station', 'main.station'])]
    #[TestWith(['', 'station', 'station'])]
    #[TestWith(['a.b', 'c', '"a.b".c'])]
    #[TestWith(['a', 'b "x".c', 'a."b ""x"".c"'])]
    #[TestWith(['räume', 'with space', 'räume.with space'])]
    public function testItIsReadAsItIsSaid(string $schema, string $name, string $said): void
    {
        $place = new Place($schema, $name);

        self::assertSame($said, (string) $place);
        self::assertEquals($place, Place::parse($said));
        self::assertEquals($place, Place::ofKey($place->key()));
    }

    #[TestWith([''])]
    #[TestWith(['a.'])]
    #[TestWith(['a.b.c'])]
    #[TestWith(['"a'])]
    #[TestWith(['a"b'])]
    public function testWhatIsNoPlaceIsRefused(string $text): void
    {
        self::assertNull(Place::parse($text));
    }
}
