<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Model;

use Fasti\Core\Model\Asking;
use Fasti\Core\Model\Condition;
use Fasti\Core\Model\Ground;
use Fasti\Core\Model\NamedValues;
use Fasti\Core\Model\Planner;
use Fasti\Core\Model\Test;
use Fasti\Core\Model\Trial;
use Fasti\Core\Model\UnknownValue;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;

/** What a condition names and no row has is said, so that nobody takes a misspelling for nothing. */
final class NamedValuesTest extends TestCase
{
    /** @param list<string> $said */
    #[DataProvider('conditions')]
    public function testAValueThatNoRowHasIsSaidWithTheNearest(Condition $condition, array $said): void
    {
        $answer = (new Asking(River::rows()))->answer(River::planner()->plan(new Trial(['individuals'], [], [$condition])));

        self::assertSame($said, array_map(static fn (UnknownValue $one): string => $one->inWords(), $answer->unknown));
    }

    /** @return iterable<string, array{Condition, list<string>}> */
    public static function conditions(): iterable
    {
        yield 'one that is there' => [new Condition('reach', Test::Is, ['upper']), []];
        yield 'a misspelt one' => [new Condition('reach', Test::Is, ['uper']), ['No row of reach has “uper” as its reach. The nearest: “upper”.']];
        yield 'one of several' => [
            new Condition('reach', Test::Is, ['upper', 'Lowr', 'lower']), ['No row of reach has “Lowr” as its reach. The nearest: “lower”.'],
        ];
        yield 'what is not' => [new Condition('reach', Test::IsNot, ['nowhere']), ['No row of reach has “nowhere” as its reach.']];
        yield 'with signs in it' => [new Condition('reach', Test::Is, ["o'clock \\"]), ["No row of reach has “o'clock \\” as its reach."]];
        yield 'no text' => [new Condition('year of day', Test::Is, ['1812']), []];
        yield 'no names' => [new Condition('reach', Test::Begins, ['zz']), []];
    }

    public function testOfALongListTheFirstHaveTheirNearestAndOfAVeryLongOneNobodyAsks(): void
    {
        $asked = static fn (int $many): array => (new Asking(River::rows()))->answer(River::planner()->plan(new Trial(['individuals'], [], [
            new Condition('reach', Test::Is, array_map(static fn (int $i): string => 'uppe'.$i, range(1, $many))),
        ])))->unknown;

        self::assertSame([1, 1, 1, 1, 1, 0, 0], array_map(static fn (UnknownValue $one): int => \count($one->nearest), $asked(7)));
        self::assertCount(30, $asked(30));
        self::assertCount(0, $asked(31));
    }

    public function testWhatMayNotBeSeenIsNotOffered(): void
    {
        $trial = new Trial(['individuals'], [], [new Condition('reach', Test::Is, ['uper'])]);
        $unknown = (new Asking(River::rows()))->answer(River::planner()->plan($trial))->unknown[0];

        self::assertSame('No row of reach has “uper” as its reach.', $unknown->inWords(true));
        self::assertSame(['reach reach_name'], array_map(static fn ($use): string => "$use->role $use->column", $unknown->named->fields));
    }

    #[TestWith([200000, 1])]
    #[TestWith([200001, 0])]
    public function testTablesOfVeryManyRowsAreNotGoneThrough(int $rows, int $many): void
    {
        $planner = new Planner(new Ground(River::model(), River::catalog(rows: ['reach' => $rows])), new \DateTimeImmutable('2026-01-01'));

        self::assertCount($many, $planner->plan(new Trial(['individuals'], [], [new Condition('reach', Test::Is, ['upper'])]))->named);
    }

    /** @param list<string> $nearest */
    #[TestWith(['eal', ['eel', 'seal']])]
    #[TestWith(['EEL ', ['eel']])]
    #[TestWith(['brown', ['brown trout']])]
    #[TestWith(['brown trout, large', ['brown trout']])]
    #[TestWith(['zander', []])]
    #[TestWith(['x', []])]
    public function testTheLikestComeFirst(string $value, array $nearest): void
    {
        self::assertSame($nearest, NamedValues::nearest($value, ['brown trout', 'eel', 'seal', 'grayling', '', 'chub']));
    }
}
