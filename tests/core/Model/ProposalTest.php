<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Model;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\ForeignKey;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Catalog\Place;
use Fasti\Core\Catalog\Reference;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Join\Cardinality;
use Fasti\Core\Join\End;
use Fasti\Core\Join\EntryKind;
use Fasti\Core\Join\Link;
use Fasti\Core\Model\Additivity;
use Fasti\Core\Model\Answer;
use Fasti\Core\Model\Asking;
use Fasti\Core\Model\Attribute;
use Fasti\Core\Model\Chart;
use Fasti\Core\Model\FieldOffers;
use Fasti\Core\Model\Ground;
use Fasti\Core\Model\Instead;
use Fasti\Core\Model\Measure;
use Fasti\Core\Model\Model;
use Fasti\Core\Model\Proposal;
use Fasti\Core\Model\Role;
use Fasti\Core\Model\RoleKind;
use Fasti\Core\Model\Trial;
use PHPUnit\Framework\TestCase;

final class ProposalTest extends TestCase
{
    private const NAMES = ['reach', 'station', 'day', 'species', 'species_group', 'sighting', 'reading'];

    private static function proposal(): Proposal
    {
        $at = array_flip(self::NAMES);
        $link = static fn (string $from, string $to, string $field, string $key): Link => new Link(
            0,
            $at[$from],
            $at[$to],
            [[$field, $key]],
            new Cardinality(End::NoneOrMore, End::NoneOrOne),
        );

        return new Proposal(River::catalog(), [
            $link('sighting', 'day', 'seen_id', 'day_id'), $link('sighting', 'day', 'confirmed_id', 'day_id'), $link(
                'sighting',
                'station',
                'station_id',
                'station_id',
            ),
            $link(
                'sighting',
                'species',
                'species_id',
                'species_id',
            ), $link('reading', 'day', 'day_id', 'day_id'), $link('reading', 'station', 'station_id', 'station_id'),
            $link('station', 'reach', 'reach_id', 'reach_id'),
        ], [
            $at['sighting'] => EntryKind::Fact,
            $at['reading'] => EntryKind::Fact,
        ], [$at['sighting'] => 'it leads to 3 tables'], [$at['reach'] => 'Reach of a river']);
    }

    public function testFactsDimensionsAndRolesAreProposedWithReasons(): void
    {
        $proposed = self::proposal()->of('River', array_keys(self::NAMES));
        $roles = [];
        foreach ($proposed->model->roles as $role) {
            $roles[$role->name] = [$role->kind, $role->like];
        }

        self::assertSame([
            'sighting' => [RoleKind::Fact, ''], 'reading' => [RoleKind::Fact, ''], 'reach of a river' => [RoleKind::Dimension, ''],
            'station' => [RoleKind::Dimension, ''],
            'day' => [RoleKind::Dimension, ''], 'species' => [RoleKind::Dimension, ''], 'confirmed' => [RoleKind::Dimension, 'day'],
        ], $roles);
        self::assertSame('it leads to 3 tables', $proposed->reasons['sighting']);
        self::assertStringContainsString('sighting leads there by seen_id first', $proposed->reasons['day']);
        self::assertSame(['species_group: nothing joins it to the others'], $proposed->left);
        self::assertSame(
            ['a snowflake: station leads on to reach of a river', '2 facts, which share day, station', '1 role of a dimension that has one already'],
            $proposed->shape,
        );
        self::assertSame(
            ['date' => 'day_date'],
            array_column(
                array_map(static fn (Attribute $one): array => ['n' => 'date', 'e' => $one->expression], $proposed->model->role('day')->attributes ?? []),
                'e',
                'n',
            ),
        );
        self::assertSame([], $proposed->model->measures);
    }

    public function testAFactIsTakenWithEverythingOnTheOneSide(): void
    {
        $at = array_flip(self::NAMES);
        $around = self::proposal()->around($at['reading']);
        sort($around);

        self::assertSame([$at['reach'], $at['station'], $at['day'], $at['reading']], $around);
    }

    public function testASecondRoleHasItsOwnWayOn(): void
    {
        $table = static fn (string $name, string ...$fields): Table => new Table(
            '',
            $name,
            TableType::Table,
            '',
            array_values(array_map(static fn (string $field): Column => new Column($field, 'integer'), $fields)),
            new Key(null, ['id']),
        );
        $one = new Cardinality(End::NoneOrMore, End::NoneOrOne);
        $proposal = new Proposal(
            new Catalog('sqlite', '', [$table('trip', 'id', 'from_id', 'to_id'), $table('place', 'id', 'town_id'), $table('town', 'id')]),
            [
                new Link(1, 0, 1, [['from_id', 'id']], $one), new Link(2, 0, 1, [['to_id', 'id']], $one), new Link(3, 1, 2, [['town_id', 'id']], $one),
            ], [0 => EntryKind::Fact]);

        self::assertSame(
            ['trip', 'place', 'town', 'to', 'town of to'],
            array_map(static fn (Role $role): string => $role->name, $proposal->of('Trips', [0, 1, 2])->model->roles),
        );
    }

    public function testFieldsAreOfferedAsWhatTheyCouldBe(): void
    {
        $model = River::model()->with(measures: []);
        $offers = new FieldOffers(new Ground($model, River::catalog(), ["\0sighting\0weight_g" => 'g']), ["\0sighting\0individuals" => 'How many animals']);
        $sighting = $offers->of('sighting');

        self::assertSame(['Number of sightings', 'How many animals', 'Weight g', 'Note'], array_map(static fn ($offer): string => $offer->as->name, $sighting));
        self::assertInstanceOf(Measure::class, $sighting[2]->as);
        self::assertSame(['g', 'sum', Additivity::Additive], [$sighting[2]->as->unit, $sighting[2]->as->aggregation->name(), $sighting[2]->as->adds]);
        self::assertInstanceOf(Attribute::class, $sighting[3]->as);
        $stock = $offers->of('reading')[2]->as;
        self::assertInstanceOf(Measure::class, $stock);
        self::assertSame(
            [Additivity::SemiAdditive, ['day'], Instead::Last, 'date'],
            [$stock->adds, $stock->notOver, $stock->instead, $stock->instant?->attribute],
        );
        self::assertSame([], $offers->of('day confirmed'));
        self::assertSame('"order"', FieldOffers::written('order'));
    }

    public function testWhatNoSumMeansAnythingOfIsNoMeasure(): void
    {
        $table = new Table('', 'line', TableType::Table, columns: array_map(static fn (string $name): Column => new Column($name, 'integer'), [
            'offer', 'line', 'rank', 'fiscal_year', 'part_number', 'team', 'badge', 'fax', 'secret', 'nothing', 'weight', 'fill_rate',
        ]), primaryKey: new Key(null, ['offer', 'line']), uniqueKeys: [new Key(null, ['badge'])], foreignKeys: [
            new ForeignKey(null, ['team'], new Reference('', 'team', ['id'])),
        ]);
        $model = new Model('Lines', roles: [new Role('line', RoleKind::Fact, new Place('', 'line'), key: ['offer', 'line'])]);
        $ground = new Ground($model, new Catalog('sqlite', '', [$table]), closed: ["\0line\0secret" => 'a secret']);
        $offers = (new FieldOffers($ground, [], ["\0line\0nothing" => true]))->of('line');
        $measures = array_filter($offers, static fn ($offer): bool => $offer->as instanceof Measure && '' !== $offer->field);

        self::assertSame(['weight', 'fill_rate'], array_values(array_map(static fn ($offer): string => $offer->field, $measures)));
        self::assertSame(['sum', 'average'], array_values(array_map(
            static fn ($offer): string => $offer->as instanceof Measure ? $offer->as->aggregation->name() : '', $measures)));
        self::assertSame([], array_filter($offers, static fn ($offer): bool => \in_array($offer->field, ['secret', 'nothing'], true)));
        self::assertContains('rank', array_map(static fn ($offer): string => $offer->field, $offers), 'rows can be told apart by it');
    }

    private static function chart(Trial $trial): string
    {
        return Chart::of((new Asking(River::rows()))->answer(River::planner()->plan($trial)));
    }

    public function testAPictureIsDrawnWhereItShowsMore(): void
    {
        $bars = self::chart(new Trial(['individuals'], ['station']));
        self::assertSame(4, substr_count($bars, '<rect'));
        self::assertStringContainsString('<title>bridge: 5</title>', $bars);
        self::assertStringContainsString('>ford</text>', $bars);
        self::assertNotFalse(simplexml_load_string($bars));

        $lines = self::chart(new Trial(['individuals'], ['date of day', 'kind']));
        self::assertSame(2, substr_count($lines, '<path class="line-') - 2);
        self::assertSame('', self::chart(new Trial(['individuals'])));
        self::assertSame('', self::chart(new Trial(['individuals'], ['station', 'species', 'kind'])));
    }

    public function testAnAnswerHasTheSameFingerprintWhateverTheEngineWritesAfterTheTwelfthDigit(): void
    {
        self::assertSame(Answer::fingerprintOf([['a', '0.3333333333333333']], []), Answer::fingerprintOf([['a', '0.33333333333333337']], []));
        self::assertSame(Answer::fingerprintOf([['a', '12']], []), Answer::fingerprintOf([['a', '12.0']], []));
        self::assertNotSame(Answer::fingerprintOf([['a', '12']], []), Answer::fingerprintOf([['a', '13']], []));
        self::assertNotSame(Answer::fingerprintOf([[null, '12']], []), Answer::fingerprintOf([['', '12']], []));
    }
}
