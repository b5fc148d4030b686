<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Join;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\ForeignKey;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Catalog\Place;
use Fasti\Core\Catalog\Reference;
use Fasti\Core\Catalog\Routine;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Catalog\Trigger;
use Fasti\Core\Join\Candidates;
use Fasti\Core\Join\CatalogLinks;
use Fasti\Core\Join\Feature;
use Fasti\Core\Join\Hint;
use Fasti\Core\Join\Hints;
use Fasti\Core\Join\Proposal;
use Fasti\Core\Join\Proposals;
use Fasti\Core\Join\ReadHints;
use Fasti\Core\Survey\Progress;
use PHPUnit\Framework\TestCase;

/** What is taken for a join of a catalog, and which joins bodies and queries speak of. */
final class LinksTest extends TestCase
{
    public function testOnlyWhatIsThereAndLikelyIsALink(): void
    {
        $catalog = new Catalog('sqlite', '', [
            self::table('unit', ['id']),
            self::table('reading', ['id', 'unit_id'], [
                new ForeignKey(null, ['unit_id'], new Reference('main', 'unit', ['id'])),
                new ForeignKey('again', ['unit_id'], new Reference('main', 'unit', ['id'])),
                new ForeignKey(null, ['id'], new Reference('main', 'gone', ['id'])),
                new ForeignKey(null, ['id'], new Reference('main', 'unit', ['id']), reason: 'by its values'),
            ]),
        ]);
        $proposal = self::proposal(...);
        $links = static fn (Proposal ...$proposals): array => \array_slice(CatalogLinks::of($catalog, array_values($proposals)), 2);

        self::assertSame([1.0, 0.9], array_column(CatalogLinks::of($catalog), 'certainty'), 'what is declared twice is one join, what is led nowhere none');
        self::assertSame([], $links($proposal('gone', 'unit', 0.9), $proposal('reading', 'gone', 0.9), $proposal('reading', 'unit', 0.49)));
        self::assertSame([[2, 1, 0, 0.5]], array_map(
            static fn ($link): array => [$link->id, $link->from, $link->to, $link->certainty],
            $links($proposal('reading', 'unit', 0.5)),
        ));
        self::assertCount(1, \array_slice(CatalogLinks::of($catalog, [$proposal('reading', 'unit', 0.2)], 0.2), 2));
    }

    public function testBodiesOfTriggersAndRoutinesAreReadQueryByQuery(): void
    {
        $trigger = new Trigger('keep', 'AFTER', 'INSERT', 'BEGIN UPDATE unit SET n = 1; IF EXISTS (SELECT 1 FROM unit u WHERE u.id = NEW.unit_id) THEN x; END');
        $long = '/* '.str_repeat('x', 200001).' */ SELECT 1 FROM reading r JOIN unit u ON u.id = r.unit_id';
        $routines = [
            new Routine('main', 'count_all', 'function', null, 'SELECT x; SELECT 1 FROM reading r JOIN unit u ON u.id = r.unit_id; SELECT 2'),
            new Routine('main', 'too_long', 'function', null, $long), new Routine('main', 'empty', 'function', null, null),
        ];
        $catalog = new Catalog('mariadb', '10', [
            self::table('unit', ['id', 'n']),
            self::table('reading', ['id', 'unit_id'])->with(triggers: [$trigger]),
        ], routines: $routines);
        $said = static fn (Hints $hints): array => array_map(
            static fn (Hint $hint): string => "$hint->feature $hint->where unit_id > {$hint->to->name}.".implode(',', $hint->toColumns),
            $hints->from((new Place('main', 'reading'))->key(), ['unit_id']),
        );

        self::assertSame(
            [Feature::ROUTINE.' keep unit_id > unit.id', Feature::ROUTINE.' count_all unit_id > unit.id', Feature::QUERY.' of the year unit_id > unit.id'],
            $said(ReadHints::of($catalog, ['of the year' => 'SELECT 1 FROM main.reading r, main.unit u WHERE r.unit_id = u.id'])),
        );
        self::assertSame([], $said(ReadHints::of(new Catalog('mariadb', '10', [self::table('unit', ['id'])]))));
    }

    public function testAHintToWhatIsNotThereIsPassedOverAndTheNextIsTaken(): void
    {
        $gauge = self::table('gauge', ['auth', 'code', 'name'])->with(primaryKey: new Key(null, ['auth', 'code']));
        $catalog = new Catalog('sqlite', '', [$gauge, self::table('visit', ['id', 'one', 'other'])]);
        $visit = new Place('main', 'visit');
        $hint = static fn (string $to): Hint => new Hint($visit, ['other', 'one'], new Place('main', $to), ['code', 'auth'], Feature::VIEW, 'all_visits');
        $units = (new Candidates($catalog))->all(new Hints([$hint('gone'), $hint('gauge'), $hint('gauge')]));
        $found = $units[Candidates::unit(1, ['one', 'other'])] ?? [];

        self::assertCount(1, $found);
        self::assertSame([['one', 'other'], ['auth', 'code'], 0], [$found[0]->columns, $found[0]->key->columns, $found[0]->to]);
        self::assertSame([1.0, ['all_visits', 'all_visits']], [$found[0]->features[Feature::VIEW], $found[0]->quoted]);
    }

    public function testItIsToldWhatIsBeingLookedAt(): void
    {
        $base = new Base('CREATE TABLE station (id integer PRIMARY KEY, name text);
            CREATE TABLE reading (id integer PRIMARY KEY, station_id integer, value real);
            INSERT INTO station VALUES (1, \'a\'), (2, \'b\'), (3, \'c\'); INSERT INTO reading VALUES (1, 1, 2.5), (2, 3, 2.5), (3, 2, 2.5), (4, 1, 1.5);');
        $progress = new class implements Progress {
            /** @var list<string> */
            public array $told = [];

            public function at(string $what, int $done, int $total): void
            {
                $this->told[] = "$what, $done of $total";
            }
        };
        (new Proposals())->of($base->catalog(), $base, progress: $progress);

        self::assertSame('names, types and keys, 0 of 0', $progress->told[0]);
        self::assertContains('a first look at reading, 1 of 2', $progress->told);
        self::assertContains('values found in station, 1 of 1', $progress->told);
    }

    private static function proposal(string $from, string $to, float $confidence): Proposal
    {
        return new Proposal(new Place('main', $from), ['unit_id'], new Place('main', $to), ['id'], $confidence, []);
    }

    /**
     * @param list<string>     $columns
     * @param list<ForeignKey> $foreign
     */
    private static function table(string $name, array $columns, array $foreign = []): Table
    {
        return new Table(
            'main', $name, TableType::Table, '', array_map(static fn (string $column): Column => new Column($column, 'integer'), $columns),
            new Key(null, ['id']), foreignKeys: $foreign,
        );
    }
}
