<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Model;

use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Join\End;
use Fasti\Core\Model\Additivity;
use Fasti\Core\Model\Aggregate\Count;
use Fasti\Core\Model\Aggregate\Ratio;
use Fasti\Core\Model\Aggregate\Sum;
use Fasti\Core\Model\Asking;
use Fasti\Core\Model\Attribute;
use Fasti\Core\Model\Choice;
use Fasti\Core\Model\Condition;
use Fasti\Core\Model\Edits;
use Fasti\Core\Model\Ground;
use Fasti\Core\Model\Instead;
use Fasti\Core\Model\Measure;
use Fasti\Core\Model\Model;
use Fasti\Core\Model\ModelError;
use Fasti\Core\Model\ModelJoin;
use Fasti\Core\Model\Offer;
use Fasti\Core\Model\PlanColumn;
use Fasti\Core\Model\Planner;
use Fasti\Core\Model\Sorting;
use Fasti\Core\Model\Test;
use Fasti\Core\Model\Trial;
use Fasti\Core\Model\Unanswerable;
use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;

/** Plans by example; tests/app/Model/RandomTrialsTest.php holds thousands against going over all rows. */
final class PlannerTest extends TestCase
{
    /** @return list<list<?string>> */
    private static function answer(Trial $trial, ?Model $model = null): array
    {
        return (new Asking(River::rows()))->answer(River::planner($model)->plan($trial))->rows;
    }

    private static function refused(Trial $trial, ?Model $model = null): Unanswerable
    {
        try {
            River::planner($model)->plan($trial);
        } catch (Unanswerable $e) {
            return $e;
        }
        self::fail('It was planned.');
    }

    public function testRowsWithoutAParentCountUnderNone(): void
    {
        self::assertSame([['lower', '2'], ['upper', '5'], [null, '8']], self::answer(new Trial(['individuals'], ['reach'])));
    }

    #[TestWith(['12', 12])]
    #[TestWith(['-12.50', -12.5])]
    #[TestWith(['0.10', 0.1])]
    #[TestWith(['100.00', 100.0])]
    #[TestWith(['3.3333333333333335', 3.3333333333333335])]
    #[TestWith(['1.5e+20', 1.5e20])]
    #[TestWith(['9007199254740992', 9007199254740992])]
    #[TestWith(['9007199254740993', '9007199254740993'])]
    #[TestWith(['-12345678901234567890', '-12345678901234567890'])]
    #[TestWith(['123456789012345678.91', '123456789012345678.91'])]
    #[TestWith(['0.12345678901234567', '0.12345678901234567'])]
    #[TestWith(['NaN', 'NaN'])]
    #[TestWith([null, null])]
    public function testANumberGoesIntoJsonAsOneAsLongAsItIsTheSameThere(?string $value, int|float|string|null $there): void
    {
        $column = static fn (TypeFamily $family): PlanColumn => new PlanColumn('x', null, null, $family, '', '', []);

        self::assertSame($there, $column(TypeFamily::Number)->exact($value));
        self::assertSame($value, $column(TypeFamily::Text)->exact($value));
    }

    public function testTwoFactsMeetByWhatTheyShare(): void
    {
        $rows = self::answer(new Trial(['individuals', 'mean value'], ['month of day']));

        self::assertSame([['1', '10', '7.25'], ['12', '5', '4']], $rows);
    }

    public function testAFactThatHasNoRowsInACellCountsNothingThere(): void
    {
        $model = Edits::measure(River::model(), '', new Measure('readings', new Count(), 'reading'));

        self::assertSame(
            [['bridge', '5', '3'], ['ford', '7', '0'], ['mill', '2', '1'], [null, '1', '0']],
            self::answer(new Trial(['individuals', 'readings'], ['station']), $model),
        );
    }

    public function testAStockIsTheLastOfItsPointsAndItsTotalToo(): void
    {
        $plan = River::planner()->plan(new Trial(['stock'], ['year of day']));
        $answer = (new Asking(River::rows()))->answer($plan);

        self::assertSame([['2025', '10'], ['2026', '12']], $answer->rows);
        self::assertSame(['stock' => '12'], $answer->total);
        self::assertTrue($answer->reconciled[0]->agrees());
    }

    public function testAStockOfWhichNothingIsSaidInsteadIsRefusedWithWhatCouldBeAsked(): void
    {
        $stock = River::model()->measure('stock') ?? throw new \LogicException();
        $model = Edits::measure(River::model(), 'stock', new Measure(
            'stock', $stock->aggregation, 'reading', 'in_stock', adds: Additivity::SemiAdditive, notOver: ['day'], instant: $stock->instant,
            instead: Instead::Nothing,
            reason: 'it is a stock',
        ));
        $refused = self::refused(new Trial(['stock'], ['station']), $model);

        self::assertSame(['“stock” must not be added up over day (it is a stock).'], $refused->reasons);
        self::assertEquals(['station', 'date of day'], $refused->offers[0]->trial?->by);
        self::assertSame([['2026-01-02', '12']], \array_slice(self::answer(new Trial(['stock'], ['date of day']), $model), 2));
    }

    public function testWhatAFactDoesNotLeadToIsRefusedWithWhy(): void
    {
        $refused = self::refused(new Trial(['individuals', 'mean value'], ['species']));

        self::assertStringContainsString('Reading cannot be split by species: no join leads from reading to species.', $refused->reasons[0]);
        self::assertStringContainsString('several rows of sighting', $refused->reasons[0]);
        self::assertSame(['individuals'], $refused->offers[0]->trial?->measures);
        self::assertSame([], $refused->offers[1]->trial?->by);
    }

    public function testAConditionThatAFactCannotMeetMayHoldForTheOther(): void
    {
        $trial = new Trial(['individuals', 'mean value'], ['month of day'], [new Condition('kind', Test::Is, ['fish'])]);
        $refused = self::refused($trial);
        $offered = $refused->offers[0]->trial ?? self::fail('Nothing is offered.');

        self::assertSame(['sighting'], $offered->where[0]->facts);
        self::assertSame([['1', '8', '7.25'], ['12', '5', '4']], self::answer($offered));
    }

    public function testMoreThanOneRouteIsRefusedUntilOneIsChosen(): void
    {
        $model = River::model();
        $second = new ModelJoin('sighting', 'reach', ['weight_g'], ['reach_id']);
        $model = $model->with(joins: [...$model->joins, $second]);
        $refused = self::refused(new Trial(['individuals'], ['reach']), $model);

        self::assertStringContainsString('more than one route', $refused->reasons[0]);
        self::assertCount(2, array_filter($refused->offers, static fn (Offer $one): bool => str_starts_with($one->words, 'Let the model take')));
        $chosen = Edits::choose($model, new Choice('sighting', 'reach', [$second->key()]));
        self::assertSame([[null, '15']], self::answer(new Trial(['individuals'], ['reach']), $chosen));
    }

    public function testAJoinToManyIsNeverGoneOver(): void
    {
        $model = River::model();
        $joins = array_map(static fn (ModelJoin $join): ModelJoin => 'group' !== $join->to ? $join
            : new ModelJoin('species', 'group', ['species_id'], ['species_id'], End::One, End::OneOrMore), $model->joins);

        self::assertStringContainsString(
            'cannot be split by group name',
            self::refused(new Trial(['individuals'], ['group name']), $model->with(joins: $joins))->reasons[0],
        );
    }

    public function testAKeyThatStandsTwiceIsFoundBeforeTheAnswerAndWhatItWouldHaveMadeOfTheTotal(): void
    {
        $planner = River::planner();
        $trial = new Trial(['individuals'], ['group name']);
        $answer = (new Asking(River::rows()))->answer($planner->plan($trial), true, static fn () => $planner->naive($trial));

        self::assertSame([], $answer->rows);
        self::assertStringStartsWith('1 key of group stands more than once with different group_name', $answer->doubled[0]->words);
        self::assertSame(['fish', 'migrants'], array_column($answer->doubled[0]->rows, 'group_name'));
        self::assertSame(['21', '15', '1.4 times as much'], [$answer->reconciled[0]->here, $answer->reconciled[0]->alone, $answer->reconciled[0]->times()]);
    }

    public function testWhatLeadsNowhereIsCounted(): void
    {
        $answer = (new Asking(River::rows()))->answer(River::planner()->plan(new Trial(['individuals'], ['reach'])));

        self::assertSame([
            '1 row of sighting refers to a row of station that is not there; it counts under none.',
            '1 row of sighting belongs to no reach; it counts under none.',
        ], array_map(static fn ($one): string => $one->words, $answer->lost));
        self::assertTrue($answer->reconciled[0]->agrees());
        self::assertSame('15', $answer->reconciled[0]->alone);
    }

    public function testARatioIsComputedAfterwardsAndReconciled(): void
    {
        $answer = (new Asking(River::rows()))->answer(River::planner()->plan(new Trial(['per sighting'], ['kind'])));

        self::assertSame(['fish', 'mammal'], array_column($answer->rows, 0));
        self::assertEqualsWithDelta([13 / 3, 2.0], array_map(floatval(...), array_column($answer->rows, 1)), 1e-12);
        self::assertSame('3.75', $answer->reconciled[0]->here);
        self::assertTrue($answer->reconciled[0]->agrees());
    }

    public function testARatioOfItselfIsSaid(): void
    {
        $model = Edits::measure(River::model(), '', new Measure('round', new Ratio(), of: 'round', by: 'sightings'));

        $this->expectExceptionObject(new ModelError('The measure “round” is made of itself: round, round.'));
        River::planner($model)->plan(new Trial(['round']));
    }

    public function testAConditionOnAFigureNarrowsTheAnswer(): void
    {
        self::assertSame(
            [['mill', '2'], [null, '1']],
            self::answer(new Trial(['individuals'], ['station'], [new Condition('individuals', Test::Under, ['3'])])),
        );
        $this->expectExceptionMessage('is one on the answer, so it has to be asked for');
        River::planner()->plan(new Trial(['sightings'], ['station'], [new Condition('individuals', Test::Under, ['3'])]));
    }

    public function testANameIsThatOfAnAttributeAloneOrWithItsRole(): void
    {
        self::assertSame(
            [['2', '2']],
            self::answer(new Trial(['INDIVIDUALS'], ['Number  of_sighting'], [new Condition('number of sighting', Test::Is, ['2'])])),
        );
        $this->expectExceptionMessage('“year” may be year of day or year of day confirmed. Say which.');
        River::planner()->plan(new Trial(['individuals'], ['year']));
    }

    public function testAColumnOfTheAnswerMayBeCalledLikeAField(): void
    {
        $model = Edits::attribute(
            Edits::attribute(River::model(), 'species', 'species', new Attribute('name', 'name')),
            'station',
            'station',
            new Attribute('station_name', 'station_name'),
        );

        $trial = new Trial(['sightings'], ['name', 'station_name'], [new Condition('name', Test::Given)], [new Sorting('name', true)], 3);

        self::assertSame(['trout', 'otter', 'eel'], array_column(self::answer($trial, $model), 0));
    }

    public function testWhatAnAttributeStandsInOrderByMayBeReadElsewhere(): void
    {
        $model = Edits::attribute(River::model(), 'station', 'station', new Attribute('station', 'station_name', sorted: '0 - reach.reach_id'));
        $rows = self::answer(new Trial(['individuals'], ['station'], [new Condition('reach', Test::Given)]), $model);

        self::assertSame(['mill', 'bridge'], array_column($rows, 0));
        $two = self::answer(new Trial(['individuals', 'mean value'], ['station'], [new Condition('reach', Test::Given)]), $model);
        self::assertSame(['mill', 'bridge'], array_column($two, 0));
        $wrong = Edits::attribute(River::model(), 'station', 'station', new Attribute('station', 'station_name', sorted: 'rank'));
        self::assertStringContainsString('station has no field “rank”', self::refused(new Trial(['individuals'], ['station']), $wrong)->reasons[0]);
    }

    public function testNothingGoesOverAJoinWhoseFieldsAreGone(): void
    {
        $model = River::model();
        $gone = $model->with(joins: array_map(static fn (ModelJoin $join): ModelJoin => 'species' !== $join->to ? $join
            : new ModelJoin('sighting', 'species', ['kind_id'], ['species_id']), $model->joins));

        self::assertSame(
            'Sighting cannot be split by species: no join leads from sighting to species.',
            self::refused(new Trial(['individuals'], ['species']), $gone)->reasons[0],
        );
        self::assertSame([['15']], self::answer(new Trial(['individuals']), $gone));
    }

    public function testABigFactIsBroughtToKeysFirst(): void
    {
        $big = new Ground(River::model(), River::catalog('sqlite', ['sighting' => 5000000]));
        $plan = (new Planner($big, new \DateTimeImmutable()))->plan(new Trial(['individuals', 'sightings'], ['species', 'year of day']));

        self::assertStringContainsString('GROUP BY sighting.species_id, day.year', $plan->sql());
        self::assertSame(
            [['eel', '2025', '5', '1'], ['eel', '2026', '1', '1'], ['otter', '2026', '2', '1'], ['trout', '2026', '7', '1']],
            (new Asking(River::rows()))->answer($plan)->rows,
        );
        $distinct = (new Planner($big, new \DateTimeImmutable()))->plan(new Trial(['species seen'], ['station']));
        self::assertStringNotContainsString('grouped', $distinct->sql());
    }

    public function testEachLineSaysWhatItDoes(): void
    {
        $lines = River::planner()->plan(new Trial(['individuals'], ['group name']))->lines;
        $does = array_values(array_filter(array_map(static fn ($line): string => $line->does, $lines)));

        self::assertSame([
            'every row of sighting', 'at most one species to each row: its key sees to that',
            'no key keeps group from standing twice, so it is looked at before the answer',
            'one row of sighting for each row of the answer', 'rows without a value stand last',
        ], $does);
    }

    public function testNothingAskedForIsSaid(): void
    {
        $this->expectExceptionObject(new ModelError('Nothing is asked for yet. Choose a measure first.'));
        River::planner()->plan(new Trial([]));
    }

    public function testWhatTheMeasureCannotBeIsSaidWithTheReason(): void
    {
        $model = Edits::measure(River::model(), '', new Measure('notes', new Sum(), 'sighting', 'note'));
        self::assertSame(['The measure “notes” takes the sum of what is a text.'], self::refused(new Trial(['notes']), $model)->reasons);
        $model = Edits::measure(River::model(), '', new Measure('odd', new Sum(), 'sighting', 'individual'));
        self::assertStringContainsString('sighting has no field “individual”, at character 1', self::refused(new Trial(['odd']), $model)->reasons[0]);
    }

    public function testEachEngineIsAskedInItsOwnWords(): void
    {
        $trial = new Trial(['middle value', 'mean value', 'individuals'], ['month of day'], [], [new Sorting('individuals', true)], 3);
        $sql = static fn (string $engine): string => River::planner(null, $engine)->plan($trial)->sql();

        self::assertStringContainsString('PERCENTILE_CONT(0.5) WITHIN GROUP (ORDER BY reading.value)', $sql('postgresql'));
        self::assertStringContainsString('CAST(NULL AS numeric) AS individuals', $sql('postgresql'));
        self::assertStringContainsString('ROW_NUMBER() OVER (PARTITION BY day.month', $sql('mariadb'));
        self::assertStringContainsString('SUM(reading.value) * 1.000000000000 / COUNT(reading.value)', $sql('mariadb'));
        self::assertStringContainsString('MAX(individuals) IS NULL, individuals DESC', $sql('mariadb'));
        self::assertStringContainsString('individuals DESC NULLS LAST', $sql('sqlite'));
        self::assertStringContainsString('FETCH FIRST 3 ROWS ONLY', $sql('sql'));
        $this->expectExceptionMessage('cannot be asked questions, only read');
        $sql('files');
    }
}
