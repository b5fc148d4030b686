<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Profile;

use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Profile\Histogram;
use Fasti\Core\Profile\Likely;
use Fasti\Core\Profile\TextShape;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;

final class LikelyTest extends TestCase
{
    /** @return iterable<string, array{TypeFamily, non-empty-list<string>, ?int, string}> */
    public static function fields(): iterable
    {
        /** @return list<string> */
        $many = static fn (\Closure $make): array => array_map(
            static fn (int $i): string => (string) (\is_scalar($value = $make($i)) ? $value : ''),
            range(1, 60),
        );
        yield 'UUIDs' => [TypeFamily::Text, $many(static fn (int $i): string => \sprintf('%08x-1111-4222-8333-%012x', $i, $i)), 60, 'UUID'];
        yield 'e-mail addresses' => [TypeFamily::Text, $many(static fn (int $i): string => "p$i@arrowmere.example"), 60, 'e-mail address'];
        yield 'telephone numbers' => [TypeFamily::Text, $many(static fn (int $i): string => \sprintf('+49 30 %06d', 1000 * $i)), 60, 'telephone number'];
        yield 'web addresses' => [TypeFamily::Text, $many(static fn (int $i): string => "https://arrowmere.example/$i"), 60, 'web address'];
        yield 'dates as text' => [
            TypeFamily::Text,
            $many(static fn (int $i): string => \sprintf('%02d.%02d.2024', 1 + $i % 28, 1 + $i % 12)),
            60,
            'date kept as text',
        ];
        yield 'numbers as text' => [TypeFamily::Text, $many(static fn (int $i): string => (string) (1.5 * $i)), 60, 'number kept as text'];
        yield 'JSON' => [TypeFamily::Text, $many(static fn (int $i): string => '{"a":'.$i.'}'), 60, 'JSON'];
        yield 'countries' => [TypeFamily::Text, $many(static fn (int $i): string => ['DE', 'FR', 'PL', 'NL', 'IT'][$i % 5]), 5, 'country code (ISO 3166)'];
        yield 'three letters of countries' => [
            TypeFamily::Text,
            $many(static fn (int $i): string => ['DEU', 'FRA', 'POL'][$i % 3]),
            3,
            'country code (ISO 3166)',
        ];
        yield 'currencies' => [TypeFamily::Text, $many(static fn (int $i): string => ['EUR', 'GBP', 'CHF'][$i % 3]), 3, 'currency code (ISO 4217)'];
        yield 'languages' => [TypeFamily::Text, $many(static fn (int $i): string => ['en', 'cs', 'da', 'sv'][$i % 4]), 4, 'language code (ISO 639)'];
        yield 'flags' => [TypeFamily::Whole, $many(static fn (int $i): string => (string) ($i % 2)), 2, 'flag'];
        yield 'codes' => [TypeFamily::Text, $many(static fn (int $i): string => ['G', 'S', 'B', 'M'][$i % 4]), 4, 'code'];
        yield 'identifiers' => [TypeFamily::Whole, $many(static fn (int $i): string => (string) $i), 60, 'identifier'];
        yield 'free text' => [
            TypeFamily::Text,
            $many(static fn (int $i): string => "Leaves on the sensor of number $i, cleaned it and went on my way"),
            58,
            '',
        ];
        yield 'measures' => [TypeFamily::Number, $many(static fn (int $i): string => (string) (1.25 * $i)), 55, ''];
    }

    /** @param non-empty-list<string> $values */
    #[DataProvider('fields')]
    public function testTellsWhatAFieldIsLikelyToBe(TypeFamily $family, array $values, ?int $distinct, string $kind): void
    {
        self::assertSame($kind, Likely::kind($family, $values, \count($values), \count($values), $distinct, max(array_map(mb_strlen(...), $values)))[0]);
    }

    public function testSaysHowManyFit(): void
    {
        $values = [...array_map(static fn (int $i): string => "p$i@arrowmere.example", range(1, 95)), 'none', 'n/a', 'x', 'y', 'z'];

        self::assertSame(['e-mail address', 95], Likely::kind(TypeFamily::Text, $values, 100, 100, 100, 30));
    }

    public function testEmptyAndConstantFieldsAreTold(): void
    {
        self::assertSame(['always empty', 100], Likely::kind(TypeFamily::Text, [], 50, 0, 0, 0));
        self::assertSame(['constant', 100], Likely::kind(TypeFamily::Text, ['x', 'x'], 2, 2, 1, 1));
        self::assertSame(['', 0], Likely::kind(TypeFamily::Text, [], 0, 0, 0, 0));
    }

    public function testAFewValuesFarOffDoNotMakeADesertOfTheRest(): void
    {
        $spread = Histogram::of(
            [...array_map(static fn (int $i): string => (string) (($i % 100) / 10), range(0, 995)), '9999.99', '9999.99', '9999.99', '-50000'],
            false,
        );

        self::assertSame(4, $spread->beyond);
        self::assertSame(996, array_sum(array_column($spread->steps, 'count')));
        self::assertLessThanOrEqual(100, max([0, ...array_column($spread->steps, 'count')]));
        self::assertSame(['0', '9.9'], [$spread->steps[0]['from'], $spread->steps[19]['to']]);
    }

    public function testAnEvenSpreadIsNotCut(): void
    {
        self::assertSame(0, Histogram::of(array_map(strval(...), range(1, 500)), false)->beyond);
        self::assertSame(0, Histogram::of(['1', '2', '3', '40'], false)->beyond, 'four values have no tail');
    }

    public function testEachWholeNumberHasAStepOfItsOwn(): void
    {
        $steps = Histogram::of(array_map(static fn (int $i): string => (string) ($i % 25), range(1, 250)), false)->steps;

        self::assertCount(25, $steps);
        self::assertSame(array_fill(0, 25, 10), array_column($steps, 'count'));
        self::assertSame(['7', '7'], [$steps[7]['from'], $steps[7]['to']]);
    }

    public function testStepsOfManyWholeNumbersEndWithTheGreatest(): void
    {
        $steps = Histogram::of(array_map(strval(...), range(1, 61)), false)->steps;

        self::assertSame('61', $steps[\count($steps) - 1]['to'] ?? '');
        self::assertSame(61, array_sum(array_column($steps, 'count')));
        self::assertNotSame(0, $steps[\count($steps) - 1]['count'] ?? 0);
    }

    #[TestWith(['ARR-01', 'AAA-99'])]
    #[TestWith(['Ärger 12', 'Aaaaa 99'])]
    #[TestWith(['0123456789', '9…'])]
    #[TestWith(['', ''])]
    public function testShapesOfText(string $text, string $shape): void
    {
        self::assertSame($shape, TextShape::of($text));
    }

    public function testAHistogramCountsEveryValueOnce(): void
    {
        $steps = Histogram::of(array_map(strval(...), range(1, 200)), false)->steps;

        self::assertSame(200, array_sum(array_column($steps, 'count')));
        self::assertSame(['1', '10'], [$steps[0]['from'], $steps[0]['to']]);
        self::assertSame([10], array_values(array_unique(array_column($steps, 'count'))));
        self::assertSame([], Histogram::of(['3', '3'], false)->steps);
        self::assertSame('2024-01-01', Histogram::of(['2024-01-01', '2024-12-31'], true)->steps[0]['from']);
    }
}
