<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Lineage;

use Fasti\Core\Catalog\ForeignKey;
use Fasti\Core\Catalog\Reference;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Lineage\Step;
use Fasti\Core\Lineage\Steps;
use Fasti\Core\Sql\Readings;
use Fasti\Tests\Core\Sql\Queries;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class StepsTest extends TestCase
{
    /** @return iterable<string, array{string, list<string>}> */
    public static function queries(): iterable
    {
        yield 'take and filter' => [
            "SELECT name FROM station WHERE id > 3 AND name LIKE 'a%'",
            ['Take station', "Keep only rows where: id > 3 AND name LIKE 'a%'"],
        ];
        yield 'join with the rows at each end' => ['SELECT 1 FROM station s JOIN reach r ON r.id = s.reach_id', [
            'Take station, called s', 'Take reach, called r', 'Join reach; rows without drop out: r.id = s.reach_id (exactly one reach to each row, any '
                .'number of rows to each reach)',
        ]];
        yield 'an outer join to many' => ['SELECT 1 FROM station s LEFT JOIN reading r ON r.station_id = s.id', [
            'Take station, called s', 'Take reading, called r',
            'Join reading where there is any; rows without stay: r.station_id = s.id (any number of reading to each row, at most one row to each reading)',
        ]];
        yield 'a key that is given in part as a value' => ['SELECT 1 FROM station s LEFT JOIN reading r ON r.station_id = s.id AND r.taken = current_date', [
            'Take station, called s', 'Take reading, called r',
            'Join reading where there is any; rows without stay: r.station_id = s.id AND r.taken = current_date (at most one reading to each row, at most '
                .'one row to each reading)',
        ]];
        yield 'commas are joined by what WHERE compares' => ['SELECT 1 FROM station, reading WHERE reading.station_id = station.id AND value > 2', [
            'Take station', 'Take reading', 'Join reading; rows without drop out: reading.station_id = station.id (any number of reading to each row, at '
                .'most one row to each reading)', 'Keep only rows where: value > 2',
        ]];
        yield 'nothing compared' => ['SELECT 1 FROM station, reach', ['Take station', 'Take reach', 'Put each row beside every row of reach']];
        yield 'group, keep groups, order, limit' => ['SELECT reach_id, count(*) AS n FROM station GROUP BY 1 HAVING count(*) > 2 ORDER BY 2 DESC LIMIT 5', [
            'Take station', 'One row for each different value of: reach_id', 'Keep only groups where: count(*) > 2', 'Put them in order: n DESC',
            'Keep the first 5',
        ]];
        yield 'one row of all' => ['SELECT max(value) FROM reading', ['Take reading', 'One row of all of them']];
        yield 'rank' => [
            'SELECT rank() OVER w FROM reading WINDOW w AS (PARTITION BY station_id ORDER BY value)',
            ['Take reading', 'Compare each row with others: rank: PARTITION BY station_id ORDER BY value'],
        ];
        yield 'sets' => [
            'SELECT id FROM station UNION ALL SELECT id FROM reach EXCEPT SELECT station_id FROM reading',
            ['Take station', 'Take reach', 'Put these rows below the others', 'Take reading', 'Take these rows away from the others'],
        ];
        yield 'a named query used twice' => ['WITH n AS (SELECT id FROM reach) SELECT 1 FROM n a JOIN n b ON a.id = b.id', [
            'Take reach, and call it n', 'Take n once more, called b',
            'Join b; rows without drop out: a.id = b.id (at most one b to each row, at most one row to each b)',
        ]];
        yield 'recursion' => ['WITH RECURSIVE up AS (SELECT id FROM reach UNION SELECT s.reach_id FROM station s JOIN up ON up.id = s.id) SELECT id FROM up', [
            'Take reach', 'Take station, called s', 'Take what was found last',
            'Join up; rows without drop out: up.id = s.id (any number of up to each row, at most one row to each up)',
            'Go on with what was found, until nothing new comes, and call it up',
        ]];
        yield 'rows made and distinct rows' => [
            'SELECT DISTINCT t FROM station s, unnest(s.tags) t',
            ['Take station, called s', 'Make rows with: unnest(s.tags)', 'Put each row beside what t gives for it', 'Keep each different row once'],
        ];
        yield 'rows of the query itself' => ['VALUES (1), (2)', ['Take 2 rows that stand in the query itself']];
        yield 'what was not understood' => ['SELECT id FROM station PIVOT (x) p', ['Something that was not understood: station PIVOT (x) p']];
    }

    /** @param list<string> $expected */
    #[DataProvider('queries')]
    public function testAQueryIsToldStepByStep(string $sql, array $expected): void
    {
        self::assertSame($expected, array_map(
            static fn (Step $step): string => $step->words.('' === $step->detail ? '' : ': '.$step->detail)
                .('' === $step->rows ? '' : " ($step->rows)").('' === $step->named ? '' : ", and call it $step->named"),
            self::steps($sql)[0],
        ));
    }

    public function testBranchesHaveLanesThatEndWhereTheyAreJoined(): void
    {
        [$steps] = self::steps('SELECT 1 FROM (SELECT id FROM station WHERE id > 1) s JOIN reach r ON r.id = s.id JOIN reading q ON q.station_id = s.id');

        self::assertSame([0, 0, 1, 0, 1, 0], array_map(static fn (Step $step): int => $step->lane, $steps));
        self::assertSame([[], [], [], [1], [], [1]], array_map(static fn (Step $step): array => $step->merging, $steps));
        self::assertSame([[], [0], [], [1, 2], [], [3, 4]], array_map(static fn (Step $step): array => $step->inputs, $steps));
    }

    /** @return iterable<string, array{string, list<string>}> */
    public static function keys(): iterable
    {
        yield 'of the table' => ['SELECT id, name FROM station', ['id']];
        yield 'not where it is left out' => ['SELECT name FROM station', []];
        yield 'joined to one' => ['SELECT s.id AS number, r.name FROM station s JOIN reach r ON r.id = s.reach_id', ['number']];
        yield 'joined to many' => ['SELECT q.station_id, q.taken, s.name FROM station s JOIN reading q ON q.station_id = s.id', ['station_id', 'taken']];
        yield 'grouped' => ['SELECT date_trunc(\'month\', taken) AS month, flag, count(*) FROM reading GROUP BY 1, 2', ['month', 'flag']];
        yield 'through a query within' => ['SELECT d.s, d.n FROM (SELECT station_id AS s, count(*) AS n FROM reading GROUP BY station_id) d', ['s']];
        yield 'by a star' => ['SELECT * FROM reading', ['station_id', 'taken']];
        yield 'put together' => ['SELECT id FROM station UNION ALL SELECT id FROM reach', []];
    }

    /** @param list<string> $expected */
    #[DataProvider('keys')]
    public function testWhatTellsRowsApartFollowsFromTheKeys(string $sql, array $expected): void
    {
        self::assertSame($expected, self::steps($sql)[1]->key);
    }

    /** @return array{list<Step>, Steps} */
    private static function steps(string $sql): array
    {
        $catalog = Queries::catalog();
        $key = new ForeignKey('f', ['reach_id'], new Reference('s', 'reach', ['id']));
        $catalog = $catalog->with(
            tables: array_map(static fn (Table $table): Table => 'station' === $table->name ? $table->with(foreignKeys: [$key]) : $table, $catalog->tables),
        );
        $steps = new Steps($catalog);

        return [$steps->of((new Readings($catalog))->query($sql, 's')), $steps];
    }
}
