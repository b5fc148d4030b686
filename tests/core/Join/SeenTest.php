<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Join;

use Fasti\Bench\Joins\Made;
use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Join\Areas;
use Fasti\Core\Join\CatalogLinks;
use Fasti\Core\Join\Kinds;
use Fasti\Core\Join\Link;
use Fasti\Core\Join\Loops;
use Fasti\Core\Join\Observing;
use Fasti\Core\Join\Proposal;
use Fasti\Core\Join\Proposals;
use Fasti\Core\Join\Routes;
use Fasti\Core\Join\Sentence;
use Fasti\Core\Join\Verbs;
use Fasti\Tests\Core\Golden\Golden;
use Fasti\Tests\Core\Golden\Replayed;
use Fasti\Tests\Core\Golden\Snapshot;
use Fasti\Tests\Core\Golden\Traits;
use Fasti\Tests\Core\Golden\World;
use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;

/** What is worked out of the joins of some schemas, all of it, as it was seen to be. */
final class SeenTest extends TestCase
{
    #[TestWith(['library', 0])]
    #[TestWith(['railway', 3])]
    #[TestWith(['clinic', 5])]
    #[TestWith(['museum', 9])]
    public function testProposalsByNamesAlone(string $name, int $style): void
    {
        self::seen("joins.$name.names", (new Proposals())->of(self::bare(World::made($name, $style))));
    }

    #[TestWith(['school', 0])]
    #[TestWith(['harbour', 2])]
    public function testProposalsByNamesAndRows(string $name, int $style): void
    {
        $catalog = World::made($name, $style);
        $proposals = (new Proposals())->of(self::bare($catalog), World::filled($name, $style));

        self::seen("joins.$name.rows", $proposals);
    }

    public function testProposalsOfEverySchemaInSeveralStyles(): void
    {
        $lines = [];
        foreach (Made::names() as $name) {
            foreach (range(0, 11) as $style) {
                $lines[] = World::digest("$name $style", self::said((new Proposals())->of(self::bare(World::made($name, $style)))));
            }
        }
        foreach (Made::names() as $i => $name) {
            $catalog = World::made($name, $i);
            $lines[] = World::digest("$name with rows", self::said((new Proposals())->of(self::bare($catalog), World::filled($name, $i))));
            // What is declared, what was dismissed, and what queries join say something of the rest.
            $some = (new Proposals())->of(self::bare($catalog));
            $dismissed = array_fill_keys(array_map(Proposals::identity(...), \array_slice($some, 0, 5)), true);
            $queries = ['a' => "SELECT 1 FROM {$catalog->tables[0]->name} a JOIN {$catalog->tables[1]->name} b ON a.id = b.id"];
            $lines[] = World::digest("$name with what was dismissed", self::said((new Proposals())->of(self::bare($catalog), null, $queries, $dismissed)));
            $lines[] = World::digest("$name as it is declared", self::said((new Proposals())->of($catalog)));
        }
        foreach (['postgresql', 'mariadb', 'sqlite'] as $engine) {
            foreach (Golden::of("random.$engine")->names() as $case) {
                $catalog = Traits::survey($engine, new Replayed(Golden::of("random.$engine")->case($case)['answers'] ?? []));
                $lines[] = World::digest($case, self::said((new Proposals())->of($catalog)));
            }
        }

        Snapshot::same('joins.all', $lines);
    }

    public function testKindsOfEverySchemaInSeveralStyles(): void
    {
        $lines = [];
        foreach (Made::names() as $name) {
            foreach (range(0, 9) as $style) {
                $catalog = World::made($name, $style);
                $links = CatalogLinks::of($catalog);
                $rows = array_map(static fn (int $i): int => 10 ** ($i % 6), array_keys($catalog->tables));
                $found = [World::lines('kinds', (new Kinds($catalog, $links))->all()), World::lines('kinds', (new Kinds($catalog, $links, $rows))->all())];
                $found[] = World::lines('areas', Areas::of(array_keys($catalog->tables), $links));
                $found[] = World::lines('loops', Loops::of($links));
                $routes = new Routes($links);
                $found[] = World::lines('near', array_map(static fn (int $i): array => $routes->near($i, 5), array_keys($catalog->tables)));
                $lines[] = World::digest("$name $style", array_merge(...$found));
            }
        }

        Snapshot::same('joins.kinds', $lines);
    }

    public function testKindsAreasLoopsAndRoutesOfTheDemo(): void
    {
        $catalog = World::demo();
        $links = CatalogLinks::of($catalog);
        $name = static fn (int $i): string => $catalog->tables[$i]->name;
        $lines = [];
        foreach ((new Kinds($catalog, $links))->all() as $i => $kind) {
            array_push($lines, ...World::lines('kind '.$name($i), $kind));
        }
        foreach (Areas::of(array_keys($catalog->tables), $links) as $area) {
            $lines[] = 'area '.$name($area->middle).': '.implode(', ', array_map($name, $area->nodes));
        }
        foreach (Loops::of($links) as $loop) {
            array_push($lines, ...World::lines('loop', $loop));
        }
        $routes = new Routes($links);
        $at = array_flip(array_map(static fn (Table $table): string => $table->name, $catalog->tables));
        foreach ([['reading', 'reach'], ['person', 'sample'], ['station', 'lab'], ['sighting', 'team']] as [$from, $to]) {
            foreach ($routes->between($at[$from] ?? 0, $at[$to] ?? 1) as $route) {
                $lines[] = "route $from to $to: ".implode(' > ', array_map($name, $route->nodes())).\sprintf(
                    ' costs %s%s%s', Snapshot::figure($route->cost), $route->multiplies() ? ', multiplies' : '', $route->drops() ? ', drops' : '',
                );
            }
        }

        Snapshot::same('joins.demo.whole', $lines);
    }

    public function testSentencesAndVerbsOfEveryDeclaredJoin(): void
    {
        $lines = [];
        foreach ([World::demo(), World::playhouse(), World::made('hospital'), World::made('warehouse'), World::made('festival')] as $catalog) {
            foreach (CatalogLinks::of($catalog) as $link) {
                $from = $catalog->tables[$link->from];
                $to = $catalog->tables[$link->to];
                [$verb, $back] = Verbs::of($from->name, array_column($link->pairs, 0), $to->name, $from->primaryKey->columns ?? []);
                $lines[] = Sentence::forth($from->name, $to->name, $link->cardinality, $verb, $from === $to).' / '
                    .Sentence::back($from->name, $to->name, $link->cardinality, $back, $from === $to);
            }
        }

        Snapshot::same('joins.sentences', $lines);
    }

    public function testFiguresOfJoinsWithRows(): void
    {
        $catalog = World::made('coop');
        $observing = new Observing(World::filled('coop'), Dialects::of('sqlite'));
        $lines = [];
        foreach (CatalogLinks::of($catalog) as $link) {
            $from = $catalog->tables[$link->from];
            $to = $catalog->tables[$link->to];
            $figures = $observing->of($from, $to, self::some($link->pairs));
            $lines[] = "$from->name to $to->name: ".$figures->inWords();
            array_push($lines, ...World::lines("$from->name to $to->name", $figures->toArray()));
            $lines[] = 'masked: '.json_encode($observing->of($from, $to, self::some($link->pairs), null, true)->examples);
        }

        Snapshot::same('joins.coop.figures', $lines);
    }

    public function testLinksKeepWhatLeadsWhere(): void
    {
        $links = CatalogLinks::of(World::demo());

        self::assertSame(range(0, \count($links) - 1), array_map(static fn (Link $link): int => $link->id, $links));
        Snapshot::same('joins.demo.links', array_merge(...array_map(static fn (Link $link): array => World::lines("link $link->id", [
            $link->from, $link->to, $link->pairs, $link->cardinality->short(), $link->certainty,
        ]), $links)));
    }

    /**
     * @param list<array{string, string}> $pairs
     *
     * @return non-empty-list<array{string, string}>
     */
    private static function some(array $pairs): array
    {
        return [] === $pairs ? throw new \LogicException('A join without fields.') : $pairs;
    }

    /** @param list<Proposal> $proposals */
    private static function seen(string $name, array $proposals): void
    {
        Snapshot::same($name, self::said($proposals));
    }

    /**
     * @param list<Proposal> $proposals
     *
     * @return list<string>
     */
    private static function said(array $proposals): array
    {
        return array_merge(...array_map(static fn (Proposal $proposal): array => World::lines(
            \sprintf('%s(%s)', $proposal->from->name, implode(', ', $proposal->columns)),
            $proposal->toArray() + ['condition' => $proposal->condition()],
        ), $proposals));
    }

    private static function bare(Catalog $catalog): Catalog
    {
        return $catalog->with(tables: array_map(static fn (Table $table): Table => $table->with(foreignKeys: []), $catalog->tables));
    }
}
