<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Model;

use Fasti\Core\Catalog\Place;
use Fasti\Core\Model\Aggregate\Count;
use Fasti\Core\Model\Aggregate\Sum;
use Fasti\Core\Model\Attribute;
use Fasti\Core\Model\Choice;
use Fasti\Core\Model\Condition;
use Fasti\Core\Model\Edits;
use Fasti\Core\Model\Level;
use Fasti\Core\Model\Measure;
use Fasti\Core\Model\ModelError;
use Fasti\Core\Model\ModelFile;
use Fasti\Core\Model\Renamed;
use Fasti\Core\Model\Role;
use Fasti\Core\Model\Test;
use Fasti\Core\Model\Trial;
use Fasti\Core\Model\Uses;
use PHPUnit\Framework\TestCase;

final class EditsTest extends TestCase
{
    public function testARoleThatHasAnotherNameIsFollowedByAll(): void
    {
        $model = River::model();
        $model = Edits::measure($model, '', new Measure('fish', new Sum(), 'sighting', 'individuals', "species.kind = 'fish'"));
        $model = Edits::choose($model, new Choice('sighting', 'species', [$model->joins[3]->key()]));
        $after = Edits::renamed(
            $model,
            new Renamed(['individuals' => 'animals'], ['species' => 'kind of animal', 'day' => 'date seen'], ["day\0date" => 'day']),
        );

        self::assertSame("\"kind of animal\".kind = 'fish'", $after->measure('fish')?->filter);
        self::assertSame('animals', $after->measure('per sighting')?->of);
        self::assertSame('date seen', $after->role('day confirmed')?->like);
        self::assertEquals(new Level('date seen', 'day'), $after->measure('stock')?->instant);
        self::assertSame(['date seen'], $after->measure('stock')?->notOver);
        self::assertSame('day', $after->role('date seen')?->label);
        self::assertSame([$after->joins[3]->key()], $after->choices[0]->by);
        self::assertSame('kind of animal', $after->choices[0]->to);
    }

    public function testAKeptTrialFollowsNames(): void
    {
        $before = River::model();
        $renamed = new Renamed(['individuals' => 'animals'], ['day' => 'date seen', 'sighting' => 'seen'], ["day\0year" => 'calendar year']);
        $after = Edits::renamed($before, $renamed);
        $trial = new Trial(['individuals'], ['year of day', 'what nobody knows'], [new Condition('year of day confirmed', Test::Is, ['2025'], ['sighting'])]);
        $moved = $renamed->trial($trial, $before, $after);

        self::assertSame(['animals'], $moved->measures);
        self::assertSame(['calendar year of date seen', 'what nobody knows'], $moved->by);
        self::assertSame('calendar year of day confirmed', $moved->where[0]->what);
        self::assertSame(['seen'], $moved->where[0]->facts);
    }

    public function testFieldsThatHaveOtherNamesInTheSourceAreFollowed(): void
    {
        $model = Edits::measure(River::model(), '', new Measure('fish', new Sum(), 'sighting', 'individuals', "species.kind = 'kind'"));
        $after = Edits::fieldsRenamed($model, new Place('', 'species'), ['kind' => 'kind_of', 'species_id' => 'id']);

        self::assertSame('kind_of', $after->role('species')?->attribute('kind')?->expression);
        self::assertSame("species.kind_of = 'kind'", $after->measure('fish')?->filter);
        self::assertSame(['id'], $after->role('species')->key);
        self::assertSame(['id'], $after->joins[3]->keys);
        self::assertSame(['species_id'], $after->joins[3]->fields);
        self::assertSame(['id'], $after->joins[7]->fields);
    }

    public function testAJoinMayLeadToARoleOfItsOwnWithAllBeyondIt(): void
    {
        $model = River::model();
        $after = Edits::ownRole($model, $model->joins[2]->key(), 'station seen from');

        self::assertSame('station', $after->role('station seen from')?->like);
        self::assertSame('reach', $after->role('reach of station seen from')?->like);
        self::assertSame('station seen from', $after->joins[2]->to);
        $this->expectExceptionObject(new ModelError('There is a role “reach” already. Choose another name.'));
        Edits::ownRole($model, $model->joins[2]->key(), 'reach');
    }

    public function testWhatARoleSaidIsInheritedWhenItGoes(): void
    {
        $after = Edits::withoutRole(River::model(), 'day');

        self::assertSame('', $after->role('day confirmed')?->like);
        self::assertSame(['date', 'year', 'month'], array_map(static fn (Attribute $one): string => $one->name, $after->role('day confirmed')->attributes));
        self::assertSame([], array_filter($after->joins, static fn ($join): bool => 'day' === $join->to));
        self::assertNull(Edits::withoutRole(River::model(), 'reading')->measure('stock'));
    }

    public function testChangesAreToldInWords(): void
    {
        $model = River::model();
        $after = Edits::withoutMeasure(Edits::measure($model, '', new Measure('new', new Count(), 'sighting')), 'stock');
        $after = Edits::replaceRole($after, 'reach', new Role('reach', $after->roles[5]->kind, $after->roles[5]->entry, meaning: 'a part of a river'));

        self::assertSame(['changed the role reach', 'took in the measure new', 'took out the measure stock'], Edits::between($model, $after));
        self::assertSame([], Edits::between($model, $model));
    }

    public function testMeasuresAndAttributesStandWhereTheyArePut(): void
    {
        $names = static fn (array $all): array => array_column($all, 'name');
        $of = static fn (string $name, string $after): array => $names(Edits::measureAfter(River::model(), $name, $after)->measures);

        self::assertSame(['stock', 'individuals', 'sightings'], \array_slice($of('stock', ''), 0, 3));
        self::assertSame(['sightings', 'individuals', 'species seen'], \array_slice($of('individuals', 'sightings'), 0, 3));
        self::assertSame(['middle value', 'stock', 'individuals'], \array_slice($of('individuals', 'stock'), -3));
        $day = Edits::attributeAfter(River::model(), 'day', 'month', 'date')->role('day');
        self::assertSame(['date', 'month', 'year'], $names($day->attributes ?? []));
        self::assertSame(['put the measures in another order'], Edits::between(River::model(), Edits::measureAfter(River::model(), 'individuals', 'stock')));
    }

    public function testUsesAreTheFieldsThatEachPartIsMadeFrom(): void
    {
        $uses = (new Uses(River::ground()))->all(['What lives where' => new Trial(['per sighting'], ['reach'])]);
        $of = [];
        foreach ($uses as $use) {
            $of[$use->kind.' '.$use->part][(string) $use->place] = true;
        }

        self::assertSame(['sighting.individuals', 'sighting.id'], array_keys($of['measure per sighting']));
        self::assertSame(['reading.in_stock', 'day.day_date'], array_keys($of['measure stock']));
        self::assertSame(['day.year'], array_keys($of['attribute year of day confirmed']));
        self::assertSame(
            ['sighting.individuals', 'sighting.id', 'reach.reach_name', 'sighting.station_id', 'station.station_id', 'station.reach_id', 'reach.reach_id'],
            array_keys($of['trial What lives where']),
        );
    }

    public function testAFileIsReadAsItWasWritten(): void
    {
        $model = River::model();

        self::assertEquals($model, ModelFile::read(ModelFile::json($model, 'mart')));
    }

    /** @return iterable<string, array{string, string}> */
    public static function wrong(): iterable
    {
        yield 'no JSON' => ['{', 'The file is no JSON'];
        yield 'a list' => ['[]', 'The file holds no model'];
        yield 'another format' => ['{"format": "x", "name": "n"}', 'The file says that it is of the format “x”'];
        yield 'no name' => ['{"name": " "}', 'The model has no name.'];
        yield 'a member nobody knows' => ['{"name": "n", "colour": "red"}', 'Not understood: /colour “red”'];
        yield 'a word nobody knows' => ['{"name": "n", "measures": [{"name": "m", "aggregation": "total", "fact": "f"}]}', '/measures/0/aggregation “total”'];
        yield 'a part without a name' => ['{"name": "n", "measures": [{"aggregation": "sum"}]}', 'one of the 1 in /measures'];
    }

    #[\PHPUnit\Framework\Attributes\DataProvider('wrong')]
    public function testWhatOfAFileIsNotUnderstoodIsSaidWithItsPlace(string $json, string $words): void
    {
        $this->expectException(ModelError::class);
        $this->expectExceptionMessage($words);
        ModelFile::read($json);
    }
}
