<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Catalog;

use Fasti\Core\Catalog\FieldPlace;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class FieldPlaceTest extends TestCase
{
    /** @return iterable<int, array{string, ?FieldPlace}> */
    public static function texts(): iterable
    {
        yield ['station.code', new FieldPlace('', 'station', 'code')];
        yield ['main.station.code', new FieldPlace('main', 'station', 'code')];
        yield ['"a.b"."c ""d""".e', new FieldPlace('a.b', 'c "d"', 'e')];
        yield ['code', null];
        yield ['a.b.c.d', null];
        yield ['a..b', null];
        yield ['', null];
    }

    #[DataProvider('texts')]
    public function testAFieldIsReadFromItsName(string $text, ?FieldPlace $expected): void
    {
        self::assertEquals($expected, FieldPlace::parse($text));
    }

    public function testWhatIsWrittenIsReadAgain(): void
    {
        foreach ([new FieldPlace('s', 't', 'f'), new FieldPlace('a.b', 'c', 'd.e'), new FieldPlace('x', 'y "z"', 'ä')] as $field) {
            self::assertEquals($field, FieldPlace::parse((string) $field));
            self::assertEquals($field, FieldPlace::ofKey($field->key()));
        }
    }
}
