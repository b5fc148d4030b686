<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Draft;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\ForeignKey;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Catalog\Reference;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Draft\Differences;
use Fasti\Core\Draft\Field;
use Fasti\Core\Draft\Material;
use Fasti\Core\Profile\FieldProfile;
use Fasti\Core\Profile\TableProfile;
use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;

/** What speaks against saying of one field what is said of another of its name. */
final class DifferencesTest extends TestCase
{
    /** @param list<string> $expected */
    #[TestWith(['The day on which the sample was taken.', ['is about a visit, and the text speaks of a sample']])]
    #[TestWith(['The days on which samples were taken.', ['is about a visit, and the text speaks of a sample']])]
    #[TestWith(['The day on which it was taken.', ['is about a visit, and the text says “it” of a sample']])]
    #[TestWith(['A day, by the calendar of the office.', []])]
    public function testATextThatSpeaksOfOneThingIsNotTrueOfAnother(string $text, array $expected): void
    {
        self::assertSame($expected, self::differ(['taken_on' => 'date'], ['taken_on' => 'date'], 'taken_on', $text));
    }

    public function testARowOfDataIsNoThingThatATextNames(): void
    {
        $table = static fn (string $name): Table => self::table($name, [new Column('created_at', 'timestamp')]);

        self::assertSame([], self::between($table('gauge_data'), $table('visit'), 'created_at', 'When the row was made.'));
        self::assertSame('gauge data row', Material::ofCatalog(new Catalog('mariadb', '', [$table('gauge_data')]))->noun(0));
        self::assertSame('data bag', Material::ofCatalog(new Catalog('mariadb', '', [$table('data_bags')]))->noun(0));
        self::assertSame('datum', Material::ofCatalog(new Catalog('mariadb', '', [$table('datum')]))->noun(0));
    }

    public function testNumbersOfTheDatabaseAreOfNoThing(): void
    {
        $id = static fn (string $table): Table => self::table($table, [new Column('id', 'int', false, autoNumbered: true)]);

        self::assertSame([], self::between($id('sample'), $id('visit'), 'id', 'Numbered by the database. Carries no meaning outside it.'));
    }

    /** @param list<string> $expected */
    #[TestWith(['depth_sample', 'water_sample', 'The depth sample as a whole.', ['is about a water sample, and the text speaks of a depth sample']])]
    #[TestWith(['depth_samples', 'water_sample', 'Of depth samples.', ['is about a water sample, and the text speaks of a depth sample']])]
    #[TestWith(['depth_sample', 'water_sample', 'How deep a sample was taken.', []])]
    #[TestWith(['ec', 'visit', 'What the ec is for.', ['is about a visit, and the text speaks of an ec']])]
    #[TestWith(['go', 'visit', 'Where to go.', []])]
    public function testAThingOfSeveralWordsIsAnotherThanOneThatEndsInTheSame(string $here, string $there, string $text, array $expected): void
    {
        $column = new Column('depth', 'int');

        self::assertSame($expected, self::between(self::table($here, [$column]), self::table($there, [$column]), 'depth', $text, [], []));
    }

    /** @param list<string> $expected */
    #[TestWith(['Numbered by the database. Carries no meaning outside it.', ['is not numbered by the database']])]
    #[TestWith(['Generated when the row is made.', ['is not numbered by the database']])]
    #[TestWith(['A number that no two share.', ['may stand in several rows']])]
    #[TestWith(['Tells one from another.', ['may stand in several rows']])]
    #[TestWith(['A number, as painted on the pole.', []])]
    public function testWhatIsSaidOfAKeyIsNotAllTrueOfWhatLeadsToIt(string $text, array $expected): void
    {
        $station = self::table('station', [new Column('pole_id', 'int', false, autoNumbered: true)])->with(primaryKey: new Key(null, ['pole_id']));
        $reading = self::table('reading', [new Column('pole_id', 'int')])->with(foreignKeys: [
            new ForeignKey(null, ['pole_id'], new Reference('', 'station', ['pole_id'])),
        ]);

        self::assertSame($expected, self::between($station, $reading, 'pole_id', $text));
        self::assertSame(['is what this one leads to'], self::between($reading, $station, 'pole_id', 'Where the pole stood on that day.'));
    }

    /** @param list<string> $expected */
    #[TestWith(['varchar(40)', 'int', ['is int']])]
    #[TestWith(['char(2)', 'char(3)', ['is char(3)']])]
    #[TestWith(['varchar(40)', 'varchar(60)', []])]
    #[TestWith(['int', 'bigint', []])]
    #[TestWith(['int', 'decimal(9,2)', []])]
    public function testTypesFit(string $here, string $there, array $expected): void
    {
        self::assertSame($expected, self::differ(['grid' => $here], ['grid' => $there], 'grid', 'A square of the map.'));
    }

    public function testWhereTheyLeadIsTheSame(): void
    {
        $person = self::table('person', [new Column('id', 'int', false)]);
        $team = self::table('team', [new Column('id', 'int', false)]);
        $lead = static fn (Table $to): ForeignKey => new ForeignKey(null, ['lead'], new Reference('', $to->name, ['id']));
        $sample = self::table('sample', [new Column('lead', 'int', true)]);
        $visit = self::table('visit', [new Column('lead', 'int', true)]);
        $differ = static fn (Table $here, Table $there): array => self::between($here, $there, 'lead', 'Who answers for the work.', [], [$person, $team]);

        self::assertSame([], $differ($sample->with(foreignKeys: [$lead($person)]), $visit->with(foreignKeys: [$lead($person)])));
        self::assertSame(['leads to Team'], $differ($sample->with(foreignKeys: [$lead($person)]), $visit->with(foreignKeys: [$lead($team)])));
        self::assertSame(['leads nowhere'], $differ($sample->with(foreignKeys: [$lead($person)]), $visit));
        self::assertSame(['leads to Person'], $differ($sample, $visit->with(foreignKeys: [$lead($person)])));
    }

    public function testValuesAreTheSameAsFarAsTheyAreKnown(): void
    {
        $few = static fn (string ...$values): FieldProfile => new FieldProfile(100, 100, distinct: \count($values), frequent: array_fill_keys($values, 9));
        $many = new FieldProfile(100, 100, distinct: 90, frequent: ['a' => 2]);
        $differ = static fn (string $name, ?FieldProfile $here, ?FieldProfile $there): array => self::differ(
            [$name => 'varchar(20)', 'a' => 'int', 'b' => 'int'],
            [$name => 'varchar(20)', 'c' => 'int', 'd' => 'int'],
            $name,
            'How far the work has come.',
            [$here, $there],
        );

        self::assertSame([], $differ('status', $few('open', 'done'), $few('open', 'done', 'late')));
        self::assertSame(['holds gone, new'], $differ('status', $few('open', 'done'), $few('gone', 'new')));
        self::assertSame(['holds a, b, c and 2 more'], $differ('status', $few('open', 'done'), $few('a', 'b', 'c', 'd', 'e')));
        self::assertSame(['has 90 different values'], $differ('status', $few('open', 'done'), $many));
        self::assertSame(['has 2 different values'], $differ('status', $many, $few('open', 'done')));
        self::assertSame(['has not been looked at'], $differ('status', $few('open', 'done'), null), 'a plain name says nothing by itself');
        self::assertSame(['has not been looked at'], $differ('status', $few('open', 'done'), new FieldProfile(0, 0)));
        self::assertSame([], $differ('grid_square', $few('open', 'done'), null), 'a name of its own does');
    }

    /** @param list<string> $expected */
    #[TestWith(['0', '14', '0', '13', []])]
    #[TestWith(['0', '14', '200', '900', ['goes from 200 to 900']])]
    #[TestWith(['0', '14', '0', '90000', ['goes from 0 to 90000']])]
    public function testNumbersAreOfOneSize(string $least, string $greatest, string $otherLeast, string $otherGreatest, array $expected): void
    {
        $profile = static fn (string $a, string $b): FieldProfile => new FieldProfile(900, 900, distinct: 600, least: $a, greatest: $b, frequent: ['7 m' => 3]);

        self::assertSame($expected, self::differ(['acidity' => 'decimal(8,2)'], ['acidity' => 'decimal(8,2)'], 'acidity', 'How acid the water is.', [
            $profile($least, $greatest), $profile($otherLeast, $otherGreatest),
        ]));
    }

    /**
     * @param array<string, string>  $here     fields of `sample` by type
     * @param array<string, string>  $there    those of `visit`
     * @param list<?FieldProfile>    $profiles of the field here and there
     *
     * @return list<string>
     */
    private static function differ(array $here, array $there, string $field, string $text, array $profiles = []): array
    {
        return self::between(self::table('sample', self::columns($here)), self::table('visit', self::columns($there)), $field, $text, $profiles);
    }

    /**
     * @param array<string, string> $types
     *
     * @return list<Column>
     */
    private static function columns(array $types): array
    {
        return array_map(static fn (string $name, string $type): Column => new Column($name, $type), array_keys($types), $types);
    }

    /**
     * @param list<?FieldProfile> $profiles
     * @param list<Table>         $others
     *
     * @return list<string>
     */
    private static function between(Table $here, Table $there, string $field, string $text, array $profiles = [], array $others = []): array
    {
        $known = [];
        foreach ($profiles as $i => $profile) {
            if (null !== $profile) {
                $known[$i] = new TableProfile($profile->rows, $profile->rows, '', [$field => $profile]);
            }
        }
        $material = Material::ofCatalog(new Catalog('mariadb', '', [$here, $there, ...$others]), [], $known);
        $of = static fn (int $i, Table $table): Field => $material->field($i, $table->column($field) ?? throw new \LogicException($field));

        return Differences::of($of(0, $here), $of(1, $there), $text);
    }

    /** @param list<Column> $columns */
    private static function table(string $name, array $columns): Table
    {
        return new Table('', $name, TableType::Table, columns: [new Column("{$name}_no", 'int', false), ...$columns],
            primaryKey: new Key(null, ["{$name}_no"]));
    }
}
