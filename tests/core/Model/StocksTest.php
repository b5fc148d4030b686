<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Model;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Catalog\Place;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Model\Additivity;
use Fasti\Core\Model\Aggregate\Sum;
use Fasti\Core\Model\Answer;
use Fasti\Core\Model\Asking;
use Fasti\Core\Model\Attribute;
use Fasti\Core\Model\Ground;
use Fasti\Core\Model\Instead;
use Fasti\Core\Model\Level;
use Fasti\Core\Model\Measure;
use Fasti\Core\Model\Model;
use Fasti\Core\Model\Planner;
use Fasti\Core\Model\Role;
use Fasti\Core\Model\RoleKind;
use Fasti\Core\Model\Trial;
use Fasti\Tests\Core\Join\Base;
use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;

/** What lies in store on the last day: of all, or of each depot's own; and what the total is then. */
final class StocksTest extends TestCase
{
    /** The south counted on the last day of January and never again; the north on each. */
    private const ROWS = "CREATE TABLE count (id integer PRIMARY KEY, depot text, day date, kits integer);
        INSERT INTO count VALUES (1, 'north', '2026-01-30', 5), (2, 'north', '2026-01-31', 7), (3, 'south', '2026-01-31', 3), (4, 'north', '2026-02-01', 8),
            (5, 'north', '2026-02-02', 6), (6, 'west', NULL, 9);";

    /**
     * @param list<string>        $by
     * @param list<list<?string>> $rows
     * @param list<string>        $said
     */
    #[TestWith([Instead::Last, ['depot'], [['north', '6'], ['south', '3'], ['west', '9']], '6', [
        '“kits” does not add up: in all it is of the last day of all, and each row has its own last.',
    ]])]
    #[TestWith([Instead::LastOfAll, ['depot'], [['north', '6'], ['south', null], ['west', null]], '6', []])]
    #[TestWith([Instead::First, ['depot'], [['north', '5'], ['south', '3'], ['west', '9']], '5', [
        '“kits” does not add up: in all it is of the first day of all, and each row has its own first.',
    ]])]
    #[TestWith([Instead::FirstOfAll, ['depot'], [['north', '5'], ['south', null], ['west', null]], '5', []])]
    #[TestWith([Instead::LastOfAll, ['month'], [['1', '10'], ['2', '6'], [null, '9']], '6', [
        '“kits” does not add up: in all it is of the last day of all, and each row of the last within its own time.',
    ]])]
    #[TestWith([Instead::LastOfAll, ['month', 'depot'], [
        ['1', 'north', '7'], ['1', 'south', '3'], ['2', 'north', '6'], [null, 'west', '9'],
    ], '6', ['“kits” does not add up: in all it is of the last day of all, and each row of the last within its own time.']])]
    #[TestWith([Instead::Greatest, ['depot'], [['north', '8'], ['south', '3'], ['west', '9']], '10', [
        '“kits” does not add up: in all it is the greatest over day of what all had together.',
    ]])]
    public function testOfWhichPointAFigureIs(Instead $instead, array $by, array $rows, string $total, array $said): void
    {
        $answer = self::asked($instead, $by);

        self::assertSame($rows, $answer->rows);
        self::assertSame($total, $answer->total['kits'] ?? null);
        self::assertTrue($answer->reconciled[0]->agrees());
        self::assertSame($said, $answer->notAdded());
    }

    public function testOneRowIsItsTotal(): void
    {
        $answer = self::asked(Instead::Last, []);

        self::assertSame([[['6']], []], [$answer->rows, $answer->notAdded()]);
    }

    public function testEachChoiceIsSaidToWhoeverMakesIt(): void
    {
        $words = array_map(static fn (Instead $one): string => $one->inWords(), Instead::cases());

        self::assertSame($words, array_unique($words));
        self::assertSame('the average', Instead::Average->inWords());
        self::assertStringContainsString('who has nothing then has none', Instead::LastOfAll->inWords());
    }

    /** @param list<string> $by */
    private static function asked(Instead $instead, array $by): Answer
    {
        $table = new Table('', 'count', TableType::Table, '', [
            new Column('id', 'integer', false), new Column('depot', 'text'), new Column('day', 'date'), new Column('kits', 'integer'),
        ], new Key(null, ['id']));
        $count = new Role('count', RoleKind::Fact, new Place('', 'count'), '', '', 'one row each', ['id'], '', [
            new Attribute('depot', 'depot'), new Attribute('day', 'day'), new Attribute('month', 'EXTRACT(MONTH FROM day)'),
        ]);
        $kits = new Measure(
            'kits', new Sum(), 'count', 'kits', adds: Additivity::SemiAdditive, notOver: ['count'], instant: new Level('count', 'day'), instead: $instead,
        );
        $ground = new Ground(new Model('Store', '', [$count], [], [$kits]), new Catalog('sqlite', '', [$table]));
        $plan = (new Planner($ground, new \DateTimeImmutable('2026-03-01')))->plan(new Trial(['kits'], $by));

        return (new Asking(new Base(self::ROWS)))->answer($plan);
    }
}
