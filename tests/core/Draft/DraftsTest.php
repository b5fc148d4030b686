<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Draft;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\CheckConstraint;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\ForeignKey;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Catalog\Reference;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Draft\Abbreviations;
use Fasti\Core\Draft\Draft;
use Fasti\Core\Draft\Drafts;
use Fasti\Core\Draft\Material;
use Fasti\Core\Draft\Said;
use Fasti\Core\Draft\Sameness;
use Fasti\Core\Draft\Worth;
use Fasti\Core\Profile\FieldProfile;
use Fasti\Core\Profile\TableProfile;
use Fasti\Tests\Core\Made;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class DraftsTest extends TestCase
{
    #[DataProvider('fields')]
    public function testAFieldIsDraftedFromWhatIsKnown(string $column, string $property, string $text): void
    {
        $drafts = self::of($column);
        self::assertArrayHasKey($property, $drafts, json_encode(array_map(static fn (array $of): string => $of[0]->text, $drafts)) ?: '');
        self::assertSame($text, $drafts[$property][0]->text);
        self::assertNotSame([], $drafts[$property][0]->because);
        self::assertGreaterThanOrEqual(Drafts::LEAST, $drafts[$property][0]->confidence);
    }

    /** @return iterable<string, array{string, string, string}> */
    public static function fields(): iterable
    {
        yield 'words of the name' => ['depth_cm', 'businessName', 'Depth'];
        yield 'a unit at the end' => ['depth_cm', 'unit', 'cm'];
        yield 'a foreign key' => ['station_id', 'businessName', 'Station'];
        yield 'a key' => ['id', 'meaning', 'Numbered by the database. Carries no meaning outside it.'];
        yield 'a day' => ['taken_on', 'meaning', 'The day on which the sample was taken.'];
        yield 'the present moment' => ['created_at', 'meaning', 'When the row was made; the database sets it.'];
        yield 'a comment' => ['note', 'meaning', 'What the volunteer saw at the bank.'];
        yield 'a check' => ['grade', 'allowed', 'one of A, B, C'];
        yield 'a short form' => ['bottle_no', 'businessName', 'Bottle number'];
        yield 'a known list' => ['currency', 'allowed', 'code list currencies'];
        yield 'a flag' => ['is_valid', 'meaning', 'Whether the sample is valid: 1 for yes, 0 for no.'];
        yield 'personal by its name' => ['email', 'personal', 'yes'];
    }

    public function testWhatIsWrittenGetsNoDraft(): void
    {
        self::assertArrayNotHasKey('meaning', self::of('taken_on', new Said('', 'The day of it.')));
        self::assertArrayHasKey('businessName', self::of('taken_on', new Said('', 'The day of it.')));
        self::assertArrayNotHasKey('businessName', self::of('taken_on', new Said('Taken on', 'The day of it.')));
    }

    public function testADraftThatOnlyRepeatsTheNameIsNotMade(): void
    {
        foreach (['status', 'value', 'weird'] as $column) {
            foreach (self::of($column)['meaning'] ?? [] as $draft) {
                self::assertNotContains(mb_strtolower(rtrim($draft->text, '.')), ["the $column", $column, "the $column of the sample"]);
            }
        }
        $material = self::material(['x' => new Said()], 'The status.');
        self::assertArrayNotHasKey('meaning', (new Drafts())->ofField($material->field(1, new Column('status', 'int', false, null, 'The status.'))));
    }

    public function testTheSameFieldElsewhereGivesItsTextAndSaysWhere(): void
    {
        $drafts = self::of('quality_flag');
        self::assertSame('How far the value can be trusted.', $drafts['meaning'][0]->text);
        self::assertStringContainsString('reading.quality_flag', implode(' ', $drafts['meaning'][0]->because));
    }

    public function testAKindOfDraftThatIsOftenDismissedSinks(): void
    {
        $material = self::material();
        $column = $material->tables[1]->column('taken_on') ?? throw new \LogicException();
        $usual = (new Drafts())->ofField($material->field(1, $column))['meaning'][0];
        $sunk = (new Drafts([$usual->rule => 0.5]))->ofField($material->field(1, $column))['meaning'][0];
        self::assertEqualsWithDelta($usual->confidence / 2, $sunk->confidence, 0.01);
        self::assertArrayNotHasKey('meaning', (new Drafts([$usual->rule => 0.1]))->ofField($material->field(1, $column)));
    }

    public function testGrainComesFromTheKeyAndWhatItLeadsTo(): void
    {
        $table = new Table('main', 'reading', TableType::Table, '', [
            new Column('station_id', 'int'), new Column('parameter_id', 'int'), new Column('taken_at', 'datetime'), new Column('value', 'int'),
        ], new Key(null, ['station_id', 'parameter_id', 'taken_at']), foreignKeys: [
            new ForeignKey('a', ['station_id'], new Reference('main', 'station', ['id'])), new ForeignKey('b', ['parameter_id'], new Reference('main',
                'parameter', ['id'])),
        ]);
        $material = Material::ofCatalog(Made::catalog(Made::table('station'), Made::table('parameter'), $table));
        self::assertSame('station, parameter and instant', (new Drafts())->ofEntry($material->entry(2))['grain'][0]->text);
        $both = new Table('main', 'result', TableType::Table, '', [new Column('sample_id', 'int'), new Column('lab', 'int'), new Column('method', 'int'),
            new Column('v', 'int')],
            new Key(null, ['sample_id', 'lab', 'method']), foreignKeys: [
                new ForeignKey('a', ['sample_id'], new Reference('main', 'sample', ['id'])),
                new ForeignKey('b', ['lab', 'method'], new Reference('main', 'procedure', ['lab', 'id'])),
            ]);
        $procedure = new Table('main', 'procedure', TableType::Table, '', [new Column('lab', 'int'), new Column('id', 'int')], new Key(null, ['lab', 'id']));
        $grain = (new Drafts())->ofEntry(Material::ofCatalog(Made::catalog(Made::table('sample'), $procedure, $both))->entry(2))['grain'][0];
        self::assertSame('sample and procedure', $grain->text);
    }

    public function testATableThatOnlyLinksSaysSo(): void
    {
        $link = new Table('main', 'member', TableType::Table, '', [new Column('visit_id', 'int'), new Column('person_id', 'int')], new Key(null, ['visit_id',
            'person_id']), foreignKeys: [
                new ForeignKey('a', ['visit_id'], new Reference('main', 'visit', ['id'])), new ForeignKey('b', ['person_id'], new Reference('main', 'person',
                    ['id'])),
            ]);
        $drafts = (new Drafts())->ofEntry(Material::ofCatalog(Made::catalog(Made::table('visit'), Made::table('person'), $link))->entry(2));
        self::assertSame('Which people go with which visits.', $drafts['meaning'][0]->text);
    }

    public function testShortFormsAreLearnedFromTheRegisterItself(): void
    {
        $stn = new Table('main', 'reading', TableType::Table, '', [new Column('id', 'int'), new Column('stn_id', 'int'), new Column('stn_name',
            'varchar(9)')], new Key(null, ['id']),
            foreignKeys: [new ForeignKey('a', ['stn_id'], new Reference('main', 'station', ['id']))]);
        $other = new Table('main', 'visit', TableType::Table, '', [new Column('id', 'int'), new Column('stn_id', 'int')], new Key(null, ['id']),
            foreignKeys: [new ForeignKey('b', ['stn_id'], new Reference('main', 'station', ['id']))]);
        $learned = Abbreviations::learned(Material::ofCatalog(Made::catalog(Made::table('station', ['name' => 'varchar(9)']), $stn, $other)));
        $found = array_filter($learned, static fn ($one): bool => 'stn' === $one->short);
        self::assertSame('station', array_values($found)[0]->long);
        self::assertStringContainsString('station', array_values($found)[0]->because);
    }

    public function testTextsHoldElsewhereWhereTheFieldIsTheSameAndNotWhereItSpeaksOfItsOwnRow(): void
    {
        $material = self::material();
        $field = $material->field(2, new Column('taken_on', 'date'));
        self::assertLessThan(0.45, Sameness::of($field, 1, 'taken_on', 'meaning', 'The day on which the sample was taken.'));
        $flag = $material->field(1, new Column('quality_flag', 'char(1)'));
        self::assertGreaterThan(0.7, Sameness::of($flag, 2, 'quality_flag', 'meaning', 'How far the value can be trusted.'));
        $id = $material->field(1, new Column('id', 'int', false, autoNumbered: true));
        self::assertGreaterThan(0.7, Sameness::of($id, 0, 'id', 'meaning', 'Numbered by the database. Carries no meaning outside it.'));
    }

    public function testHostileNamesAndCommentsMakeDraftsThatAreText(): void
    {
        $columns = [new Column('<script>alert(1)</script>', 'int'), new Column("a\u{202E}b", 'int'), new Column(str_repeat('x_', 400), 'int'), new Column('',
            'int'),
            new Column('ok', 'int', true, null, str_repeat('é ', 4000)), new Column('123', 'int'), new Column('ספר_שנה', 'date')];
        $table = new Table('main', 'odd " `', TableType::Table, "\0\x01", $columns);
        $material = Material::ofCatalog(new Catalog('mariadb', '10', [$table]));
        $drafts = new Drafts();
        $made = $drafts->ofEntry($material->entry(0));
        foreach ($columns as $column) {
            $made += $drafts->ofField($material->field(0, $column));
            foreach ($drafts->ofField($material->field(0, $column)) as $of) {
                foreach ($of as $draft) {
                    self::assertTrue(mb_check_encoding($draft->text, 'UTF-8'));
                    self::assertNotSame('', trim($draft->text));
                }
            }
        }
        self::assertNotSame([], $made);
    }

    public function testWorthGrowsWithWhatDependsOnItAndSaysWhy(): void
    {
        [$much, $why] = Worth::of(5, 100000, 2, 4, 9);
        [$little, $none] = Worth::of(0, 0, 0, 1, 0);
        self::assertGreaterThan($little, $much);
        self::assertSame('looked for in vain 9 times', $why[0]);
        self::assertContains('5 joins lead to its entry or from it', $why);
        self::assertSame([], $none);
        [$entry] = Worth::of(3, 10, 0, 0, 0);
        [$field] = Worth::of(3, 10, 0, 20, 0);
        self::assertGreaterThan($field, $entry, 'An entry is described before its fields.');
    }

    /** @return array<string, non-empty-list<Draft>> */
    private static function of(string $column, ?Said $said = null): array
    {
        $material = self::material(null === $said ? [] : [$column => $said]);
        $of = $material->tables[1]->column($column) ?? throw new \LogicException($column);

        return (new Drafts())->ofField($material->field(1, $of));
    }

    /** @param array<string, Said> $said of the fields of sample */
    private static function material(array $said = [], string $comment = ''): Material
    {
        $sample = new Table('main', 'sample', TableType::Table, $comment, [
            new Column('id', 'int(11)', false, autoNumbered: true), new Column('station_id', 'int(10) unsigned', false), new Column('depth_cm', 'int(11)',
                true),
            new Column('taken_on', 'date', false), new Column('created_at', 'datetime', false, 'current_timestamp()'),
            new Column('note', 'varchar(400)', true, null, 'What the volunteer saw at the bank'), new Column('grade', 'char(1)', false),
            new Column('bottle_no', 'varchar(12)', true),
            new Column('currency', 'char(3)', true), new Column('is_valid', 'tinyint(1)', false), new Column('email', 'varchar(190)', true),
            new Column('quality_flag', 'char(1)', true),
            new Column('status', 'int(11)', true), new Column('value', 'int(11)', true), new Column('weird', 'int(11)', true),
        ], new Key(null, ['id']), foreignKeys: [new ForeignKey('s', ['station_id'], new Reference('main', 'station', ['id']))],
            checks: [new CheckConstraint('g', "`grade` in ('A','B','C')", 'grade')]);
        $reading = Made::table('reading', ['quality_flag' => 'char(1)?', 'taken_on' => 'date', 'level' => 'int', 'flow' => 'int', 'clock' => 'int']);
        $profiles = [1 => new TableProfile(10, 10, '', ['currency' => new FieldProfile(10, 10, 0, 3, 'CHF', 'USD', frequent: ['EUR' => 6, 'USD' => 3,
            'CHF' => 1], frequentOf: 10, likely: 'currency code', percent: 100)], [], null, [], 0.1)];

        return Material::ofCatalog(Made::catalog(Made::table('station'), $sample, $reading), [], $profiles, [
            1 => $said, 2 => ['quality_flag' => new Said('Quality flag', 'How far the value can be trusted.')],
        ]);
    }
}
