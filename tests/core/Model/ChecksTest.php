<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Model;

use Fasti\Core\Finding\Severity;
use Fasti\Core\Join\End;
use Fasti\Core\Model\Additivity;
use Fasti\Core\Model\Aggregate\Average;
use Fasti\Core\Model\Aggregate\Count;
use Fasti\Core\Model\Aggregate\Ratio;
use Fasti\Core\Model\Aggregate\Sum;
use Fasti\Core\Model\Attribute;
use Fasti\Core\Model\Edits;
use Fasti\Core\Model\Hierarchies;
use Fasti\Core\Model\Hierarchy;
use Fasti\Core\Model\Known;
use Fasti\Core\Model\Level;
use Fasti\Core\Model\Matrix;
use Fasti\Core\Model\MatrixCell;
use Fasti\Core\Model\Measure;
use Fasti\Core\Model\Model;
use Fasti\Core\Model\ModelChecks;
use Fasti\Core\Model\ModelDataChecks;
use Fasti\Core\Model\ModelFinding;
use Fasti\Core\Model\ModelJoin;
use Fasti\Core\Model\Role;
use Fasti\Core\Survey\SilentProgress;
use PHPUnit\Framework\TestCase;

final class ChecksTest extends TestCase
{
    /** @return array<string, list<string>> check → about */
    private static function found(Model $model, Known $known = new Known()): array
    {
        $found = [];
        foreach ((new ModelChecks(River::ground($model), $known))->all() as $one) {
            $found[$one->check][] = $one->about;
        }

        return $found;
    }

    public function testAModelThatHoldsHasNoFinding(): void
    {
        self::assertSame([], self::found(River::model()));
    }

    public function testLoopsJoinsToManyAndFactsApartAreFound(): void
    {
        $model = River::model();
        $loop = $model->with(joins: [...$model->joins, new ModelJoin('sighting', 'reach', ['weight_g'], ['reach_id'])]);
        self::assertSame(['more-than-one-route' => ['sighting → reach']], self::found($loop));

        $many = $model->with(joins: array_map(static fn (ModelJoin $join): ModelJoin => 'group' !== $join->to ? $join
            : new ModelJoin('species', 'group', ['species_id'], ['species_id'], End::One, End::OneOrMore), $model->joins));
        self::assertSame(['join-multiplies' => ['species.species_id → group.species_id'], 'not-reached' => ['group']], self::found($many));

        $apart = $model->with(
            joins: array_values(
                array_filter(
                    $model->joins,
                    static fn (ModelJoin $join): bool => 'sighting' !== $join->from || \in_array($join->to, ['species', 'day confirmed'], true),
                ),
            ),
        );
        self::assertArrayHasKey('facts-apart', self::found($apart));
        self::assertStringContainsString('only day confirmed and day, which are roles of their own', (new ModelChecks(River::ground($apart)))->all()[0]->words);
    }

    public function testAggregationsThatDoNotFitAreFound(): void
    {
        $measures = [
            new Measure('a', new Average(), 'reading', 'in_stock', meaning: 'm'),
            new Measure('b', new Sum(), 'reading', 'in_stock', meaning: 'm'),
            new Measure('c', new Sum(), 'sighting', 'note', meaning: 'm'),
            new Measure('d', new Sum(), 'sighting', 'weight_g +', meaning: 'm'),
            new Measure('e', new Ratio(), of: 'a', by: 'gone', meaning: 'm'),
        ];
        $model = River::model()->with(measures: $measures);
        $found = self::found($model, new Known(averaged: ["\0reading\0in_stock" => 'it is computed as AVG(x)']));

        self::assertSame(['a'], $found['average-of-averages']);
        self::assertSame(['b'], $found['sum-of-averages']);
        self::assertSame(['b'], $found['stock-over-time']);
        self::assertSame(['c'], $found['aggregation-unfit']);
        self::assertEqualsCanonicalizing(['d', 'e'], $found['not-understood']);
    }

    public function testAMeanByTheRowsBehindItIsNoAverageOfAverages(): void
    {
        $model = River::model()->with(measures: [
            new Measure('whole', new Sum(), 'reading', 'value * in_stock', meaning: 'm'), new Measure('n', new Count(), 'sighting', meaning: 'm'),
        ]);

        self::assertSame([], self::found($model, new Known(averaged: ["\0reading\0value" => 'it is a mean'])));
    }

    public function testWhatIsGoneIsAFaultWithItsPlace(): void
    {
        $model = Edits::attribute(River::model(), 'species', '', new Attribute('colour', 'colour'));
        $found = self::found($model);
        self::assertSame(['colour of species'], $found['not-understood']);

        $model = River::model();
        $moved = Edits::entryMoved($model, new \Fasti\Core\Catalog\Place('', 'species'), new \Fasti\Core\Catalog\Place('', 'kinds'));
        self::assertSame(['species'], self::found($moved)['entry-gone']);
    }

    public function testNamesThatMeanSomethingElseElsewhereAndPersonalDataAreFound(): void
    {
        $known = new Known(
            personal: ["\0station\0station_name" => 'it names a person'], ends: ['sighting.seen_id → day.day_id' => 'In the data it is otherwise'],
            measures: [['model' => 'Other', 'name' => 'Individuals', 'meaning' => 'something else', 'how' => 'sum of x of y']],
        );
        $found = self::found(River::model(), $known);

        self::assertSame(['individuals'], $found['same-name-other-meaning']);
        self::assertSame(['station of station'], $found['personal']);
        self::assertSame(['sighting.seen_id → day.day_id'], $found['ends-differ']);
    }

    public function testTheDataIsHeldAgainstTheModel(): void
    {
        $model = Edits::hierarchy(River::model(), new Hierarchy('up', [new Level('station', 'station'), new Level('reach', 'reach')]));
        $model = Edits::hierarchy($model, new Hierarchy('odd', [new Level('reach', 'reach'), new Level('station', 'station')]));
        $model = Edits::hierarchy($model, new Hierarchy('flow', [new Level('reach', 'reach')], true, ['into_id']));
        $checks = new ModelDataChecks(River::ground($model), River::rows());
        $found = [];
        foreach ($checks->all(new SilentProgress()) as $one) {
            $found[$one->check.' '.$one->about] = [$one->rows, $one->severity];
        }

        self::assertSame([], $checks->notes);
        self::assertSame([
            'key-not-unique group' => [1, Severity::Fault],
            'leads-nowhere sighting.station_id → station.station_id' => [1, Severity::Doubt],
            'leads-nowhere species.species_id → group.species_id' => [1, Severity::Doubt],
            'hierarchy-ragged up' => [1, Severity::Doubt],
            'hierarchy-broken odd' => [1, Severity::Fault],
        ], array_intersect_key($found, array_flip([
            'key-not-unique group', 'leads-nowhere sighting.station_id → station.station_id', 'leads-nowhere species.species_id → group.species_id',
            'hierarchy-ragged up', 'hierarchy-broken odd',
        ])));
    }

    /** What stands twice under a key that others lead to is asked about; what is taken of it, is answered. */
    public function testOfKeysThatStandTwiceItIsSaidWhatIsAnsweredAndWhatIsNot(): void
    {
        $model = River::model();
        $model = $model->with(roles: array_map(static fn (Role $role): Role => 'sighting' === $role->name
            ? new Role($role->name, $role->kind, $role->entry, $role->like, '', $role->grain, ['species_id'], '', $role->attributes) : $role, $model->roles));
        $why = [];
        foreach ((new ModelDataChecks(River::ground($model), River::rows()))->all(new SilentProgress()) as $one) {
            $why[$one->check.' '.$one->about] = $one->why;
        }

        self::assertStringContainsString('counts each of these rows', $why['key-not-unique sighting'] ?? '');
        self::assertStringNotContainsString('is not answered', $why['key-not-unique sighting'] ?? '');
        self::assertStringContainsString('a question for which they differ is not answered', $why['key-not-unique group'] ?? '');
        self::assertStringNotContainsString('counts each of these rows', $why['key-not-unique group'] ?? '');
    }

    public function testRowsThatLeadBackToWhereTheyBeganAreFound(): void
    {
        $model = Edits::hierarchy(River::model(), new Hierarchy('flow', [new Level('reach', 'reach')], true, ['into_id']));
        $rows = River::rows();
        self::assertCount(0, self::endless($model, $rows));
        foreach ($rows->rows('UPDATE reach SET into_id = 1 WHERE reach_id = 2') as $row) {
            continue;
        }

        self::assertStringContainsString(
            '2 rows of “reach” lead back to where they began',
            implode('', array_map(static fn (ModelFinding $one): string => $one->words, self::endless($model, $rows))),
        );
    }

    /** @return list<ModelFinding> */
    private static function endless(Model $model, \Fasti\Core\Survey\Rows $rows): array
    {
        return array_values(array_filter(
            (new ModelDataChecks(River::ground($model), $rows))->all(new SilentProgress()),
            static fn (ModelFinding $one): bool => 'hierarchy-endless' === $one->check,
        ));
    }

    public function testHierarchiesAreFoundInTheData(): void
    {
        $found = (new Hierarchies(River::ground(), River::rows()))->of('station');
        self::assertSame(
            [['station', 'reach'], true],
            [array_map(static fn (Level $level): string => $level->attribute, $found[0]->levels), $found[0]->ragged],
        );

        $days = (new Hierarchies(River::ground(), River::rows()))->of('day');
        self::assertSame(['date', 'year'], array_map(static fn (Level $level): string => $level->attribute, $days[0]->levels));

        $within = (new Hierarchies(River::ground(), River::rows()))->of('reach');
        self::assertSame(['into_id'], $within[0]->parent);
    }

    public function testTheMatrixSaysWhatCanBeSplitByWhatAndWhyNot(): void
    {
        $model = River::model();
        $matrix = new Matrix(River::ground());
        $cell = static fn (string $measure, string $role): MatrixCell => $matrix->cell($model->measure($measure) ?? throw new \LogicException(), $role);

        self::assertSame(['sighting', 'reading', 'day', 'day confirmed', 'station', 'reach', 'species', 'group'], $matrix->columns());
        self::assertSame(MatrixCell::YES, $cell('individuals', 'reach')->can);
        self::assertSame('sighting → station (by station_id) → reach (by reach_id).', $cell('individuals', 'reach')->why);
        self::assertSame(MatrixCell::GUARDED, $cell('individuals', 'group')->can);
        self::assertSame(MatrixCell::NO, $cell('mean value', 'species')->can);
        self::assertSame(MatrixCell::POINTS, $cell('stock', 'day')->can);
        self::assertSame('Not added up over it: the last counts. reading → day (by day_id).', $cell('stock', 'day')->why);
        self::assertSame(MatrixCell::YES, $cell('per sighting', 'species')->can);
        $many = $model->with(joins: [...$model->joins, new ModelJoin('reading', 'reach', ['in_stock'], ['reach_id'])]);
        self::assertSame(MatrixCell::OPEN, (new Matrix(River::ground($many)))->cell($many->measures[4], 'reach')->can);
    }

    public function testAdditivityIsWords(): void
    {
        self::assertSame(
            ['over every dimension', 'over some dimensions', 'over none'],
            array_map(static fn (Additivity $one): string => $one->inWords(), Additivity::cases()),
        );
    }
}
