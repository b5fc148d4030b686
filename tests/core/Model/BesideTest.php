<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Model;

use Fasti\Core\Catalog\OpenForm;
use Fasti\Core\Model\Additivity;
use Fasti\Core\Model\Aggregate\Computed;
use Fasti\Core\Model\Aggregate\Sum;
use Fasti\Core\Model\Asking;
use Fasti\Core\Model\BesideOffers;
use Fasti\Core\Model\Companion\Companion;
use Fasti\Core\Model\Condition;
use Fasti\Core\Model\Edits;
use Fasti\Core\Model\Figure;
use Fasti\Core\Model\FigureText;
use Fasti\Core\Model\Ground;
use Fasti\Core\Model\Instead;
use Fasti\Core\Model\Level;
use Fasti\Core\Model\Measure;
use Fasti\Core\Model\Model;
use Fasti\Core\Model\ModelError;
use Fasti\Core\Model\Offer;
use Fasti\Core\Model\Planner;
use Fasti\Core\Model\Renamed;
use Fasti\Core\Model\Sorting;
use Fasti\Core\Model\Test;
use Fasti\Core\Model\Trial;
use Fasti\Core\Model\TrialWords;
use Fasti\Core\Model\Unanswerable;
use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;

/** What stands beside measures: how it is said, what of it is refused and what is offered instead, and what it gives. */
final class BesideTest extends TestCase
{
    private static function figure(string $text, ?Model $model = null): Figure
    {
        return (new FigureText(River::ground($model)->names()))->read($text);
    }

    /** @param list<string> $figures */
    private static function trial(array $figures, string ...$by): Trial
    {
        return new Trial(['individuals'], array_values($by), figures: array_map(self::figure(...), $figures));
    }

    #[TestWith(['share of individuals'])]
    #[TestWith(['share of individuals within reach, year of day'])]
    #[TestWith(['shown share of individuals within reach'])]
    #[TestWith(['running individuals along date of day'])]
    #[TestWith(['running individuals along date of day within year of day'])]
    #[TestWith(['rank of individuals'])]
    #[TestWith(['rank of individuals within reach'])]
    #[TestWith(['individuals 1 year before by date of day'])]
    #[TestWith(['individuals 3 weeks before'])]
    #[TestWith(['change of individuals from 2 months before by date of day'])]
    #[TestWith(['change in per cent of individuals from 1 quarter before'])]
    public function testItIsReadAsItIsWritten(string $words): void
    {
        $figure = self::figure($words);

        self::assertSame($words, $figure->inWords());
        self::assertEquals($figure, OpenForm::read(Figure::class, OpenForm::of($figure)));
        self::assertSame($words, self::figure(mb_strtoupper(str_replace(' ', '  ', $words)))->inWords());
    }

    public function testPeopleMaySayAYearBefore(): void
    {
        self::assertSame('individuals 1 year before', self::figure('individuals, a year before')->inWords());
        self::assertSame('mean value 1 day before', self::figure('mean value a day before')->inWords());
    }

    public function testAMeasureWhoseNameHoldsSuchWordsIsMeant(): void
    {
        $model = River::model();
        $model = $model->with(measures: [...$model->measures, new Measure('weight within reach', new Sum(), 'sighting', 'weight_g')]);

        self::assertSame('share of weight within reach', self::figure('share of weight within reach', $model)->inWords());
        self::assertSame([], self::figure('share of weight within reach', $model)->within);
        self::assertSame(['reach'], self::figure('share of weight within reach within reach', $model)->within);
    }

    #[TestWith(['share of nothing', 'The model has no measure “share of nothing”.'])]
    #[TestWith(['share of individuals within town', 'The model has no attribute “town”.'])]
    #[TestWith(['running individuals along date', '“date” may be date of day or date of day confirmed. Say which.'])]
    #[TestWith(['individual', 'Do you mean individuals?'])]
    public function testWhatIsNotUnderstoodIsSaid(string $text, string $why): void
    {
        $this->expectException(ModelError::class);
        $this->expectExceptionMessage($why);
        self::figure($text);
    }

    /**
     * @return list<string> why it is refused, and what is offered
     */
    private static function refusal(Trial $trial, ?Model $model = null): array
    {
        try {
            River::planner($model)->plan($trial);
        } catch (Unanswerable $e) {
            return [...$e->reasons, ...array_map(static fn (Offer $one): string => '→ '.$one->words, $e->offers)];
        }

        return [];
    }

    public function testWhatMeansNothingIsRefusedWithWhatCouldBeAsked(): void
    {
        self::assertSame([
            '“share of individuals within reach” needs reach, by which the answer is not split.', '→ Ask by reach as well.',
        ], self::refusal(self::trial(['share of individuals within reach'], 'station')));
        self::assertSame([
            '“running individuals along date of day” needs date of day, by which the answer is not split.', '→ Ask by date of day as well.',
        ], self::refusal(self::trial(['running individuals along date of day'], 'station')));
        self::assertSame([
            'There is no “share of species seen”: “species seen” is the distinct count, and figures of such a kind are not added up.',
            '→ Ask without share of species seen.',
        ], self::refusal(self::trial(['share of species seen'], 'station')));
        self::assertStringStartsWith(
            'There is no “share of per sighting”: “per sighting” is a ratio',
            self::refusal(self::trial(['share of per sighting'], 'station'))[0],
        );
        self::assertSame('“number of sighting” is no date of its own, so nothing can be looked at before by it.', self::refusal(
            self::trial(['individuals 1 year before by number of sighting'], 'station'),
        )[0]);
        self::assertSame([
            'It is not said by which date to look back.', '→ Look back by date of day.', '→ Look back by date of day confirmed.',
        ], self::refusal(self::trial(['individuals 1 year before'], 'station')));
        self::assertSame([
            'Nothing here says of when the answer is: it is neither split by date of day nor does a condition say up to when.', '→ Ask by date of day as well.',
        ], self::refusal(self::trial(['individuals 1 year before by date of day'], 'station')));
        self::assertSame('The answer looks back by date of day and by date of day confirmed: one date at a time is looked back by.', self::refusal(
            self::trial(['individuals 1 year before by date of day', 'individuals 1 day before by date of day confirmed'], 'date of day'),
        )[0]);
    }

    public function testAStockIsSharedAtOnePointOfAll(): void
    {
        $of = static fn (Instead $instead): Model => River::model()->with(measures: [new Measure(
            'stock', new Sum(), 'reading', 'in_stock', adds: Additivity::SemiAdditive, notOver: ['day'], instant: new Level('day', 'date'), instead: $instead,
        )]);
        $share = static fn (string ...$by): Trial => new Trial(['stock'], array_values($by), figures: [self::figure('share of stock')]);

        self::assertSame([], self::refusal($share('station'), $of(Instead::LastOfAll)));
        self::assertStringContainsString('stands at a point of its own in each row', self::refusal($share('station'), $of(Instead::Last))[0]);
        self::assertStringContainsString('must not be added up over day', self::refusal($share('year of day'), $of(Instead::LastOfAll))[0]);
    }

    public function testSumsOfMeasuresAreSharedAndProductsAreNot(): void
    {
        $of = static fn (string $expression): Model => River::model()->with(
            measures: [...River::model()->measures, new Measure('made', new Computed(), expression: $expression)],
        );
        $why = static fn (string $expression): string => self::refusal(
            new Trial([], ['station'], figures: [self::figure('share of made', $of($expression))]),
            $of($expression),
        )[0] ?? '';

        foreach ([
            'individuals - 2 * sightings', '(individuals + sightings) / 4',
            'COALESCE(individuals, 0) - sightings', '-1 * individuals', '-individuals',
        ] as $sum) {
            self::assertSame('', $why($sum), $sum);
        }
        foreach ([
            'individuals * sightings', 'individuals + 5', 'ROUND(individuals, 0)',
            'COALESCE(individuals, 1)', '4 / individuals', 'MOD(individuals, 2)',
        ] as $none) {
            self::assertStringContainsString('is no sum and no difference of measures', $why($none), $none);
        }
        self::assertStringContainsString('“species seen” is the distinct count', $why('individuals + "species seen"'));
    }

    public function testOthersNeedAnOrderByAMeasureThatComesOfParts(): void
    {
        $trial = new Trial(['individuals'], ['station'], limit: 1, others: true);
        self::assertSame([
            'Which are the first and which the others, an order by a measure says.', '→ In order of individuals, the greatest first.',
        ], self::refusal($trial));
        $down = [new Sorting('individuals', true)];
        self::assertSame([], self::refusal($trial->with(order: $down)));
        self::assertContains('“species seen” of the others does not come of what each of them has.', self::refusal(
            $trial->with(measures: ['individuals', 'species seen'], order: $down),
        ));
        $before = [self::figure('individuals 1 day before by date of day')];
        self::assertContains('What was before is not put together for the others.', self::refusal(
            $trial->with(order: $down, figures: $before, by: ['station', 'date of day']),
        ));
    }

    /** @return list<list<?string>> */
    private static function answered(Trial $trial): array
    {
        $plan = River::planner()->plan($trial);

        return (new Asking(River::rows()))->answer($plan)->rows;
    }

    public function testConditionsAndOrderAreOfWhatStandsBeside(): void
    {
        $trial = self::trial(['share of individuals', 'rank of individuals'], 'species')->with(
            where: [new Condition('Rank of  individuals', Test::Most, ['2'])],
            order: [new Sorting('share of individuals', true)],
        );

        self::assertSame([['trout', '7', '0.46666666666667', '1'], ['eel', '6', '0.4', '2']], self::answered($trial));
        self::assertSame('Show individuals, share of individuals and rank of individuals by species where Rank of  individuals is at most 2, '
            .'in order of share of individuals, the greatest first', TrialWords::of($trial));
    }

    public function testTheFirstOfEachAndTheOthers(): void
    {
        $order = [new Sorting('individuals', true)];
        $trial = new Trial(['individuals', 'sightings'], ['reach', 'station'], order: $order, limit: 1, each: ['reach'], others: true);
        $answer = (new Asking(River::rows()))->answer(River::planner()->plan($trial));

        self::assertSame([['lower', 'mill', '2', '1'], ['upper', 'bridge', '5', '1'], [null, 'ford', '7', '1'], [null, null, '1', '1']], $answer->rows);
        self::assertSame([[3 => 1], 1], [$answer->others, $answer->plan->othersAt]);
        self::assertStringEndsWith('the first 1 of each reach and the others', TrialWords::of($trial));
        foreach ([[null, ['reach'], false], [null, [], true], [1, ['species'], false]] as [$limit, $each, $others]) {
            try {
                River::planner()->plan($trial->with(limit: $limit, each: $each, others: $others));
                self::fail('It was answered.');
            } catch (ModelError $e) {
                self::assertMatchesRegularExpression('/Say how many rows|Ask by it as well/', $e->getMessage());
            }
        }
    }

    public function testSubtotalsStandAfterTheirRows(): void
    {
        $trial = new Trial(['individuals', 'species seen'], ['reach', 'station'], subtotals: true);
        $answer = (new Asking(River::rows()))->answer(River::planner()->plan($trial));

        self::assertSame([
            0 => [[1, ['lower', null, '2', '1']]], 1 => [[1, ['upper', null, '5', '1']]], 3 => [[1, [null, null, '8', '2']]],
        ], $answer->subtotalsAfter());
        // Where rows that belong together do not stand together, all stand at the end.
        $mixed = (new Asking(River::rows()))->answer(River::planner()->plan($trial->with(order: [new Sorting('station')])));
        self::assertSame([3], array_keys($mixed->subtotalsAfter()));
        self::assertStringEndsWith(', with subtotals', TrialWords::of($trial));
    }

    public function testDaysThatACalendarDoesNotHaveAreSaid(): void
    {
        $trial = self::trial(['individuals 1 day before by date of day'], 'year of day');
        $answer = (new Asking(River::rows()))->answer(River::planner()->plan($trial));

        self::assertSame([['2025', '5', null], ['2026', '10', '7']], $answer->rows);
        self::assertSame([
            '“day” has no row for a day from 2026-01-03 to 2026-01-03: what was 1 day before is in no row, so that a period that goes on into them is compared '
                .'with less.',
        ], $answer->notes);
        // The year before ends before the calendar does.
        $bounded = $trial->with(where: [new Condition('year of day', Test::Is, ['2025'])]);
        self::assertSame([], (new Asking(River::rows()))->answer(River::planner()->plan($bounded))->notes);
    }

    public function testWhatCanStandBesideIsOffered(): void
    {
        $offers = static fn (Trial $trial): array => array_column((new BesideOffers(River::ground()))->of($trial), 'value');
        $of = $offers(new Trial(['individuals'], ['reach', 'date of day']));

        self::assertContains('share of individuals within reach', $of);
        self::assertContains('running individuals along date of day within reach', $of);
        self::assertNotContains('running individuals along reach', $of);
        self::assertContains('change of individuals from 1 month before by date of day', $of);
        self::assertNotContains('share of individuals', $offers(self::trial(['share of individuals'], 'reach')));
        self::assertSame(['rank of species seen'], array_values(array_filter(
            $offers(new Trial(['species seen'], ['reach'])),
            static fn (string $one): bool => !str_contains($one, 'before'),
        )));
        self::assertSame([], $offers(new Trial(['no such measure'])));
        foreach ($of as $words) {
            self::assertSame([], self::refusal(new Trial(['individuals'], ['reach', 'date of day'], figures: [self::figure($words)])), $words);
        }
    }

    public function testItFollowsWhatIsRenamed(): void
    {
        $trial = self::trial(['running individuals along date of day within reach'], 'reach', 'date of day')->with(
            order: [new Sorting('running individuals along date of day within reach')], limit: 2, each: ['reach'],
            where: [new Condition('station', Test::Has, ['reading'], of: [new Condition('year of day', Test::Is, ['2026'])])],
        );
        $renamed = new Renamed(['individuals' => 'animals'], ['day' => 'date seen', 'station' => 'place'], ["reach\0reach" => 'stretch']);
        $after = Edits::renamed(River::model(), $renamed);
        $new = $renamed->trial($trial, River::model(), $after);

        self::assertSame('running animals along date of date seen within stretch', $new->figures[0]->inWords());
        self::assertSame(['stretch', $new->figures[0]->inWords()], [$new->each[0], $new->order[0]->what]);
        self::assertSame(['place', 'year of date seen'], [$new->where[0]->what, $new->where[0]->of[0]->what]);
        (new Planner(new Ground($after, River::catalog()), new \DateTimeImmutable()))->plan($new);
    }

    public function testEachIsFoundByBeingThere(): void
    {
        self::assertSame(
            ['share', 'shown share', 'running total', 'rank', 'before', 'change', 'change in per cent'],
            array_keys(Companion::known()),
        );
    }
}
