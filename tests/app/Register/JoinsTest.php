<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Register;

use Fasti\Account\Account;
use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\ForeignKey;
use Fasti\Core\Catalog\Reference;
use Fasti\Core\Catalog\Table;
use Fasti\Register\Topic\JoinTopic;
use Fasti\Source\Source;
use Fasti\Tests\App\AppTestCase;
use Fasti\Tests\Core\Made;
use Fasti\Text\Texts;

/** Joins are known by the fields that they pair, whatever the constraints are called and in whatever order they come. */
final class JoinsTest extends AppTestCase
{
    private Source $source;
    private Account $steward;

    protected function setUp(): void
    {
        parent::setUp();
        $this->source = $this->source();
        $this->steward = $this->signedIn();
    }

    private static function catalog(ForeignKey ...$keys): Catalog
    {
        $reading = Made::table('reading', ['station_id' => 'int', 'unit_id' => 'int', 'lab' => 'int']);

        return Made::catalog(
            Made::table('station'),
            Made::table('unit'),
            new Table('main', 'reading', $reading->kind, '', $reading->columns, $reading->primaryKey, [], array_values($keys)),
        );
    }

    private static function key(?string $name, string $column, string $to, string $reason = ''): ForeignKey
    {
        return new ForeignKey($name, [$column], new Reference('main', $to, ['id']), '', '', $reason);
    }

    private static function join(string $column): int
    {
        return self::scalar('SELECT p.join_id FROM join_pair p JOIN field f ON f.id = p.from_field_id WHERE f.name = ?', $column);
    }

    private function say(string $column, string $verb): void
    {
        self::get(Texts::class)->save($this->steward, JoinTopic::NAME, self::join($column), 'verb', '', $verb, 's');
    }

    private function verb(string $column): string
    {
        $verb = self::db()->fetchOne('SELECT verb FROM entry_join WHERE gone_at IS NULL AND id = ?', [self::join($column)]);

        return \is_string($verb) ? $verb : '(gone)';
    }

    public function testARenamedConstraintKeepsItsVerbs(): void
    {
        self::apply($this->source, self::catalog(self::key('old_name', 'station_id', 'station')));
        $this->say('station_id', 'was taken at');
        self::apply($this->source, self::catalog(self::key('new_name', 'station_id', 'station')));

        self::assertSame('was taken at', $this->verb('station_id'));
        self::assertSame('["new_name"]', self::db()->fetchOne('SELECT names FROM entry_join'));
    }

    public function testAnUnnamedKeyBeforeAnotherShiftsNoVerbs(): void
    {
        self::apply($this->source, self::catalog(self::key(null, 'unit_id', 'unit')));
        $this->say('unit_id', 'is measured in');
        self::apply($this->source, self::catalog(self::key(null, 'station_id', 'station'), self::key(null, 'unit_id', 'unit')));

        self::assertSame(['is measured in', ''], [$this->verb('unit_id'), $this->verb('station_id')]);
    }

    public function testTwoConstraintsOverTheSameFieldsAreOneJoinWithTwoNames(): void
    {
        self::apply($this->source, self::catalog(self::key('one', 'station_id', 'station'), self::key('two', 'station_id', 'station')));

        self::assertSame(1, self::scalar('SELECT COUNT(*) FROM entry_join'));
        self::assertSame('["one", "two"]', self::db()->fetchOne("SELECT REPLACE(names, ',\"', ', \"') FROM entry_join"));
    }

    public function testAFieldThatIsRenamedTakesItsJoinAlong(): void
    {
        self::apply($this->source, self::catalog(self::key('one', 'station_id', 'station')));
        $this->say('station_id', 'was taken at');
        self::db()->executeStatement("UPDATE field SET name = 'site_id' WHERE name = 'station_id'");
        $renamed = Made::table('reading', ['site_id' => 'int', 'unit_id' => 'int', 'lab' => 'int']);
        self::apply(
            $this->source,
            Made::catalog(
                Made::table('station'),
                Made::table('unit'),
                new Table('main', 'reading', $renamed->kind, '', $renamed->columns, $renamed->primaryKey, [], [self::key('one', 'site_id', 'station')]),
            ),
        );

        self::assertSame('was taken at', $this->verb('site_id'));
    }

    public function testWhatAPersonDocumentedIsTouchedByNoSurvey(): void
    {
        self::apply($this->source, self::catalog(self::key('one', 'lab', 'station', 'by value'), self::key('two', 'unit_id', 'unit')));
        self::db()->executeStatement("UPDATE entry_join SET stated = 'documented' WHERE id = ?", [self::join('lab')]);
        $this->say('lab', 'was examined at');
        self::apply($this->source, self::catalog());

        self::assertSame('was examined at', $this->verb('lab'));
        self::assertSame('(gone)', $this->verb('unit_id'), 'What was only declared is gone with its constraint.');
        self::apply($this->source, self::catalog(self::key('two', 'unit_id', 'unit')));
        self::assertSame('', $this->verb('unit_id'), 'It comes back.');
    }

    public function testATableThatChangesLeavesTheJoinsThatItStillHas(): void
    {
        self::apply($this->source, self::catalog(self::key('one', 'station_id', 'station')));
        $this->say('station_id', 'was taken at');
        $wider = Made::table('reading', ['station_id' => 'int', 'unit_id' => 'int', 'lab' => 'int', 'more' => 'int']);
        self::apply(
            $this->source,
            Made::catalog(
                Made::table('station'),
                Made::table('unit'),
                new Table(
                    'main',
                    'reading',
                    $wider->kind,
                    'Now with a comment',
                    $wider->columns,
                    $wider->primaryKey,
                    [],
                    [self::key('one', 'station_id', 'station')],
                ),
            ),
        );

        self::assertSame('was taken at', $this->verb('station_id'));
    }

    public function testATargetThatWasGoneAndComesBackHasItsJoinsAgain(): void
    {
        $whole = self::catalog(self::key('one', 'station_id', 'station'));
        self::apply($this->source, $whole);
        $this->say('station_id', 'was taken at');
        self::apply($this->source, $whole->with(tables: \array_slice($whole->tables, 1)));
        self::assertSame('(gone)', $this->verb('station_id'));
        self::apply($this->source, $whole);

        self::assertSame('was taken at', $this->verb('station_id'));
    }

    public function testAProposedJoinIsShownFaintAndNeverCounted(): void
    {
        self::apply($this->source, self::catalog(self::key(null, 'lab', 'station', 'all 40 values are among the 48 of id')));
        $page = $this->client->request('GET', '/register/'.self::entryId('reading'));

        self::assertSame(1, $page->filter('.joins .proposed')->count());
        self::assertStringContainsString('proposed', $page->filter('.joins .proposed')->text());
        $this->client->request('GET', '/diagrams');
        self::assertStringContainsString('>0<', (string) preg_replace('/\s+/', '', $this->content()));
    }
}
