<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Sql;

use Fasti\Core\Catalog\Column;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;

/** What names mean, by the rules of scope of each engine. */
final class ResolverTest extends TestCase
{
    public function testAFieldIsFollowedThroughQueriesWithinToItsTable(): void
    {
        $reading = Queries::read(
            'WITH d AS (SELECT station_id AS s, max(value) AS top FROM reading GROUP BY 1) SELECT q.top * 2 AS twice FROM (SELECT top FROM d) q',
        );

        self::assertSame(['twice' => ['reading.value']], Queries::values($reading));
        self::assertSame(['reading.station_id', 'reading.value'], Queries::names($reading->references));
        self::assertSame(['reading.station_id'], Queries::names($reading->conditions));
    }

    public function testValuesAndConditionsAreToldApart(): void
    {
        $reading = Queries::read('SELECT s.name, sum(r.value) FILTER (WHERE r.flag = \'G\') AS good, row_number() OVER (ORDER BY s.name) AS n
            FROM station s JOIN reading r ON r.station_id = s.id WHERE r.taken > now() GROUP BY s.name');

        self::assertSame(['name' => ['station.name'], 'good' => ['reading.value'], 'n' => []], Queries::values($reading));
        self::assertSame(['reading.flag'], Queries::names($reading->fields[1]->conditions));
        self::assertSame(['station.name'], Queries::names($reading->fields[2]->conditions));
        self::assertSame(['reading.station_id', 'reading.taken', 'station.id', 'station.name'], Queries::names($reading->conditions));
    }

    public function testRecursionComesToAnEndAndKeepsTheTypesOfItsBeginning(): void
    {
        $reading = Queries::read(
            'WITH RECURSIVE up(id, n) AS (SELECT id, 0 FROM reach UNION ALL SELECT s.reach_id, up.n + 1 FROM station s JOIN up ON up.id = s.id) SELECT * '
                .'FROM up',
        );

        self::assertSame(['id' => 'integer', 'n' => 'integer'], Queries::types($reading));
        self::assertSame(['reach.id', 'station.reach_id'], Queries::values($reading)['id']);
        self::assertSame([], $reading->unknown);
    }

    public function testAnAliasCoversATableAndANamedQueryCoversBoth(): void
    {
        self::assertSame(['id' => ['reach.id']], Queries::values(Queries::read('SELECT station.id FROM reach AS station')));
        self::assertSame(['id' => ['reach.id']], Queries::values(Queries::read('WITH station AS (SELECT id FROM reach) SELECT id FROM station')));
    }

    public function testOnlyLateralQueriesSeeWhatStandsBesideThem(): void
    {
        $sql = 'SELECT r.v FROM station s, %s (SELECT value AS v FROM reading WHERE station_id = s.id) r';

        self::assertSame([], Queries::unknown(Queries::read(\sprintf($sql, 'LATERAL'))));
        self::assertSame(['1:80 No table here has a field “s.id”'], Queries::unknown(Queries::read(\sprintf($sql, ''))));
    }

    #[TestWith(['postgresql', 'pg_catalog', true])]
    #[TestWith(['postgresql', 'sys', false])]
    #[TestWith(['mysql', 'sys', true])]
    #[TestWith(['mariadb', 'performance_schema', true])]
    #[TestWith(['mariadb', 'pg_catalog', false])]
    #[TestWith(['sqlite', 'dbc', false])]
    #[TestWith(['sql', 'dbc', true])]
    public function testASchemaIsOfTheEngineItselfWhereThatEngineSaysSo(string $engine, string $schema, bool $itself): void
    {
        $unknown = implode('; ', Queries::unknown(Queries::read("SELECT a FROM $schema.nothing", $engine)));

        self::assertStringContainsString("$schema.nothing", $unknown);
        self::assertSame($itself, str_contains($unknown, 'belongs to the engine itself'));
    }

    /** @return iterable<string, array{string, string, list<string>}> */
    public static function foldings(): iterable
    {
        yield 'small letters' => ['postgresql', 'SELECT STATION.Name FROM s.Station', ['station.name']];
        yield 'not where quoted' => ['postgresql', 'SELECT "Name" FROM station', []];
        yield 'any case' => ['sqlite', 'SELECT "NAME" FROM Station', ['station.name']];
        yield 'backticks' => ['mariadb', 'SELECT `Name` FROM station', ['station.name']];
        yield 'brackets' => ['sql', 'SELECT [name] FROM dbo.s.[station]', ['station.name']];
    }

    /** @param list<string> $references */
    #[DataProvider('foldings')]
    public function testNamesFoldAsTheEngineDoesIt(string $engine, string $sql, array $references): void
    {
        self::assertSame($references, Queries::names(Queries::read($sql, $engine)->references));
    }

    public function testAQuotedNameThatNothingHasIsATextInSqliteOnly(): void
    {
        self::assertSame([], Queries::unknown(Queries::read('SELECT "nobody" FROM station', 'sqlite')));
        self::assertSame(['1:8 No table here has a field “nobody”'], Queries::unknown(Queries::read('SELECT "nobody" FROM station')));
    }

    public function testAliasesOfTheListMayBeUsedWhereTheEngineAllowsIt(): void
    {
        $sql = 'SELECT name AS label FROM station WHERE label > \'a\'';

        self::assertSame([], Queries::unknown(Queries::read($sql, 'sqlite')));
        self::assertSame(['1:41 No table here has a field “label”'], Queries::unknown(Queries::read($sql, 'mariadb')));
        self::assertSame([], Queries::unknown(Queries::read('SELECT name AS label FROM station GROUP BY label HAVING label > \'a\'', 'mariadb')));
    }

    public function testWhatIsJoinedByANameStandsOnceAndCountsAsBoth(): void
    {
        $reading = Queries::read('SELECT * FROM station JOIN reach USING (id)');

        self::assertSame(['id', 'name', 'reach_id', 'tags', 'name'], array_map(static fn ($field): string => $field->name, $reading->fields));
        self::assertContains('reach.id', Queries::names($reading->references));
        self::assertSame(['station.id'], Queries::names($reading->fields[0]->values));
        $reading = Queries::read('SELECT id FROM station FULL JOIN reach USING (id)');
        self::assertSame(['reach.id', 'station.id'], Queries::names($reading->fields[0]->values));
    }

    public function testJoinsThatAQueryMakesAreKept(): void
    {
        $reading = Queries::read(
            'SELECT 1 FROM station a JOIN reach b ON b.id = a.reach_id, reading r WHERE r.station_id = a.id AND EXISTS (SELECT 1 FROM station c WHERE '
                .'c.reach_id = b.id)',
        );
        $joins = [];
        foreach ($reading->joins as $join) {
            foreach ($join->pairs as [$from, $to]) {
                $joins[] = $from->table.'.'.$from->column.' = '.$to->table.'.'.$to->column;
            }
        }

        self::assertEqualsCanonicalizing(['station.reach_id = reach.id', 'station.id = reading.station_id', 'reach.id = station.reach_id'], $joins);
    }

    public function testOuterJoinsMayLeaveFieldsEmpty(): void
    {
        $types = Queries::types(
            Queries::read(
                'SELECT s.id, r.id AS rid, count(*) AS n, coalesce(r.name, \'-\') AS label, s.id IS NULL AS none FROM station s LEFT JOIN reach r ON true '
                    .'GROUP BY 1, 2, 4, 5',
            ),
        );

        self::assertSame(['id' => 'integer', 'rid' => 'integer?', 'n' => 'bigint', 'label' => 'text', 'none' => 'boolean'], $types);
    }

    public function testATableThatIsNotThereIsSaidOnceAndItsFieldsAreNotGuessed(): void
    {
        $reading = Queries::read("SELECT s.id, x.a, b\nFROM station s JOIN elsewhere x ON x.id = s.id");

        self::assertSame(['2:21 elsewhere is not in the catalog'], Queries::unknown($reading));
        self::assertSame(['id' => ['station.id'], 'a' => [], 'b' => []], Queries::values($reading));
        self::assertNull($reading->fields[1]->type);
        self::assertSame(
            ['1:8 What * stands for here is not known, since not all its tables are', '1:15 elsewhere is not in the catalog'],
            Queries::unknown(Queries::read('SELECT * FROM elsewhere')),
        );
    }

    public function testTheTypesOfAViewComeFromTheViewsItIsMadeOf(): void
    {
        $top = Queries::view('top', 'SELECT below.n + 1 AS m, below.who FROM s.below');
        $below = Queries::view('below', 'SELECT count(*) AS n, max(name) AS who FROM s.station');

        self::assertSame(['m' => 'bigint?', 'who' => 'text?'], Queries::types(Queries::read('SELECT * FROM s.top', 'postgresql', $top, $below)));
    }

    public function testViewsThatAreMadeOfOneAnotherAreSaid(): void
    {
        $a = Queries::view('a', 'SELECT x FROM s.b');
        $b = Queries::view('b', 'SELECT x FROM s.a');
        $all = (new \Fasti\Core\Sql\Readings(Queries::catalog('postgresql', $a, $b)))->all();

        self::assertStringContainsString('made of itself', implode(' ', [...Queries::unknown($all["s\0a"]), ...Queries::unknown($all["s\0b"])]));
    }

    public function testNamesThatTheCatalogGivesAreKept(): void
    {
        $view = Queries::view('v', 'SELECT id, name FROM s.station', new Column('one', ''), new Column('two', ''));
        $columns = (new \Fasti\Core\Sql\Readings(Queries::catalog('postgresql', $view)))->columnsOf($view);

        self::assertSame(
            [['one', 'integer'], ['two', 'character varying(20)']],
            array_map(static fn (Column $column): array => [$column->name, $column->type], $columns),
        );
    }

    /** @return iterable<string, array{string, string, array<string, list<string>>}> */
    public static function commonForms(): iterable
    {
        yield 'outer joins by (+), a row number and a hierarchy' => [
            'sql',
            'SELECT s.id, LEVEL, PRIOR s.name AS before FROM station s, reach r WHERE s.reach_id = r.id (+) AND ROWNUM < 5 START WITH s.id = 1 CONNECT BY '
                .'PRIOR s.id = s.reach_id',
            ['id' => ['station.id'], 'LEVEL' => [], 'before' => ['station.name']],
        ];
        yield 'minus and the empty table' => ['sql', 'SELECT id FROM station MINUS SELECT 1 FROM dual', ['id' => ['station.id']]];
        yield 'lists of aggregates' => [
            'sql',
            'SELECT LISTAGG(s.name, q\'[, ]\') WITHIN GROUP (ORDER BY s.id) AS names, MAX(s.id) KEEP (DENSE_RANK LAST ORDER BY s.reach_id) AS last FROM '
                .'station s',
            ['names' => ['station.id', 'station.name'], 'last' => ['station.id']],
        ];
        yield 'top, apply and hints' => [
            'sql',
            'SELECT TOP (5) s.[name], x.value FROM station AS s WITH (NOLOCK) CROSS APPLY (SELECT TOP 1 value FROM reading WHERE station_id = s.id ORDER '
                .'BY taken DESC) AS x',
            ['name' => ['station.name'], 'value' => ['reading.value']],
        ];
        yield 'a name before the value, and conversions' => [
            'sql',
            'SELECT label = s.name, CONVERT(varchar(10), s.id, 121) AS c, TRY_CAST(s.name AS int) AS i, DATEADD(day, 1, GETDATE()) AS d FROM station s '
                .'OPTION (RECOMPILE)',
            ['label' => ['station.name'], 'c' => ['station.id'], 'i' => ['station.name'], 'd' => []],
        ];
        yield 'rows for a document' => [
            'sql',
            "SELECT s.id, STUFF((SELECT ',' + r.flag FROM reading r WHERE r.station_id = s.id FOR XML PATH('')), 1, 1, '') AS flags FROM station s",
            ['id' => ['station.id'], 'flags' => ['reading.flag']],
        ];
        yield 'a sequence, and a cube' => [
            'sql',
            'SELECT NEXT VALUE FOR s.numbers AS n, reach_id, COUNT(*) AS c FROM station GROUP BY reach_id WITH CUBE',
            ['n' => [], 'reach_id' => ['station.reach_id'], 'c' => []],
        ];
        yield 'qualify' => ['sql', 'SELECT id FROM station QUALIFY ROW_NUMBER() OVER (PARTITION BY reach_id ORDER BY id) = 1', ['id' => ['station.id']]];
    }

    /** @param array<string, list<string>> $values */
    #[DataProvider('commonForms')]
    public function testTheCommonFormsOfOtherEnginesAreRead(string $engine, string $sql, array $values): void
    {
        $reading = Queries::read($sql, $engine);

        self::assertSame([], Queries::unknown($reading));
        self::assertSame($values, Queries::values($reading));
    }
}
