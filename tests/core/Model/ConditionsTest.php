<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Model;

use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Model\Condition;
use Fasti\Core\Model\ConditionSql;
use Fasti\Core\Model\ConditionText;
use Fasti\Core\Model\ModelError;
use Fasti\Core\Model\ModelNames;
use Fasti\Core\Model\Period;
use Fasti\Core\Model\Sorting;
use Fasti\Core\Model\Test;
use Fasti\Core\Model\Trial;
use Fasti\Core\Model\TrialWords;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;

final class ConditionsTest extends TestCase
{
    /** @return iterable<string, array{string, Condition}> */
    public static function texts(): iterable
    {
        yield 'is' => ['year of day is 2025', new Condition('year of day', Test::Is, ['2025'])];
        yield 'a sign' => ['month of day >= 3', new Condition('month of day', Test::Least, ['3'])];
        yield 'not' => ['kind <> fish', new Condition('kind', Test::IsNot, ['fish'])];
        yield 'several' => ["kind is one of fish, 'eel, old', otter", new Condition('kind', Test::Is, ['fish', 'eel, old', 'otter'])];
        yield 'none of several' => ['kind is not one of fish, eel', new Condition('kind', Test::IsNot, ['fish', 'eel'])];
        yield 'in a list' => ["kind in ('fish', 'eel')", new Condition('kind', Test::Is, ['fish', 'eel'])];
        yield 'between' => ['number of sighting is between 1 and 3', new Condition('number of sighting', Test::Between, ['1', '3'])];
        yield 'between quoted' => ["kind is between 'a and b' and c", new Condition('kind', Test::Between, ['a and b', 'c'])];
        yield 'a period' => ['date of day is in last month', new Condition('date of day', Test::During, ['last month'])];
        yield 'nothing' => ['date of day confirmed is none', new Condition('date of day confirmed', Test::None)];
        yield 'something' => ['kind is not none', new Condition('kind', Test::Given)];
        yield 'a beginning' => ['KIND begins with fi', new Condition('KIND', Test::Begins, ['fi'])];
        yield 'an apostrophe' => ["kind is 'it''s'", new Condition('kind', Test::Is, ["it's"])];
        $kind = new Condition('kind', Test::Is, ['fish']);
        $year = new Condition('year of day', Test::Is, ['2026']);
        $some = new Condition('number of sighting', Test::Between, ['1', '3']);
        yield 'or' => ['kind is fish or year of day is 2026', new Condition('', Test::Any, of: [$kind, $year])];
        yield 'and binds more' => ['kind is fish or number of sighting is between 1 and 3 and year of day is 2026', new Condition('', Test::Any, of: [
            $kind, new Condition('', Test::All, of: [$some, $year]),
        ])];
        yield 'brackets' => ['(kind is fish or number of sighting is between 1 and 3) and year of day is 2026', new Condition('', Test::All, of: [
            new Condition('', Test::Any, of: [$kind, $some]), $year,
        ])];
        yield 'brackets around all' => ['((kind is fish))', $kind];
        yield 'or in quotes' => ["kind is 'fish or year of day is 2026'", new Condition('kind', Test::Is, ['fish or year of day is 2026'])];
        yield 'or that joins nothing' => ['kind is fish or eel', new Condition('kind', Test::Is, ['fish or eel'])];
        yield 'brackets in quotes' => ["kind is 'a (b' or kind is fish", new Condition('', Test::Any, of: [new Condition('kind', Test::Is, ['a (b']), $kind])];
        yield 'has' => ['Station has sighting (kind is fish)', new Condition('station', Test::Has, ['sighting'], of: [$kind])];
        yield 'has no' => ['station has no reading', new Condition('station', Test::HasNo, ['reading'])];
        $more = 'station has no reading (year of day is 2026) or kind is fish (only for sighting)';
        yield 'has and more' => [$more, new Condition('', Test::Any, [], ['sighting'], [
            new Condition('station', Test::HasNo, ['reading'], of: [$year]), $kind,
        ])];
        yield 'for one fact' => ['kind is fish (only for sighting)', new Condition('kind', Test::Is, ['fish'], ['sighting'])];
    }

    #[DataProvider('texts')]
    public function testWhatPeopleWriteIsReadAndWrittenAgain(string $text, Condition $condition): void
    {
        $reader = new ConditionText(new ModelNames(River::model()));

        self::assertEquals($condition, $reader->read($text));
        self::assertEquals($condition, $reader->read(ConditionText::of($condition)));
    }

    #[TestWith(['(kind is fish', 'The model has no attribute “(kind”.'])]
    #[TestWith(['station has town', 'is not understood as a condition'])]
    #[TestWith(['station has sighting (town is x)', 'The model has no attribute “town”.'])]
    public function testWhatJoinsNothingIsSaid(string $text, string $why): void
    {
        $this->expectException(ModelError::class);
        $this->expectExceptionMessage($why);
        (new ConditionText(new ModelNames(River::model())))->read($text);
    }

    public function testBracketsMayNotStandHundredsDeep(): void
    {
        $this->expectExceptionMessage('within one another more than 20 deep');
        (new ConditionText(new ModelNames(River::model())))->read(str_repeat('(', 500).'kind is fish'.str_repeat(')', 500));
    }

    public function testWhatIsOfferedIsUnderstood(): void
    {
        $offered = ConditionText::offered();
        $reader = new ConditionText(new ModelNames(River::model()));

        self::assertCount(13, $offered);
        foreach ($offered as ['words' => $words, 'takes' => $takes]) {
            $values = match (true) {
                !$takes => '',
                'is between' === $words => ' 1 and 3',
                'is in' === $words => ' last month',
                default => ' 3',
            };
            $condition = $reader->read("date of day $words$values");
            self::assertSame($takes, [] !== $condition->values, $words);
            self::assertSame('date of day '.('is one of' === $words ? 'is' : $words).$values, ConditionText::of($condition));
        }
    }

    /** @return iterable<string, array{string, string}> */
    public static function odd(): iterable
    {
        yield 'no such name' => ['kindd is fish', 'The model has no attribute “kindd”. Do you mean kind'];
        yield 'no test' => ['kind fish', '“kind fish” is not understood as a condition.'];
        yield 'no value' => ['kind is', '“kind is” needs a value after “is”.'];
        yield 'half a span' => ['number of sighting is between 1', 'needs 2 values, with “and” between them'];
        yield 'too much' => ['kind is none of it', 'After “is none” nothing follows, but there is “of it”.'];
        yield 'either' => ['year is 2025', '“year” may be'];
    }

    #[DataProvider('odd')]
    public function testWhatIsNotUnderstoodIsSaid(string $text, string $words): void
    {
        $this->expectException(ModelError::class);
        $this->expectExceptionMessage($words);
        $condition = (new ConditionText($names = new ModelNames(River::model())))->read($text);
        $names->attribute($condition->what);
    }

    /** @return iterable<string, array{string, string, string}> with today a Sunday in March */
    public static function periods(): iterable
    {
        yield 'a year' => ['2024', '2024-01-01', '2025-01-01'];
        yield 'a quarter' => ['2024 Q4', '2024-10-01', '2025-01-01'];
        yield 'a month' => ['2024-02', '2024-02-01', '2024-03-01'];
        yield 'a day' => ['2024-02-29', '2024-02-29', '2024-03-01'];
        yield 'a minute' => ['2024-02-29 14:30', '2024-02-29 14:30:00', '2024-02-29 14:31:00'];
        yield 'today' => ['Today', '2026-03-15', '2026-03-16'];
        yield 'yesterday' => ['yesterday', '2026-03-14', '2026-03-15'];
        yield 'this week' => ['this week', '2026-03-09', '2026-03-16'];
        yield 'last week' => ['last week', '2026-03-02', '2026-03-09'];
        yield 'last month' => ['last month', '2026-02-01', '2026-03-01'];
        yield 'this quarter' => ['this quarter', '2026-01-01', '2026-04-01'];
        yield 'last year' => ['last year', '2025-01-01', '2026-01-01'];
        yield 'days' => ['last 30 days', '2026-02-14', '2026-03-16'];
        yield 'months' => ['the last 2 months', '2026-01-16', '2026-03-16'];
    }

    #[DataProvider('periods')]
    public function testPeriodsHoldTheirBeginningAndNotTheirEnd(string $words, string $from, string $to): void
    {
        $period = Period::named($words, new \DateTimeImmutable('2026-03-15 10:00', new \DateTimeZone('UTC')));

        self::assertSame([$from, $to], [$period?->begins(), $period?->ends()]);
    }

    #[TestWith(['2026-03-30', 'last 1 month', '2026-02-28', '2026-03-31'])]
    #[TestWith(['2026-03-28', 'last 1 month', '2026-02-28', '2026-03-29'])]
    #[TestWith(['2026-03-26', 'last 1 month', '2026-02-27', '2026-03-27'])]
    #[TestWith(['2026-03-31', 'last 1 month', '2026-03-01', '2026-04-01'])]
    #[TestWith(['2024-03-30', 'last 1 month', '2024-02-29', '2024-03-31'])]
    #[TestWith(['2026-01-30', 'last 2 months', '2025-11-30', '2026-01-31'])]
    #[TestWith(['2024-02-28', 'last 1 year', '2023-02-28', '2024-02-29'])]
    #[TestWith(['2026-07-30', 'last 13 months', '2025-06-30', '2026-07-31'])]
    #[TestWith(['2026-03-30', 'last 3 weeks', '2026-03-10', '2026-03-31'])]
    public function testMonthsAreCountedBackToTheSameDayOrTheLastOfAShorterMonth(string $today, string $words, string $from, string $to): void
    {
        $period = Period::named($words, new \DateTimeImmutable("$today 10:00", new \DateTimeZone('UTC')));

        self::assertSame([$from, $to], [$period?->begins(), $period?->ends()]);
    }

    public function testWhatIsNoPeriodIsNone(): void
    {
        foreach (['2024-13', '2023-02-29', 'soon', '24', '2024-02-29 24:00', ''] as $words) {
            self::assertNull(Period::named($words, new \DateTimeImmutable()), $words);
        }
    }

    /** @return iterable<string, array{TypeFamily, Condition, string, bool}> */
    public static function written(): iterable
    {
        yield 'a number' => [TypeFamily::Whole, new Condition('x', Test::Is, ['1 200', "\u{2212}3.5"]), 'v IN (1200, -3.5)', false];
        yield 'a date is a span' => [TypeFamily::Time, new Condition('x', Test::Is, ['2024-02']), "v >= '2024-02-01' AND v < '2024-03-01'", false];
        yield 'after a month' => [TypeFamily::Time, new Condition('x', Test::Over, ['2024-02']), "v >= '2024-03-01'", false];
        yield 'up to a month' => [TypeFamily::Time, new Condition('x', Test::Most, ['2024-02']), "v < '2024-03-01'", false];
        yield 'the opposite' => [TypeFamily::Text, new Condition('x', Test::IsNot, ["it's"]), "v = 'it''s'", true];
        yield 'signs of patterns' => [TypeFamily::Text, new Condition('x', Test::Contains, ['50%_!']), "v LIKE '%50!%!_!!%' ESCAPE '!'", false];
        yield 'yes' => [TypeFamily::Flag, new Condition('x', Test::Is, ['Yes']), 'v = TRUE', false];
        yield 'a number within' => [TypeFamily::Number, new Condition('x', Test::Begins, ['1']), "CAST(v AS text) LIKE '1%' ESCAPE '!'", false];
    }

    #[DataProvider('written')]
    public function testAConditionIsWrittenByTheKindOfWhatItLooksAt(TypeFamily $family, Condition $condition, string $sql, bool $opposite): void
    {
        $writer = new ConditionSql(Dialects::of('sqlite')->asking() ?? throw new \LogicException(), new \DateTimeImmutable('2026-03-15'));

        self::assertSame([$sql, $opposite], $writer->of('v', $family, $condition));
    }

    /** @return iterable<string, array{TypeFamily, Condition, string}> */
    public static function unfit(): iterable
    {
        yield 'no number' => [TypeFamily::Whole, new Condition('size', Test::Over, ['ten']), '“size” holds numbers, and “ten” is none.'];
        yield 'an attempt' => [TypeFamily::Whole, new Condition('size', Test::Is, ['1 OR 1=1']), 'is none'];
        yield 'no date' => [TypeFamily::Time, new Condition('day', Test::Is, ['soon']), '“soon” is no date that is understood for “day”. Write a year (2025)'];
        yield 'a period of a text' => [TypeFamily::Text, new Condition('kind', Test::During, ['2024']), '“kind” is no date or time'];
        yield 'no yes or no' => [TypeFamily::Flag, new Condition('is fish', Test::Is, ['perhaps']), '“is fish” is yes or no, and not “perhaps”.'];
        yield 'more than yes' => [TypeFamily::Flag, new Condition('is fish', Test::Over, ['yes']), 'there is no is over'];
        yield 'too many' => [TypeFamily::Text, new Condition('kind', Test::Begins, ['a', 'b']), 'takes 1 value, and has 2'];
    }

    #[DataProvider('unfit')]
    public function testAValueThatDoesNotFitIsSaid(TypeFamily $family, Condition $condition, string $words): void
    {
        $this->expectException(ModelError::class);
        $this->expectExceptionMessage($words);
        (new ConditionSql(Dialects::of('sqlite')->asking() ?? throw new \LogicException(), new \DateTimeImmutable()))->of('v', $family, $condition);
    }

    public function testATrialIsASentence(): void
    {
        $trial = new Trial(['individuals', 'mean value'], ['reach'], [new Condition('year of day', Test::Is, ['2025'])], [new Sorting('individuals', true)], 5);

        self::assertSame(
            'Show individuals and mean value by reach where year of day is 2025, in order of individuals, the greatest first, the first 5 rows',
            TrialWords::of($trial),
        );
        self::assertSame('Show individuals', TrialWords::of(new Trial(['individuals'])));
    }
}
