<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Drift;

use Fasti\Account\Account;
use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Drift\Compare;
use Fasti\Core\Profile\FieldProfile;
use Fasti\Core\Profile\TableProfile;
use Fasti\Core\Survey\Choice;
use Fasti\Drift\AcceptDrift;
use Fasti\Drift\DriftItems;
use Fasti\Profile\Profiles;
use Fasti\Register\RegisterCatalog;
use Fasti\Register\Topic\EntryTopic;
use Fasti\Register\Topic\FieldTopic;
use Fasti\Register\Topic\JoinTopic;
use Fasti\Source\Source;
use Fasti\Support\Row;
use Fasti\Tests\App\AppTestCase;
use Fasti\Tests\Core\Made;
use Fasti\Text\Texts;

/** What following a drift does to the register, case by case. */
final class AcceptDriftTest extends AppTestCase
{
    private Source $source;
    private Account $steward;

    protected function setUp(): void
    {
        parent::setUp();
        $this->source = $this->source();
        $this->steward = $this->signedIn();
    }

    public function testWhatElseKnowsAFieldByItsNameFollowsARename(): void
    {
        self::apply($this->source, Made::catalog(Made::table('visit', ['stn_ref' => 'int(11)', 'day' => 'date', 'hours' => 'int(11)'])));
        $entry = self::entryId('visit');
        $this->write(EntryTopic::NAME, $entry, 'grainFields', 'stn_ref, day');
        self::get(Profiles::class)->keep($entry, new TableProfile(9, 9, '', ['stn_ref' => new FieldProfile(9, 8), 'day' => new FieldProfile(9, 9)]));
        $this->follow(Made::catalog(Made::table('visit', ['station_ref' => 'int(11)', 'day' => 'date', 'hours' => 'int(11)'])));

        self::assertSame('station_ref, day', self::db()->fetchOne('SELECT grain_fields FROM entry WHERE id = ?', [$entry]));
        $fields = (self::get(Profiles::class)->of($entry) ?? self::fail('There is no profile.'))->profile->fields;
        self::assertSame(['station_ref', 'day'], array_keys($fields));
        self::assertSame([8, 9], array_map(static fn (FieldProfile $field): int => $field->values, array_values($fields)));
    }

    public function testANameThatSomethingGoneStillHasIsGivenUpAndItsTextIsKept(): void
    {
        $old = ['weight' => 'int(11)', 'caught_on' => 'date', 'colour' => 'varchar(20)'];
        self::apply($this->source, Made::catalog(Made::table('fish', ['length' => 'int(11)']), Made::table('catches', $old)));
        $gone = self::entryId('fish');
        $this->write(EntryTopic::NAME, $gone, 'meaning', 'The first fish.');
        self::apply($this->source, Made::catalog(Made::table('catches', $old)));
        $kept = self::entryId('catches');
        $this->follow(Made::catalog(Made::table('fish', $old)), renamedTo: 'fish');

        self::assertSame($kept, self::entryId('fish'));
        self::assertStringStartsWith('fish (gone, ', Row::text(self::db()->fetchAssociative('SELECT name FROM entry WHERE id = ?', [$gone]) ?: [], 'name'));
        self::assertSame('The first fish.', self::db()->fetchOne('SELECT meaning FROM entry WHERE id = ?', [$gone]));
    }

    public function testAJoinFromATableThatHasNotChangedFindsATableThatComesIn(): void
    {
        $permit = Made::table('permit', ['owner' => 'int(11)'], ['owner' => 'landowner']);
        self::apply($this->source, Made::catalog($permit));
        self::assertSame(0, self::scalar('SELECT COUNT(*) FROM entry_join'));
        $this->follow(Made::catalog($permit, Made::table('landowner', ['name' => 'varchar(80)'])));

        self::assertSame(self::entryId('landowner'), self::scalar('SELECT to_entry_id FROM entry_join WHERE gone_at IS NULL'));
    }

    public function testAJoinKeepsItsVerbsWhenWhatItLeadsToIsRenamed(): void
    {
        $fields = ['parish' => 'varchar(40)', 'since' => 'date', 'telephone' => 'varchar(20)'];
        self::apply($this->source, Made::catalog(Made::table('permit', ['owner' => 'int(11)'], ['owner' => 'landowner']), Made::table('landowner', $fields)));
        $join = self::scalar('SELECT id FROM entry_join');
        $this->write(JoinTopic::NAME, $join, 'verb', 'is given by');
        $this->follow(Made::catalog(Made::table('permit', ['owner' => 'int(11)'], ['owner' => 'land_contact']), Made::table('land_contact', $fields)));

        self::assertSame(
            ['is given by', 0],
            [
                self::db()->fetchOne('SELECT verb FROM entry_join WHERE id = ?', [$join]),
                self::scalar('SELECT gone_at IS NOT NULL FROM entry_join WHERE id = ?', $join),
            ],
        );
        self::assertSame(self::entryId('land_contact'), self::scalar('SELECT to_entry_id FROM entry_join WHERE id = ?', $join));
    }

    public function testWhatIsLeftForLaterStaysExactlyAsItWas(): void
    {
        self::apply($this->source, Made::catalog(Made::table('a', ['x' => 'int(11)']), Made::table('b', ['y' => 'int(11)'])));
        $before = self::db()->fetchAllAssociative('SELECT * FROM entry ORDER BY id');
        $fields = self::db()->fetchAllAssociative('SELECT * FROM field ORDER BY id');
        $counts = $this->follow(Made::catalog(Made::table('a', ['x' => 'bigint(20)']), Made::table('c')), answer: 'no');

        self::assertSame(['new' => 0, 'changed' => 0, 'gone' => 0, 'back' => 0, 'same' => 0], $counts);
        self::assertSame($before, self::db()->fetchAllAssociative('SELECT * FROM entry ORDER BY id'));
        self::assertSame($fields, self::db()->fetchAllAssociative('SELECT * FROM field ORDER BY id'));
    }

    public function testAFieldThatReappearsHasItsTextAgain(): void
    {
        self::apply($this->source, Made::catalog(Made::table('a', ['x' => 'int(11)', 'z' => 'date'])));
        $field = self::fieldId('a', 'x');
        $this->write(FieldTopic::NAME, $field, 'meaning', 'What x means.');
        $this->follow(Made::catalog(Made::table('a', ['z' => 'date'])));
        self::assertSame(1, self::scalar('SELECT gone_at IS NOT NULL FROM field WHERE id = ?', $field));
        $this->follow(Made::catalog(Made::table('a', ['x' => 'int(11)', 'z' => 'date'])));

        self::assertSame([$field, 0], [self::fieldId('a', 'x'), self::scalar('SELECT gone_at IS NOT NULL FROM field WHERE id = ?', $field)]);
        self::assertSame('What x means.', self::db()->fetchOne('SELECT meaning FROM field WHERE id = ?', [$field]));
    }

    public function testATextThatNamesADroppedFieldIsDoubtfulOnceHoweverOftenItIsFollowed(): void
    {
        self::apply($this->source, Made::catalog(Made::table('a', ['old_code' => 'int(11)', 'z' => 'date'])));
        $this->write(FieldTopic::NAME, self::fieldId('a', 'z'), 'meaning', 'Set together with old_code.');
        $this->write(EntryTopic::NAME, self::entryId('a'), 'grain', 'old_codes are many words');
        foreach ([['z' => 'date'], ['old_code' => 'int(11)', 'z' => 'date'], ['z' => 'date']] as $fields) {
            $this->follow(Made::catalog(Made::table('a', $fields)));
        }

        self::assertSame(1, self::scalar("SELECT COUNT(*) FROM finding WHERE check_name = 'doubtful-text'"));
        self::assertStringContainsString(
            'names old_code, which a has no more',
            Row::text(self::db()->fetchAssociative("SELECT title FROM finding WHERE check_name = 'doubtful-text'") ?: [], 'title'),
        );
    }

    public function testTheStructureOfTheRegisterIsTheOneThatWasApplied(): void
    {
        $catalog = Made::catalog(Made::everything(), Made::table('plain', ['a' => 'int(11)?'], ['a' => 'plain']));
        self::apply($this->source, $catalog);
        [$register, $gone] = self::get(RegisterCatalog::class)->of($this->source->id());

        self::assertSame([], Compare::catalogs($register, $catalog, $gone));
        self::assertSame([], Compare::catalogs($catalog, $register, $gone));
        self::apply($this->source, Made::catalog(Made::table('plain', ['a' => 'int(11)?'], ['a' => 'plain'])));
        self::assertCount(1, self::get(RegisterCatalog::class)->of($this->source->id())[1]);
    }

    public function testWhatASurveyDoesNotTakeIsNeitherGoneNorTouched(): void
    {
        self::apply($this->source, Made::catalog(Made::table('a'), Made::table('tmp_b')));
        $accept = self::get(AcceptDrift::class);
        $catalog = Made::catalog(Made::table('a', ['n' => 'int(11)']));
        $items = DriftItems::of(Compare::catalogs(Made::catalog(Made::table('a')), $catalog));
        $accept->accept($this->source->id(), $catalog, new Choice([], [], ['tmp_*']), $items, [0 => 'yes'], [], $this->steward);

        self::assertSame(0, self::scalar("SELECT gone_at IS NOT NULL FROM entry WHERE name = 'tmp_b'"));
        self::assertNotSame(0, self::fieldId('a', 'n'));
    }

    public function testADomainThatChangesItsMembersIsSaidAndDoubted(): void
    {
        $table = static fn (string $base): Table => new Table('main', 't', Made::table('t')->kind, '', [new Column('flag', 'field.flag', base: $base)]);
        self::apply($this->source, new Catalog('postgresql', '', [$table("enum('good','bad')")]));
        $this->write(FieldTopic::NAME, self::fieldId('t', 'flag'), 'meaning', 'good or bad');
        $this->follow(new Catalog('postgresql', '', [$table("enum('good','bad','unknown')")]));

        self::assertStringContainsString(
            'unknown came in',
            Row::text(self::db()->fetchAssociative("SELECT title FROM finding WHERE check_name = 'doubtful-text'") ?: [], 'title'),
        );
    }

    /** @return array<string, int> */
    private function follow(Catalog $catalog, string $answer = 'yes', string $renamedTo = ''): array
    {
        [$before, $gone] = self::get(RegisterCatalog::class)->of($this->source->id());
        // A name that something gone still has counts as back; here it is to be taken for a rename.
        $gone = array_filter($gone, static fn (string $place): bool => 'main.'.$renamedTo !== $place, \ARRAY_FILTER_USE_KEY);
        $before = new Catalog(
            '',
            '',
            array_values(array_filter($before->tables, static fn (Table $table): bool => $table->name !== $renamedTo || '' === $renamedTo)),
        );
        $items = DriftItems::of(Compare::catalogs($before, $catalog, $gone));

        return self::get(AcceptDrift::class)->accept(
            $this->source->id(), $catalog, new Choice(), $items, array_fill(0, \count($items), $answer), [], $this->steward,
        );
    }

    private function write(string $subject, int $id, string $property, string $value): void
    {
        self::get(Texts::class)->save($this->steward, $subject, $id, $property, '', $value, bin2hex(random_bytes(4)));
    }
}
