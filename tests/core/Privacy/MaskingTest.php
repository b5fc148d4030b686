<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Privacy;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Type;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Privacy\Masking;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class MaskingTest extends TestCase
{
    #[DataProvider('values')]
    public function testItBecomesAnotherOfTheSameForm(string $value, string $type, string $form): void
    {
        $mask = (new Masking())->of($value, self::type($type));

        self::assertNotSame($value, $mask);
        self::assertMatchesRegularExpression($form, $mask);
    }

    /** @return iterable<array{string, string, string}> */
    public static function values(): iterable
    {
        yield ['oona.lisk@arrowmere.example', 'varchar(80)', '/^[a-z]{4}\.[a-z]{4}@[a-z]{9}\.[a-z]{7}$/'];
        yield ['+49 170 1234567', 'varchar(20)', '/^\+[1-9]\d \d{3} \d{7}$/'];
        yield ['Åsa Öberg', 'varchar(80)', '/^[A-Z][a-z]{2} [A-Z][a-z]{4}$/'];
        yield ['441632960001', 'bigint', '/^[1-9]\d{11}$/'];
        yield ['-12.50', 'decimal(6,2)', '/^-[1-9]\d\.\d\d$/'];
        yield ['1981-02-28', 'date', '/^19(?:80|81)-\d\d-\d\d$/'];
        yield ['1981-02-28 10:20:30', 'datetime', '/^19(?:80|81)-\d\d-\d\d 10:20:30$/'];
        yield ['7c9e6679-7425-40de-944b-e07fc1f90ae7', 'uuid', '/^[0-9a-f]{8}-[0-9a-f]{4}-4[0-9a-f]{3}-a[0-9a-f]{3}-[0-9a-f]{12}$/'];
        yield ['{"name": "Oona"}', 'json', '/^\{\}$/'];
        yield ['["Oona"]', 'json', '/^\[\]$/'];
    }

    public function testTheSameStaysTheSameAndDifferentOnesStayDifferent(): void
    {
        $masking = new Masking();
        $type = self::type('varchar(10)');
        $masks = array_map(static fn (int $i): string => $masking->of(\sprintf('%04d', $i), $type), range(0, 3000));

        self::assertSame($masks[7], $masking->of('0007', $type));
        self::assertCount(3001, array_unique($masks));
    }

    public function testAnotherMaskingLeadsElsewhere(): void
    {
        $type = self::type('varchar(40)');

        self::assertNotSame((new Masking())->of('a rather long name', $type), (new Masking())->of('a rather long name', $type));
    }

    public function testACodeBecomesOneOfTheCodes(): void
    {
        $masking = new Masking();

        self::assertContains($masking->of('M', self::type('char(1)'), ['M', 'F']), ['M', 'F']);
        self::assertContains($masking->of('male', self::type("enum('male','female')")), ['male', 'female']);
        self::assertSame('1', $masking->of('1', self::type('boolean')));
    }

    private static function type(string $written): Type
    {
        return Dialects::of('mariadb')->typeOf(new Column('c', $written));
    }
}
