<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Join;

use Fasti\Core\Catalog\Table;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Join\End;
use Fasti\Core\Join\JoinFigures;
use Fasti\Core\Join\Observing;
use PHPUnit\Framework\TestCase;

/** What is counted of a join, held against what was put there. */
final class ObservingTest extends TestCase
{
    private const MADE = "CREATE TABLE station (id integer PRIMARY KEY, code char(3) UNIQUE, name text); CREATE TABLE reading (id integer PRIMARY KEY,
        station_id integer, code text, kind text);
        INSERT INTO station VALUES (1, 'AAA', 'x'), (2, 'BBB', 'x'), (3, 'CCC', 'x'), (4, 'DDD', 'x');
        INSERT INTO reading VALUES (1, 1, '1', 'a'), (2, 1, '1', 'a'), (3, 1, '01', 'b'), (4, 2, '2', 'a'), (5, NULL, NULL, 'a'), (6, 9, 'zz', 'b'),
        (7, 9, 'zz', 'b'), (8, 8, 'yy', 'b');";

    public function testEveryRowIsCountedOnce(): void
    {
        $figures = self::observed(self::MADE, 'reading', 'station', [['station_id', 'id']]);

        self::assertSame([8, 1, 3, 2], [$figures->rows, $figures->empty, $figures->orphans, $figures->missing]);
        self::assertEqualsCanonicalizing(['8', '9'], $figures->examples);
        self::assertSame([4, 2, 2], [$figures->parents, $figures->used, $figures->childless()]);
        self::assertSame([1, 3, 3], [$figures->median, $figures->of99, $figures->most]);
        self::assertSame(['value' => '1', 'rows' => 3], $figures->densest[0]);
        self::assertSame(2, array_sum(array_column($figures->spread, 'count')));
        self::assertSame('none 2 · median 1 · 99 of 100 up to 3 · most 3', $figures->inWords());
    }

    public function testFiguresOfAJoinWithoutRowsAtOneEnd(): void
    {
        $made = 'CREATE TABLE station (id integer PRIMARY KEY); CREATE TABLE reading (id integer PRIMARY KEY, station_id integer);';
        $empty = self::observed($made.' INSERT INTO station VALUES (1), (2);', 'reading', 'station', [['station_id', 'id']]);
        $alone = self::observed($made.' INSERT INTO reading VALUES (1, 5), (2, 5), (3, NULL);', 'reading', 'station', [['station_id', 'id']]);

        self::assertSame([0, 0, 0, 2, 0, 0], [$empty->rows, $empty->empty, $empty->orphans, $empty->parents, $empty->used, $empty->most]);
        self::assertSame([3, 1, 2, 0, 0, ['5']], [$alone->rows, $alone->empty, $alone->orphans, $alone->parents, $alone->used, $alone->examples]);
    }

    public function testHowManyEachHasIsDrawnAsBars(): void
    {
        $figures = JoinFigures::fromArray(['parents' => 3, 'used' => 2, 'spread' => [
            ['from' => 1, 'to' => 1, 'count' => 4], ['from' => 2, 'to' => 3, 'count' => 1],
        ]]);

        self::assertSame([
            ['x' => 1.0, 'y' => 2.0, 'width' => 28.0, 'height' => 42.0, 'from' => 1, 'to' => 1, 'count' => 4],
            ['x' => 31.0, 'y' => 33.5, 'width' => 28.0, 'height' => 10.5, 'from' => 2, 'to' => 3, 'count' => 1],
        ], $figures->bars(30, 44));
        self::assertSame([666.7, 0.0], [$figures->usedOf(1000), JoinFigures::fromArray([])->usedOf(1000)]);
        self::assertSame([], JoinFigures::fromArray([])->bars(30, 44));
    }

    public function testTheEndsFollowFromTheCounts(): void
    {
        $ends = self::observed(self::MADE, 'reading', 'station', [['station_id', 'id']])->cardinality();
        $full = self::observed(
            'CREATE TABLE a (id integer PRIMARY KEY); CREATE TABLE b (id integer PRIMARY KEY, a_id integer UNIQUE); INSERT INTO a VALUES (1), (2);
                INSERT INTO b VALUES (1, 1), (2, 2);',
            'b',
            'a',
            [['a_id', 'id']],
        )->cardinality();

        self::assertSame([End::NoneOrMore, End::NoneOrOne], [$ends?->from, $ends?->to]);
        self::assertSame([End::One, End::One], [$full?->from, $full?->to]);
        self::assertNull(
            self::observed(
                'CREATE TABLE a (id integer PRIMARY KEY); CREATE TABLE b (id integer PRIMARY KEY, a_id integer);',
                'b',
                'a',
                [['a_id', 'id']],
            )->cardinality(),
        );
    }

    public function testOnlyRowsWithTheConditionTakePart(): void
    {
        $figures = self::observed(self::MADE, 'reading', 'station', [['station_id', 'id']], ['kind', 'a']);

        self::assertSame([4, 1, 0, 2], [$figures->rows, $figures->empty, $figures->orphans, $figures->used]);
    }

    public function testTypesThatDifferAreComparedByTheirTexts(): void
    {
        $figures = self::observed(self::MADE, 'reading', 'station', [['code', 'id']]);

        self::assertSame([8, 1, 4], [$figures->rows, $figures->empty, $figures->orphans], '01 is not 1');
    }

    public function testAnEndThatIsNoKeyMultipliesAndIsSaid(): void
    {
        $figures = self::observed(
            "CREATE TABLE a (id integer PRIMARY KEY, code text); CREATE TABLE b (id integer PRIMARY KEY, code text);
                INSERT INTO a VALUES (1, 'x'), (2, 'x'), (3, 'y'); INSERT INTO b VALUES (1, 'x'), (2, 'y');",
            'b',
            'a',
            [['code', 'code']],
        );

        self::assertSame([2, 0, 1, 2], [$figures->rows, $figures->orphans, $figures->repeated, $figures->used]);
        self::assertTrue($figures->cardinality()?->to->many());
    }

    public function testPersonalValuesAreNotKept(): void
    {
        $base = new Base(self::MADE);
        $figures = (new Observing($base, Dialects::of('sqlite')))->of(
            self::table($base, 'reading'),
            self::table($base, 'station'),
            [['station_id', 'id']],
            null,
            true,
        );

        self::assertSame([], $figures->examples);
        self::assertSame('', $figures->densest[0]['value']);
        self::assertSame(3, $figures->densest[0]['rows']);
    }

    public function testAJoinOfSeveralFieldsIsCountedByAllOfThem(): void
    {
        $figures = self::observed(
            "CREATE TABLE m (lab text, code text, PRIMARY KEY (lab, code)); CREATE TABLE r (id integer PRIMARY KEY, lab text, code text);
                INSERT INTO m VALUES ('A', '1'), ('A', '2'), ('B', '1'); INSERT INTO r VALUES (1, 'A', '1'), (2, 'A', '1'), (3, 'B', '2'), (4, 'B', NULL);",
            'r',
            'm',
            [['lab', 'lab'], ['code', 'code']],
        );

        self::assertSame([4, 1, 1, 1, ['B, 2']], [$figures->rows, $figures->empty, $figures->orphans, $figures->used, $figures->examples]);
    }

    public function testFiguresComeBackFromWhatIsKept(): void
    {
        $figures = self::observed(self::MADE, 'reading', 'station', [['station_id', 'id']]);
        $kept = json_decode(json_encode($figures->toArray(), \JSON_THROW_ON_ERROR), true);

        self::assertEquals($figures, JoinFigures::fromArray(\is_array($kept) ? $kept : []));
    }

    /**
     * @param non-empty-list<array{string, string}> $pairs
     * @param array{string, string}|null            $where
     */
    private static function observed(string $sql, string $from, string $to, array $pairs, ?array $where = null): JoinFigures
    {
        $base = new Base($sql);

        return (new Observing($base, Dialects::of('sqlite')))->of(self::table($base, $from), self::table($base, $to), $pairs, $where);
    }

    private static function table(Base $base, string $name): Table
    {
        foreach ($base->catalog()->tables as $table) {
            if ($table->name === $name) {
                return $table;
            }
        }
        throw new \LogicException("There is no $name.");
    }
}
