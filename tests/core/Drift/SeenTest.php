<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Drift;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Drift\Compare;
use Fasti\Core\Drift\Doubt;
use Fasti\Core\Drift\Likeness;
use Fasti\Core\Drift\Pairing;
use Fasti\Tests\Core\Golden\Golden;
use Fasti\Tests\Core\Golden\Replayed;
use Fasti\Tests\Core\Golden\Snapshot;
use Fasti\Tests\Core\Golden\Traits;
use Fasti\Tests\Core\Golden\World;
use PHPUnit\Framework\TestCase;

/** All that is told of schemas that have changed, renames with their reasons, and which texts that makes doubtful, as it was seen to be. */
final class SeenTest extends TestCase
{
    public function testTheDemoBeforeAndAfter(): void
    {
        $path = \dirname(__DIR__, 3).'/demo/fieldwork-second.sql';
        $second = Traits::script(file_get_contents(\dirname(__DIR__, 3).'/demo/fieldwork.sql').";\n".file_get_contents($path), 'mariadb', 'fieldwork');

        self::seen('drift.demo', World::demo(), $second);
    }

    public function testTheSameSchemaWrittenInOtherStyles(): void
    {
        foreach ([['museum', 2], ['library', 5], ['clinic', 7]] as [$name, $style]) {
            self::seen("drift.$name", World::made($name), World::made($name, $style));
        }
    }

    public function testSchemasMadeUpByChanceAfterTheirChanges(): void
    {
        foreach (Traits::ENGINES as $engine) {
            $catalogs = [];
            foreach (\array_slice(Golden::of("random.$engine")->names(), 0, 8) as $case) {
                $catalogs[] = Traits::survey($engine, new Replayed(Golden::of("random.$engine")->case($case)['answers'] ?? []));
            }
            $lines = [];
            foreach (\array_slice($catalogs, 1) as $i => $after) {
                array_push($lines, "# $engine $i", ...self::told($catalogs[$i], $after));
            }
            Snapshot::same("drift.random.$engine", $lines);
        }
    }

    public function testWithFieldsTakenOutAndTurnedRound(): void
    {
        $lines = [];
        foreach ([World::playhouse(), World::made('harbour')] as $catalog) {
            foreach ([
                'turned round' => static fn (array $columns): array => array_reverse($columns),
                'every third left out' => static fn (array $columns): array => array_filter(
                    $columns,
                    static fn (int $i): bool => 1 !== $i % 3,
                    \ARRAY_FILTER_USE_KEY,
                ),
                'called otherwise' => self::otherwise(...),
            ] as $how => $change) {
                $after = $catalog->with(tables: array_map(static fn (Table $table): Table => $table->with(
                    name: 'called otherwise' === $how && 0 === \strlen($table->name) % 2 ? $table->name.'_new' : $table->name,
                    columns: array_values($change($table->columns)),
                ), $catalog->tables));
                array_push($lines, "# $how", ...self::told($catalog, $after, ["fieldwork\0x" => true]));
            }
        }

        Snapshot::same('drift.fields', $lines);
    }

    public function testHowMuchNamesAreAlike(): void
    {
        $names = ['station', 'stations', 'stn', 'station_id', 'id_station', 'created_at', 'deleted_at', 'note', 'notes', 'qty', 'quantity', '', 'x',
            'weir_height',
            'height_of_weir', 'straße', 'name1', 'name2'];
        $lines = [];
        foreach ($names as $a) {
            foreach ($names as $b) {
                $lines[] = "$a, $b: ".Snapshot::figure(Likeness::of($a, $b)).' '.Snapshot::figure(Likeness::ofThings($a, $b));
            }
        }
        foreach ([[[0.9, 0.2], [0.1, 0.8]], [[0.7, 0.68], [0.2, 0.1]], [[0.5], [0.5]], [[0.61, 0.3], [0.3, 0.59]], [[], [0.9]]] as $scores) {
            $lines[] = 'pairs: '.json_encode(Pairing::mutual($scores, 0.5, 0.06));
        }

        Snapshot::same('drift.alike', $lines);
    }

    public function testTextsThatAChangeMakesDoubtful(): void
    {
        $lines = [];
        foreach ([
            ['varchar(5)', 'varchar(9)'], ['tinyint(4)', 'int(11)'], ['smallint', 'bigint'], ['decimal(6,2)', 'decimal(8,3)'], ['date', 'datetime'],
            ["enum('G','S')", "enum('G','B')"], ['int(11)', 'varchar(20)'], ['varchar(9)', 'varchar(9)'],
        ] as [$was, $is]) {
            foreach ([
                'At most 5 letters.', 'From 0 to 127.', '255 means none.', 'Up to 9,999.99 kg.', 'G = good, S = suspect', 'S means suspect', 'A date.',
                'Never empty.',
                'One of G good, S suspect, B bad.', '`G`: good; `B`: bad', 'The day on which it was taken.', 'Given by station_code.', '32767 at the most',
            ] as $text) {
                foreach (['', 'in cm'] as $comment) {
                    $said = Doubt::about(
                        $text,
                        new Column('station_code', $was, true, null, ''),
                        new Column('station_code', $is, false, null, $comment),
                        Dialects::of('mariadb'),
                    );
                    $lines[] = "$was to $is, “{$text}”, “{$comment}”: ".($said ?? 'nothing');
                }
            }
        }
        foreach ([
            'G = good, S = suspect', 'G good, S suspect, B bad', 'a → b, c → d', 'nothing here', 'A: one', '1: yes; 0: no', "X means x\nY means y",
        ] as $text) {
            $lines[] = "codes of “{$text}”: ".implode(' ', Doubt::codes($text));
            $lines[] = "mentions of “{$text}”: ".json_encode([Doubt::mentions($text, 'G'), Doubt::mentions($text, ''), Doubt::mentions($text, 'suspect')]);
        }

        Snapshot::same('drift.doubt', $lines);
    }

    /**
     * @param list<Column> $columns
     *
     * @return list<Column>
     */
    private static function otherwise(array $columns): array
    {
        $name = static fn (string $name): string => str_replace(['name', 'id', 'date'], ['title', 'no', 'day'], $name);

        return array_map(static fn (Column $column): Column => $column->with(name: $name($column->name)), $columns);
    }

    private static function seen(string $name, Catalog $before, Catalog $after): void
    {
        Snapshot::same($name, [...self::told($before, $after), '# and back', ...self::told($after, $before)]);
    }

    /**
     * @param array<string, true> $gone
     *
     * @return list<string>
     */
    private static function told(Catalog $before, Catalog $after, array $gone = []): array
    {
        $lines = [];
        $alike = static fn (Table $a, Column $x, Table $b, Column $y): float => (crc32($x->name.$y->name) % 10) / 10;
        foreach ([Compare::catalogs($before, $after, $gone), Compare::catalogs($before, $after, $gone, $alike)] as $which => $drift) {
            foreach ($drift as $item) {
                array_push($lines, ...World::lines("$which ".$item->table()->name, $item->toArray()));
            }
        }
        foreach (Compare::routines($before, $after) as $item) {
            array_push($lines, $item->inWords(), (string) json_encode($item->toArray()));
        }

        return $lines;
    }
}
