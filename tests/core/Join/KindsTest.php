<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Join;

use Fasti\Core\Join\Cardinality;
use Fasti\Core\Join\CatalogLinks;
use Fasti\Core\Join\End;
use Fasti\Core\Join\EntryKind;
use Fasti\Core\Join\KindGuess;
use Fasti\Core\Join\Kinds;
use Fasti\Core\Join\Sentence;
use Fasti\Core\Join\Verbs;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** What kind a table is, and how a join is said. */
final class KindsTest extends TestCase
{
    private const SCHEMA = 'CREATE TABLE country (code char(2) PRIMARY KEY, name text);
        CREATE TABLE customer (id integer PRIMARY KEY, country_code char(2) REFERENCES country (code), name text, opened_on date,
            parent_id integer REFERENCES customer (id));
        CREATE TABLE product (id integer PRIMARY KEY, name text, weight real, made_on date);
        CREATE TABLE sale (id integer PRIMARY KEY, customer_id integer REFERENCES customer (id), product_id integer REFERENCES product (id),
            sold_at datetime, amount real);
        CREATE TABLE sale_2024 (id integer PRIMARY KEY, customer_id integer, sold_at datetime, amount real);
        CREATE TABLE customer_product (customer_id integer REFERENCES customer (id), product_id integer REFERENCES product (id), PRIMARY KEY (customer_id,
            product_id));
        CREATE TABLE wish (customer_id integer REFERENCES customer (id), product_id integer REFERENCES product (id), note text, PRIMARY KEY (customer_id,
            product_id));
        CREATE TABLE audit_log (id integer, at datetime, what text);
        CREATE TABLE tmp_load (line text);
        CREATE TABLE setting (name text PRIMARY KEY, value text)';

    /** @return iterable<string, array{string, EntryKind, string}> */
    public static function kinds(): iterable
    {
        yield 'a code table' => ['country', EntryKind::Code, 'natural'];
        yield 'a dimension' => ['customer', EntryKind::Dimension, 'surrogate'];
        yield 'a fact' => ['sale', EntryKind::Fact, 'surrogate'];
        yield 'a link' => ['customer_product', EntryKind::Link, 'of what it links'];
        yield 'a link with properties' => ['wish', EntryKind::Link, 'of what it links'];
        yield 'a log' => ['audit_log', EntryKind::Log, ''];
        yield 'staging' => ['tmp_load', EntryKind::Staging, ''];
        yield 'what nothing speaks of' => ['setting', EntryKind::Other, 'natural'];
    }

    #[DataProvider('kinds')]
    public function testAKindFollowsFromKeysJoinsAndFields(string $table, EntryKind $kind, string $key): void
    {
        $guess = self::guesses()[$table];

        self::assertSame([$kind, $key], [$guess->kind, $guess->key], $guess->reason);
        self::assertNotSame('', $guess->reason);
    }

    /** What programs keep of each row, people, and tables without keys: classes of mistakes that were seen on schemas of others. */
    public function testWhatIsKeptOfEachRowSaysNothingOfItsKind(): void
    {
        $kept = 'created_by integer REFERENCES player (id), create_date timestamp, write_uid integer REFERENCES player (id), write_date timestamp';
        $guesses = self::guesses("CREATE TABLE player (id integer PRIMARY KEY, name text); CREATE TABLE team (id integer PRIMARY KEY, name text, weight real);
            CREATE TABLE player_team (id integer PRIMARY KEY, player integer REFERENCES player (id), team integer REFERENCES team (id), $kept);
            CREATE TABLE team_setting (id integer PRIMARY KEY, team integer REFERENCES team (id), name text, value text, $kept);
            CREATE TABLE league (id integer PRIMARY KEY, name text, t_created timestamp); CREATE TABLE outcome (result varchar(9) PRIMARY KEY);
            CREATE TABLE game (id integer PRIMARY KEY, team integer REFERENCES team (id), league integer REFERENCES league (id), result varchar(9)
                REFERENCES outcome (result), points integer, played_at timestamp);
            CREATE TABLE metadata (name text NOT NULL, value text); CREATE TABLE lines (a text, b text, c text, d text);
            CREATE TABLE heard (at timestamp, what text, who text)");

        self::assertSame(EntryKind::Dimension, $guesses['player']->kind, 'people are no codes');
        self::assertSame(EntryKind::Link, $guesses['player_team']->kind);
        self::assertSame(EntryKind::Other, $guesses['team_setting']->kind, 'nothing happened but that the row was made');
        self::assertSame(EntryKind::Dimension, $guesses['league']->kind, 'nobody keeps when a code was made');
        self::assertSame(EntryKind::Code, $guesses['outcome']->kind);
        self::assertSame(EntryKind::Fact, $guesses['game']->kind);
        self::assertSame(EntryKind::Other, $guesses['metadata']->kind);
        self::assertSame(EntryKind::Staging, $guesses['lines']->kind);
        self::assertSame(EntryKind::Log, $guesses['heard']->kind);
    }

    public function testTraitsAreSaid(): void
    {
        $guesses = self::guesses();

        self::assertSame(['refers to itself'], $guesses['customer']->traits);
        self::assertSame(['archive of sale'], $guesses['sale_2024']->traits);
        self::assertSame(['with properties of its own'], $guesses['wish']->traits);
    }

    /** @return iterable<array{string, list<string>, string, list<string>, string, string}> */
    public static function verbs(): iterable
    {
        yield ['note', ['created_by'], 'person', [], 'is created by', 'creates'];
        yield ['calibration', ['done_by'], 'person', [], 'is done by', 'does'];
        yield ['sighting', ['seenBy'], 'person', [], 'is seen by', 'sees'];
        yield ['reach', ['flows_into_id'], 'reach', [], 'flows into', 'is flowed into by'];
        yield ['category', ['parent_id'], 'category', [], 'has as parent', 'is the parent of'];
        yield ['visit', ['home_station_id'], 'station', [], 'has as home station', 'is the home station of'];
        yield ['order_line', ['order_id'], 'order', ['order_id', 'line_no'], 'belongs to', 'has'];
        yield ['sighting', ['species_code'], 'species', [], 'is of', 'is that of'];
        yield ['sale', ['customer_id'], 'customer', [], '', ''];
        yield ['bill', ['approved_by'], 'user', [], 'is approved by', 'approves'];
        yield ['bill', ['planned_by'], 'user', [], 'is planned by', 'plans'];
        yield ['bill', ['checked_by'], 'user', [], 'is checked by', 'checks'];
        yield ['bill', ['carried_by'], 'user', [], 'is carried by', 'carries'];
    }

    /**
     * @param list<string> $columns
     * @param list<string> $primary
     */
    #[DataProvider('verbs')]
    public function testVerbsAreComposedFromNames(string $from, array $columns, string $to, array $primary, string $verb, string $back): void
    {
        self::assertSame([$verb, $back], Verbs::of($from, $columns, $to, $primary));
    }

    public function testASentenceSaysAnotherRowOfTheSameAndGoesOverALink(): void
    {
        $ends = new Cardinality(End::NoneOrMore, End::NoneOrOne);

        self::assertSame('A reach flows into at most one other reach.', (string) Sentence::forth('Reach', 'Reach', $ends, 'flows into', true));
        self::assertSame('A reach takes in any number of other reaches.', (string) Sentence::back('Reach', 'Reach', $ends, 'takes in', true));
        self::assertSame(
            'A person makes any number of visits, through visit member.',
            (string) Sentence::across('Person', 'makes', End::NoneOrMore, 'Visit', 'Visit member'),
        );
        self::assertSame(
            'A visit is made by one or more people, through visit member.',
            (string) Sentence::across('Visit', 'is made by', End::OneOrMore, 'Person', 'Visit member'),
        );
    }

    /** @return array<string, KindGuess> */
    private static function guesses(string $sql = self::SCHEMA): array
    {
        $catalog = (new Base($sql))->catalog();
        $rows = [];
        foreach (self::SCHEMA === $sql ? $catalog->tables : [] as $i => $table) {
            $rows[$i] = ['country' => 40, 'sale' => 100000][$table->name] ?? 800;
        }
        $guesses = [];
        foreach ((new Kinds($catalog, CatalogLinks::of($catalog), $rows))->all() as $i => $guess) {
            $guesses[$catalog->tables[$i]->name] = $guess;
        }

        return $guesses;
    }
}
