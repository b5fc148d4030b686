<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Profile;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Profile\FieldFigures;
use Fasti\Core\Profile\FieldProfile;
use Fasti\Core\Value\Iso;
use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;

final class FiguresTest extends TestCase
{
    public function testValuesOfASampleThatStandOnceSayNothing(): void
    {
        $values = [...array_map(static fn (int $i): string => 'once '.$i, range(1, 100)), 'often', 'often', 'often'];

        self::assertSame(['often' => 3], self::field($values, 5000)->frequent);
        self::assertSame(103, self::field($values, 5000)->frequentOf);
    }

    public function testLongValuesAreCutAndManyAreNotAllKept(): void
    {
        $field = self::field(array_merge(...array_map(static fn (int $i): array => array_fill(0, 3, str_repeat('x', 200).$i), range(1, 50))), 150);

        self::assertCount(20, $field->frequent, 'values that begin alike keep counts of their own');
        self::assertSame(array_fill(0, 20, 3), array_values($field->frequent));
        foreach (array_keys($field->frequent) as $value) {
            self::assertLessThanOrEqual(80, mb_strlen((string) $value));
        }
    }

    public function testAnIdentifierShowsNoFrequentValues(): void
    {
        $field = self::field(array_map(static fn (int $i): string => 'A-'.$i, range(1, 60)), 60, 60);

        self::assertSame(['identifier', [], 0], [$field->likely, $field->frequent, $field->frequentOf]);
        self::assertSame(['A-99' => 51, 'A-9' => 9], $field->shapes);
    }

    public function testAStewardsWordWinsOverWhatItLooksLike(): void
    {
        $mails = array_map(static fn (int $i): string => 'p'.($i % 9).'@arrowmere.example', range(1, 90));

        self::assertSame([], self::field($mails, 90)->frequent);
        self::assertNotSame('', self::field($mails, 90)->personal);
        self::assertSame(10, self::field($mails, 90, decision: 'no')->frequent['p1@arrowmere.example'] ?? 0);
        self::assertSame('a steward says so', self::field(['x', 'x'], 2, decision: 'yes')->personal);
    }

    public function testADateKeptAsTextHasAHistogramOfDates(): void
    {
        $field = self::field(array_map(static fn (int $i): string => \sprintf('2024-%02d-%02d', 1 + $i % 12, 1 + $i % 28), range(1, 200)), 200);

        self::assertSame('date kept as text', $field->likely);
        self::assertSame(200, array_sum(array_column($field->histogram, 'count')));
        self::assertStringStartsWith('2024-01-', $field->histogram[0]['from']);
    }

    #[TestWith(['DE', true])]
    #[TestWith(['deu', true])]
    #[TestWith(['XX', false])]
    #[TestWith(['', false])]
    public function testCountriesAreThoseOfTheStandard(string $code, bool $known): void
    {
        self::assertSame($known, Iso::isCountry($code));
    }

    #[TestWith(['en', true])]
    #[TestWith(['en-GB', true])]
    #[TestWith(['xx', false])]
    #[TestWith(['english', false])]
    public function testLanguagesAreThoseOfTheStandard(string $code, bool $known): void
    {
        self::assertSame($known, Iso::isLanguage($code));
    }

    public function testAHistogramIsDrawnAsBars(): void
    {
        $steps = static fn (int ...$counts): array => array_map(
            static fn (int $count): array => ['from' => 'a', 'to' => 'b', 'count' => $count],
            array_values($counts),
        );

        self::assertSame([
            ['x' => 0.0, 'y' => 2.0, 'width' => 79.0, 'height' => 46.0, 'from' => 'a', 'to' => 'b', 'count' => 100],
            ['x' => 80.0, 'y' => 48.0, 'width' => 79.0, 'height' => 0.0, 'from' => 'a', 'to' => 'b', 'count' => 0],
            ['x' => 160.0, 'y' => 46.5, 'width' => 79.0, 'height' => 1.5, 'from' => 'a', 'to' => 'b', 'count' => 1],
        ], (new FieldProfile(101, 101, histogram: $steps(100, 0, 1)))->bars(240, 48));
        self::assertSame([1.0, 33.33], [
            (new FieldProfile(300, 300, histogram: $steps(...array_fill(0, 200, 1))))->bars(240, 48)[0]['width'],
            (new FieldProfile(3, 3, histogram: $steps(1, 1, 1)))->bars(100, 10)[1]['x'],
        ]);
        self::assertSame([], (new FieldProfile(1, 1))->bars(240, 48));
    }

    /** @param list<string> $values */
    private static function field(array $values, int $filled, ?int $distinct = null, string $decision = ''): FieldProfile
    {
        return (new FieldFigures('t', new Column('x', 'varchar(250)'), TypeFamily::Text, $decision))->field(
            $filled,
            [
                'values' => $filled,
                'blank' => 0,
                'distinct' => $distinct,
                'least' => null,
                'greatest' => null,
                'shortest' => null,
                'longest' => null,
                'average' => null,
            ],
            $values,
            null,
        );
    }
}
