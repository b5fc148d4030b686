<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Model;

use Fasti\Core\Catalog\Place;
use Fasti\Core\Model\Aggregate\Average;
use Fasti\Core\Model\Aggregate\Sum;
use Fasti\Core\Model\Asking;
use Fasti\Core\Model\Attribute;
use Fasti\Core\Model\Condition;
use Fasti\Core\Model\ConditionText;
use Fasti\Core\Model\Edits;
use Fasti\Core\Model\FigureText;
use Fasti\Core\Model\Matrix;
use Fasti\Core\Model\MatrixCell;
use Fasti\Core\Model\Measure;
use Fasti\Core\Model\Model;
use Fasti\Core\Model\ModelChecks;
use Fasti\Core\Model\ModelError;
use Fasti\Core\Model\ModelFile;
use Fasti\Core\Model\ModelFinding;
use Fasti\Core\Model\ModelJoin;
use Fasti\Core\Model\Parameters;
use Fasti\Core\Model\PartUse;
use Fasti\Core\Model\Renamed;
use Fasti\Core\Model\Role;
use Fasti\Core\Model\RoleKind;
use Fasti\Core\Model\Shared;
use Fasti\Core\Model\Sharing;
use Fasti\Core\Model\Test;
use Fasti\Core\Model\Trial;
use Fasti\Core\Model\TrialWords;
use Fasti\Core\Model\Unanswerable;
use Fasti\Core\Model\Uses;
use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;

/** What stands elsewhere: conditions on rows of another fact, what belongs to several by a link, and what a question leaves open. */
final class ElsewhereTest extends TestCase
{
    /** The river with groups as a link: a species is in several. */
    private static function linked(Shared $how, string $weight = ''): Model
    {
        $model = River::model();

        return $model->with(
            roles: [...array_values(array_filter($model->roles, static fn (Role $role): bool => 'group' !== $role->name)), new Role(
                'listing', RoleKind::Link, new Place('', 'species_group'), key: ['species_id', 'group_name'],
                attributes: [new Attribute('listed in', 'group_name')],
            )],
            joins: [...array_values(array_filter($model->joins, static fn (ModelJoin $join): bool => 'group' !== $join->to)),
                new ModelJoin('listing', 'species', ['species_id'], ['species_id'])],
            sharings: [new Sharing('listing', 'species', $how, $weight)],
        );
    }

    /** @param list<string> $where */
    private static function trial(array $where, string ...$by): Trial
    {
        $reader = new ConditionText(River::ground(self::linked(Shared::Equally))->names());

        return new Trial(['individuals'], array_values($by), array_map($reader->read(...), $where));
    }

    /** @return list<list<?string>> */
    private static function rows(Trial $trial, Model $model): array
    {
        return (new Asking(River::rows()))->answer(River::planner($model)->plan($trial))->rows;
    }

    public function testPartsAddUpAndWhatIsCountedInEachDoesNot(): void
    {
        $equally = (new Asking(River::rows()))->answer(River::planner(self::linked(Shared::Equally))->plan(self::trial([], 'listed in')));
        self::assertSame([['fish', '3'], ['mammals', '2'], ['migrants', '3'], [null, '7']], array_map(
            static fn (array $row): array => [$row[0], null === $row[1] ? null : (string) (float) $row[1]],
            $equally->rows,
        ));
        self::assertSame('15', $equally->total['individuals']);
        self::assertStringContainsString('“individuals” is shared: of a row of species', $equally->notes[0]);
        $each = (new Asking(River::rows()))->answer(River::planner(self::linked(Shared::InEach))->plan(self::trial([], 'listed in')));
        self::assertSame([['fish', '6'], ['mammals', '2'], ['migrants', '6'], [null, '7']], $each->rows);
        self::assertSame('15', $each->total['individuals']);
        self::assertStringContainsString('so that the rows add up to more than the total', $each->notes[0]);
        // By a weight: the groups' names have 4 and 8 letters.
        $weighed = self::rows(self::trial([], 'listed in'), self::linked(Shared::ByWeight, 'CHAR_LENGTH(group_name)'));
        self::assertSame([2.0, 2.0, 4.0, 7.0], array_map(static fn (array $row): float => (float) $row[1], $weighed));
    }

    public function testAConditionOnWhatBelongsToSeveralCountsARowOnce(): void
    {
        $in = self::trial(['listed in is one of fish, migrants']);
        self::assertSame([['6']], self::rows($in, self::linked(Shared::InEach)));
        self::assertSame([['9']], self::rows(self::trial(['listed in is not fish']), self::linked(Shared::InEach)));
        // Split by them, it says which of them are shown; of the whole of each there is no total then.
        $split = River::planner(self::linked(Shared::Equally))->plan(self::trial(['listed in is fish'], 'listed in'));
        self::assertNull($split->total);
        self::assertSame([['fish', 3.0]], array_map(
            static fn (array $row): array => [$row[0], (float) $row[1]],
            (new Asking(River::rows()))->answer($split)->rows,
        ));
    }

    public function testWhatCannotBeSharedIsRefused(): void
    {
        $refused = static function (Trial $trial, Model $model): string {
            try {
                River::planner($model)->plan($trial);
            } catch (Unanswerable $e) {
                return implode(' ', $e->reasons);
            }

            return '';
        };
        $average = self::linked(Shared::Equally);
        $average = $average->with(measures: [...$average->measures, new Measure('mean weight', new Average(), 'sighting', 'weight_g')]);
        self::assertStringContainsString('only sums and counts are', $refused(self::trial([], 'listed in')->with(measures: ['mean weight']), $average));
        self::assertSame('', $refused(self::trial([], 'listed in')->with(measures: ['mean weight']), $average->with(
            sharings: [new Sharing('listing', 'species', Shared::InEach)],
        )));
        self::assertStringContainsString('no number of listing', $refused(self::trial([], 'listed in'), self::linked(Shared::ByWeight, 'group_name')));
        self::assertStringContainsString('not understood', $refused(self::trial([], 'listed in'), self::linked(Shared::ByWeight, 'weight')));
        $share = self::trial([], 'listed in')->with(figures: [(new FigureText(River::ground()->names()))->read('share of individuals')]);
        self::assertStringContainsString('would be added more than once', $refused($share, self::linked(Shared::InEach)));
        self::assertSame('', $refused($share, self::linked(Shared::Equally)));
    }

    public function testALinkThatSaysTheSameTwiceIsAnsweredNoMore(): void
    {
        $model = self::linked(Shared::InEach);
        $roles = array_map(static fn (Role $role): Role => 'listing' !== $role->name ? $role : new Role(
            'listing', RoleKind::Link, new Place('', 'sighting'), key: ['id'],
        ), $model->roles);
        $joins = [...$model->joins, new ModelJoin('listing', 'reach', ['station_id'], ['reach_id'])];
        $plan = River::planner($model->with(roles: $roles, joins: $joins))->plan(new Trial(['sightings'], ['reach']));
        self::assertSame([], $plan->guards, 'a station leads to its reach');
    }

    /** @return list<string> */
    private static function found(Model $model): array
    {
        $all = (new ModelChecks(River::ground($model)))->all();

        return array_values(array_map(static fn (ModelFinding $one): string => $one->words, array_filter(
            $all,
            static fn (ModelFinding $one): bool => 'shares-nothing' === $one->check,
        )));
    }

    public function testChecksSayWhatCannotBeShared(): void
    {
        self::assertSame([], self::found(self::linked(Shared::Equally)));
        $reached = static fn (Model $model): array => array_filter(
            (new ModelChecks(River::ground($model)))->all(),
            static fn (ModelFinding $one): bool => 'not-reached' === $one->check,
        );
        self::assertSame([], $reached(self::linked(Shared::Equally)));
        self::assertCount(1, $reached(self::linked(Shared::Equally)->with(sharings: [])));
        self::assertSame(['How reach is shared by listing cannot be: no join leads from “listing” to “reach”'], self::found(
            self::linked(Shared::Equally)->with(sharings: [new Sharing('listing', 'reach')]),
        ));
        self::assertSame(['How species is shared by town cannot be: the model has no role “town”'], self::found(
            self::linked(Shared::Equally)->with(sharings: [new Sharing('town', 'species')]),
        ));
        self::assertSame(['How species is shared by listing cannot be: its weight is no number'], self::found(self::linked(Shared::ByWeight, 'group_name')));
    }

    public function testItIsSaidAnewTakenOutAndFollowsNames(): void
    {
        $model = self::linked(Shared::ByWeight, 'listing.species_id');
        $each = new Sharing('listing', 'species', Shared::InEach);
        self::assertEquals([$each], Edits::sharing($model, $each)->sharings);
        self::assertSame([], Edits::sharing($model, $each, true)->sharings);
        self::assertSame([], Edits::withoutRole($model, 'species')->sharings);
        $renamed = Edits::renamed($model, new Renamed([], ['listing' => 'being listed', 'species' => 'kind of animal']));
        self::assertEquals([new Sharing('being listed', 'kind of animal', Shared::ByWeight, '"being listed".species_id')], $renamed->sharings);
        $moved = Edits::fieldsRenamed($model, new Place('', 'species_group'), ['species_id' => 'kind_id']);
        self::assertSame('listing.kind_id', $moved->sharings[0]->weight);
        self::assertEquals($model, ModelFile::read(ModelFile::json($model)));
        self::assertSame(['said how what belongs to several counts'], Edits::between($model, Edits::sharing($model, $each)));
        $cell = (new Matrix(River::ground($model)))->cell($model->measures[0], 'listing');
        self::assertSame(MatrixCell::YES, $cell->can);
        self::assertStringContainsString('shared by a weight, listing.species_id', $cell->why);
    }

    public function testWhoHasWhatAndWhatItIsMadeOf(): void
    {
        $model = River::model();
        $trial = static fn (string $text): Trial => new Trial(['sightings'], where: [(new ConditionText(River::ground($model)->names()))->read($text)]);
        self::assertSame([['2']], self::rows($trial('station has reading (year of day is 2026)'), $model));
        self::assertSame([['2']], self::rows($trial('station has no reading'), $model));
        self::assertSame([['4']], self::rows($trial('station has reading or kind is fish and station has no reading (date of day is given)'), $model));
        $uses = (new Uses(River::ground($model)))->ofTrial($trial('station has reading (year of day is 2026)'));
        $fields = array_map(static fn ($use): string => "$use->role.$use->column", $uses);
        self::assertContains('reading.station_id', $fields);
        self::assertContains('day.year', $fields);
        self::assertInstanceOf(PartUse::class, (new Uses(River::ground($model)))->all(['who' => $trial('station has reading')])[0]);
    }

    #[TestWith(['species has reading', 'no row of reading leads to a row of species, and no link leads to both'])]
    #[TestWith(['day confirmed has reading', 'no row of reading leads to a row of day confirmed'])]
    #[TestWith(['reading has sighting', 'no join leads from there to reading'])]
    public function testWhatHasNothingInCommonIsRefused(string $text, string $why): void
    {
        $this->expectException(Unanswerable::class);
        $this->expectExceptionMessage($why);
        River::planner()->plan(new Trial(['sightings'], where: [(new ConditionText(River::ground()->names()))->read($text)]));
    }

    public function testAFigureIsNoPartOfOr(): void
    {
        $this->expectException(ModelError::class);
        $this->expectExceptionMessage('“individuals” is a figure of the answer: a condition on it stands by itself');
        River::planner()->plan(new Trial(['individuals'], where: [new Condition('', Test::Any, of: [
            new Condition('individuals', Test::Over, ['3']), new Condition('kind', Test::Is, ['fish']),
        ])]));
    }

    public function testWhatIsLeftOpenIsFilledIn(): void
    {
        $trial = new Trial(['sightings'], where: [
            new Condition('', Test::Any, of: [new Condition('year of day', Test::Is, ['{year = 2026}']), new Condition('kind', Test::Is, ['{ which kind }'])]),
            new Condition('number of sighting', Test::Between, ['{least=1}', '9']),
        ]);
        self::assertSame(['year' => '2026', 'which kind' => null, 'least' => '1'], Parameters::of($trial));
        self::assertStringContainsString('year of day is 2026 or kind is any which kind', TrialWords::of($trial));
        $said = Parameters::said($trial, ['which kind' => 'fish', 'least' => ' 2 ']);
        self::assertSame(['year' => '2026', 'which kind' => 'fish', 'least' => '2'], Parameters::of($said));
        self::assertEquals(['2', '9'], Parameters::filled($said)->where[1]->values);
        self::assertSame([['3']], self::rows($said, River::model()));
        self::assertSame(['least' => null], array_intersect_key(Parameters::of(Parameters::said($said, ['least' => ''])), ['least' => 1]));
        foreach ([
            'Say what “which kind” is to be' => static fn (): Trial => Parameters::filled($trial),
            'nothing open that is called “town”. It leaves open: year, which kind, least.' => static fn (): Trial => Parameters::said($trial, ['town' => 'x']),
            'holds a brace' => static fn (): Trial => Parameters::said($trial, ['year' => '{x}']),
        ] as $why => $do) {
            try {
                $do();
                self::fail($why);
            } catch (ModelError $e) {
                self::assertStringContainsString($why, $e->getMessage());
            }
        }
        self::assertEquals(self::trial([]), Parameters::filled(self::trial([])));
    }

    public function testWhatNobodyReadsIsTooMuch(): void
    {
        $figures = array_map(static fn (int $n) => (new FigureText(River::ground()->names()))->read("individuals $n days before by date of day"), range(1, 41));
        $conditions = array_map(static fn (int $n): Condition => new Condition('kind', Test::IsNot, ["k$n"]), range(1, 501));
        $deep = array_reduce(range(1, 25), static fn (Condition $in): Condition => new Condition('', Test::All, of: [$in]), new Condition('kind', Test::Given));
        $base = new Trial(['individuals'], ['date of day']);
        foreach ([
            '40 figures beside' => $base->with(figures: $figures), '500 conditions at the most' => $base->with(where: $conditions),
            'more than 20 deep' => $base->with(where: [$deep]),
        ] as $why => $trial) {
            try {
                River::planner()->plan($trial);
                self::fail($why);
            } catch (ModelError $e) {
                self::assertStringContainsString($why, $e->getMessage());
            }
        }
    }

    public function testOtherWordsMeanTheSameUnlessTheyMeanTwoThings(): void
    {
        $model = River::model();
        $animals = new Measure('animals', new Sum(), 'sighting', 'individuals', also: ['head count', 'sightings', 'both']);
        $reach = [new Attribute('reach', 'reach_name', also: ['Stretch', 'both'])];
        $roles = array_map(static fn (Role $role): Role => 'reach' !== $role->name ? $role
            : new Role('reach', $role->kind, $role->entry, key: $role->key, attributes: $reach), $model->roles);
        $model = $model->with(measures: [...$model->measures, $animals], roles: $roles);
        $names = River::ground($model)->names();

        self::assertSame('animals', $names->measure('Head  Count')?->name);
        self::assertSame('sightings', $names->measure('sightings')?->name, 'its own name is meant first');
        self::assertSame('reach', $names->attribute('stretch')->role);
        self::assertFalse($names->has('both'));
        self::assertSame([['lower', '2'], ['upper', '5'], [null, '8']], self::rows(new Trial(['head count'], ['stretch']), $model));
    }
}
