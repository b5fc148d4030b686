<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Model;

use Fasti\Core\Catalog\Place;
use Fasti\Core\Join\End;
use Fasti\Core\Model\Additivity;
use Fasti\Core\Model\Aggregate\Average;
use Fasti\Core\Model\Aggregate\Count;
use Fasti\Core\Model\Aggregate\Greatest;
use Fasti\Core\Model\Aggregate\Least;
use Fasti\Core\Model\Aggregate\Ratio;
use Fasti\Core\Model\Aggregate\Sum;
use Fasti\Core\Model\Attribute;
use Fasti\Core\Model\Choice;
use Fasti\Core\Model\Edits;
use Fasti\Core\Model\Hierarchy;
use Fasti\Core\Model\Known;
use Fasti\Core\Model\Level;
use Fasti\Core\Model\Measure;
use Fasti\Core\Model\Model;
use Fasti\Core\Model\ModelChecks;
use Fasti\Core\Model\ModelFinding;
use Fasti\Core\Model\ModelJoin;
use Fasti\Core\Model\Role;
use Fasti\Core\Model\RoleKind;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** Each thing that the checks of a model find, by a model in which it is and one in which it is just not. */
final class FindingsTest extends TestCase
{
    /** @return list<string> */
    private static function found(Model $model, Known $known): array
    {
        return array_map(
            static fn (ModelFinding $one): string => "$one->check, {$one->severity->value}, of $one->about: $one->words",
            (new ModelChecks(River::ground($model), $known))->all(),
        );
    }

    private static function measured(Measure ...$measures): Model
    {
        return River::model()->with(measures: [...River::model()->measures, ...array_values($measures)]);
    }

    private static function role(string $name, RoleKind $kind, string $table, string $like = '', string $grain = 'x'): Role
    {
        return new Role($name, $kind, new Place('', $table), $like, '', $grain, ['reading' === $table ? 'id' : $table.'_id']);
    }

    /** @return iterable<string, array{0: Model, 1: list<string>, 2?: Known}> */
    public static function names(): iterable
    {
        yield 'two measures of one name' => [
            self::measured(new Measure('INDIVIDUALS', new Count(), 'sighting', meaning: 'm')),
            ['name-twice, fault, of INDIVIDUALS: Two measures are called “INDIVIDUALS”'],
        ];
        yield 'a measure and a role of one name' => [self::measured(new Measure('station', new Count(), 'sighting', meaning: 'm')), []];
        yield 'no meaning' => [
            self::measured(new Measure('n', new Count(), 'sighting', meaning: ' ')),
            ['no-meaning, note, of n: It is not said what “n” means'],
        ];
        yield 'a key whose field is gone' => [
            River::model()->with(roles: array_map(
                static fn (Role $role): Role => 'species' === $role->name ? new Role('species', RoleKind::Dimension, $role->entry, key: ['sp_id']) : $role,
                River::model()->roles,
            )),
            ['field-gone, fault, of species: sp_id, of the key of “species”, is not there any more'],
        ];
        yield 'a role of nothing' => [
            River::model()->with(roles: [...River::model()->roles, self::role('day closed', RoleKind::Dimension, 'day', 'days')]),
            ['role-of-nothing, fault, of day closed: “day closed” is a role of “days”, which the model has not'],
        ];
        yield 'a fact of which nothing is measured, without a grain' => [
            River::model()->with(
                roles: [...River::model()->roles, self::role('read again', RoleKind::Fact, 'reading', grain: ' ')],
                joins: [...River::model()->joins, new ModelJoin('read again', 'day', ['day_id'], ['day_id'])],
            ),
            [
                'no-grain, doubt, of read again: It is not said what one row of “read again” stands for',
                'fact-without-measure, note, of read again: Of the fact “read again” nothing is measured',
            ],
        ];
        yield 'facts that share nothing' => [
            River::model()->with(roles: [...River::model()->roles, self::role('read again', RoleKind::Fact, 'reading')]),
            [
                'facts-apart, doubt, of sighting and read again: “sighting” and “read again” share no dimension',
                'facts-apart, doubt, of reading and read again: “reading” and “read again” share no dimension',
                'fact-without-measure, note, of read again: Of the fact “read again” nothing is measured',
            ],
        ];
    }

    /** @return iterable<string, array{0: Model, 1: list<string>, 2?: Known}> */
    public static function joins(): iterable
    {
        $with = static fn (ModelJoin ...$joins): Model => River::model()->with(joins: [...River::model()->joins, ...array_values($joins)]);
        yield 'from nothing' => [
            $with(new ModelJoin('visit', 'day', ['a'], ['day_id'])),
            ['join-of-nothing, fault, of visit.a → day.day_id: A join leads from “visit”, which the model has not'],
        ];
        yield 'to nothing' => [
            $with(new ModelJoin('sighting', 'visit', ['id'], ['id'])),
            ['join-of-nothing, fault, of sighting.id → visit.id: A join leads to “visit”, which the model has not'],
        ];
        yield 'by a field that is gone' => [
            River::model()->with(joins: array_map(
                static fn (ModelJoin $join): ModelJoin => 'reach' === $join->to ? new ModelJoin('station', 'reach', ['reach_no'], ['reach_id']) : $join,
                River::model()->joins,
            )),
            ['field-gone, fault, of station.reach_no → reach.reach_id: reach_no of “station”, by which a join finds its rows, is not there any more',
                'not-reached, doubt, of reach: Nothing leads to the attributes of “reach”'],
        ];
        yield 'to many' => [
            $with(new ModelJoin('reach', 'day', ['reach_id'], ['day_id'], End::NoneOrMore, End::NoneOrMore)),
            ['join-multiplies, fault, of reach.reach_id → day.day_id: At one row of “reach” several of “day” may stand'],
        ];
        yield 'by two routes' => [
            $with(new ModelJoin('reading', 'reach', ['id'], ['reach_id'])),
            [
                'more-than-one-route, fault, of reading → reach: From “reading” to “reach” there are two routes: reading → reach (by id); '
                    .'or reading → station (by station_id) → reach (by reach_id)',
            ],
        ];
        yield 'by two routes, of which one is chosen' => [
            $with(new ModelJoin('reading', 'reach', ['id'], ['reach_id']))->with(choices: [new Choice('reading', 'reach', ['reading.id → reach.reach_id'])]),
            [],
        ];
        yield 'a choice of nothing' => [
            River::model()->with(choices: [new Choice('reading', 'species', ['x'])]),
            ['choice-of-nothing, fault, of reading → species: The chosen route from “reading” to “species” is not there any more'],
        ];
        yield 'ends that differ' => [
            River::model(),
            ['ends-differ, doubt, of reading.day_id → day.day_id: In the data it is otherwise'],
            new Known(ends: ['reading.day_id → day.day_id' => 'In the data it is otherwise', 'no.such → join' => 'x']),
        ];
        yield 'attributes that nothing leads to' => [
            River::model()->with(roles: [...River::model()->roles, new Role('reach below', RoleKind::Dimension, new Place('', 'reach'), 'reach')]),
            ['not-reached, doubt, of reach below: Nothing leads to the attributes of “reach below”'],
        ];
    }

    /** @return iterable<string, array{0: Model, 1: list<string>, 2?: Known}> */
    public static function measures(): iterable
    {
        $sum = static fn (string $expression, string $fact = 'reading', string $filter = '', Additivity $adds = Additivity::Additive): Measure => new Measure(
            'n', new Sum(), $fact, $expression, $filter, meaning: 'm', adds: $adds,
        );
        yield 'a filter that is not understood' => [
            self::measured($sum('individuals', 'sighting', 'individuals + 1')),
            ['not-understood, fault, of n: The filter of “n” is no condition: it is a number'],
        ];
        yield 'units that differ' => [
            self::measured($sum('weight_g + individuals_kg', 'sighting')),
            ['not-understood, fault, of n: “n” is not understood: sighting has no field “individuals_kg”, at character 12 (“individuals_kg”). '
                .'Do you mean individuals?'],
        ];
        yield 'a filter of a condition' => [self::measured($sum('individuals', 'sighting', 'individuals > 1')), []];
        yield 'a sum of a text' => [
            self::measured($sum('note', 'sighting')), ['aggregation-unfit, fault, of n: “n” takes the sum of what is a text'],
        ];
        yield 'the least of a text' => [self::measured(new Measure('n', new Least(), 'sighting', 'note', meaning: 'm')), []];
        yield 'a stock' => [
            self::measured($sum('in_stock')), ['stock-over-time, doubt, of n: “n” adds up in_stock, which looks like a stock, over time as well'],
        ];
        yield 'a stock that is not added over time' => [self::measured($sum('in_stock', adds: Additivity::SemiAdditive)), []];
        yield 'the average of a mean' => [
            self::measured(new Measure('n', new Average(), 'sighting', 'weight_g', meaning: 'm')),
            ['average-of-averages, doubt, of n: “n” is the average of weight_g, which is an average itself (it is AVG(x))'],
            new Known(averaged: ["\0sighting\0weight_g" => 'it is AVG(x)']),
        ];
        yield 'the greatest of a mean' => [
            self::measured(new Measure('n', new Greatest(), 'sighting', 'weight_g', meaning: 'm')), [],
            new Known(averaged: ["\0sighting\0weight_g" => 'it is AVG(x)']),
        ];
        yield 'a ratio of nothing' => [
            self::measured(new Measure('n', new Ratio(), of: 'individuals', by: 'gone', meaning: 'm')),
            ['not-understood, fault, of n: “n” is made of “gone”, which is no measure'],
        ];
        yield 'an order that is not understood' => [
            Edits::attribute(River::model(), 'species', 'kind', new Attribute('kind', 'kind', sorted: 'colour')),
            ['not-understood, fault, of kind of species: “kind” is not understood: species has no field “colour”, at character 1 (“colour”). It has: '
                .'species_id, name, kind.'],
        ];
        yield 'a level of nothing' => [
            River::model()->with(hierarchies: [new Hierarchy('h', [new Level('day', 'date'), new Level('day', 'week')])]),
            ['level-of-nothing, fault, of h: The hierarchy “h” has a level “week of day”, which the model has not'],
        ];
    }

    /** @param list<string> $expected */
    #[DataProvider('names')]
    #[DataProvider('joins')]
    #[DataProvider('measures')]
    public function testEachIsFoundOnce(Model $model, array $expected, Known $known = new Known()): void
    {
        self::assertSame($expected, self::found($model, $known));
    }
}
