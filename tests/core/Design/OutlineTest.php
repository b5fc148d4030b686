<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Design;

use Fasti\Core\Design\Attribute;
use Fasti\Core\Design\Count;
use Fasti\Core\Design\Fault;
use Fasti\Core\Design\Formatting;
use Fasti\Core\Design\Outline;
use Fasti\Core\Design\OutlineWriter;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class OutlineTest extends TestCase
{
    public function testAnOutlineSaysThingsAttributesAndSentences(): void
    {
        $outline = Outline::read(<<<'TEXT'
            Design "Lending", what is lent
              for SQLite
              keys are UUIDs of their own

            School, one row per school, that may borrow
              name, text up to 80, required
              told apart by name

            Kit
              state, one of ready, lent, "in repair, soon"; ready unless given
              value, number from −99.99 to 9,999.99, measured in crowns

            A school takes any number of kits as "home kit" through kit of it; a kit is taken by 2 to 4 schools.
              since, date
            TEXT);

        self::assertSame([], $outline->faults);
        $design = $outline->design;
        self::assertSame(['Lending', 'what is lent', 'sqlite', 'uuid'], [$design->name, $design->purpose, $design->engine, $design->rules->of('keys')]);
        self::assertSame('school, that may borrow', $design->thing('schools')?->grain);
        self::assertSame(['ready', 'lent', 'in repair, soon'], $design->thing('Kit')?->attribute('state')?->type->members);
        self::assertSame('-99.99', $design->thing('kit')?->attribute('value')?->type->from);
        $join = $design->joins[0];
        self::assertSame(['School', 'takes', 'Kit', 'is taken by', 'home kit'], [$join->from, $join->verb, $join->to, $join->verbBack, $join->role]);
        self::assertEquals([new Count(0, null), new Count(2, 4)], [$join->count, $join->countBack]);
        self::assertSame('since', $join->attributes[0]->name);
    }

    public function testWhatReadsLikeMoreIsANameOnceQuotedAndComesBackQuoted(): void
    {
        $text = "Visit\n  \"not before opened on\", date\n  \"unique\", yes or no\n  before value, date\n  \"at least\", whole number\n";
        $outline = Outline::read($text);

        self::assertSame([], array_map(strval(...), $outline->faults));
        $names = array_map(static fn (Attribute $each): string => $each->name, $outline->design->thing('Visit')->attributes ?? []);
        self::assertSame(['not before opened on', 'unique', 'before value', 'at least'], $names);
        self::assertStringContainsString("\n  \"not before opened on\", date\n  \"unique\",", OutlineWriter::design($outline->design));
    }

    public function testAtLeastIsACount(): void
    {
        $outline = Outline::read("Kit\n\nLoan\n\nA kit stands in at least one loan; a loan is of at least 2 kits.\n");

        self::assertSame([], array_map(strval(...), $outline->faults));
        self::assertEquals([new Count(1, null), new Count(2, null)], [$outline->design->joins[0]->count, $outline->design->joins[0]->countBack]);
        self::assertStringContainsString('A kit stands in one or more loans; a loan is of 2 or more kits.', OutlineWriter::design($outline->design));
    }

    public function testAFaultInPrintTellsWhatWouldBeUnderstood(): void
    {
        $fault = (string) Outline::read("Design \"A\"\n  keys are UUIDs\n")->faults[0];

        self::assertStringContainsString('Line 2: “keys are UUIDs” is no rule. Here would be understood: keys are UUIDs of their own;', $fault);
    }

    /** @param list<string> $offers */
    #[DataProvider('faults')]
    public function testWhatIsNotUnderstoodIsSaidWithItsPlace(string $text, int $line, int $column, string $words, array $offers = []): void
    {
        $faults = Outline::read($text)->faults;

        self::assertCount(1, $faults, implode("\n", array_map(strval(...), $faults)));
        self::assertSame([$line, $column], [$faults[0]->line, $faults[0]->column], $faults[0]->message);
        self::assertStringContainsString($words, $faults[0]->message);
        self::assertSame($offers, \array_slice($faults[0]->offers, 0, \count($offers)));
    }

    /** @return iterable<string, array{0: string, 1: int, 2: int, 3: string, 4?: list<string>}> */
    public static function faults(): iterable
    {
        yield 'said of no attribute' => ["Visit\n  at, date\n  not before opened on", 3, 2, 'stands on that attribute’s line', ['"not before opened on"']];
        yield 'a word alone' => ["Visit\n  required", 2, 2, 'stands on that attribute’s line', ['"required"']];
        yield 'a type that is none' => ["Loan\n  returned, dat", 2, 12, 'is no type', ['date']];
        yield 'a clause that is none' => ["Loan\n  returned, date, requird", 2, 18, 'says nothing of “returned”', ['required']];
        yield 'a thing that nobody wrote' => ["Loan\nA loan is of exactly one kitt.", 2, 0, 'No thing is called “kitt”'];
        yield 'no count' => ["Loan\nKit\nA loan is of kits.", 3, 0, 'How many?'];
        yield 'the same attribute twice' => ["Loan\n  due, date\n  due, text", 3, 2, 'has “due” already, in line 2'];
        yield 'a quotation mark without end' => ["Loan\n  \"due, date", 2, 2, 'never closed'];
        yield 'something further in, below nothing' => ['  due, date', 1, 2, 'nothing that it could belong to'];
        yield 'a rule that is none' => ["Design \"x\"\n  keys are nice", 2, 2, 'is no rule'];
        yield 'a value that would end its list' => ["Kit\n  state, one of open, required", 2, 22, 'A semicolon ends them'];
        yield 'halves that do not meet' => ["Loan\nKit\nReach\nA loan is of exactly one kit; a reach has any number of loans.", 4, 30, 'the other way round'];
    }

    public function testTheRestOfABrokenOutlineIsRead(): void
    {
        $outline = Outline::read("Loan\n  due, dat\n  lent, date\nKit\n  label, text of 4\nnonsense is, nonsense\nA loan is of exactly one kit.");

        self::assertSame(['Loan', 'Kit'], \array_slice(array_map(static fn ($thing): string => $thing->name, $outline->design->things), 0, 2));
        self::assertCount(1, $outline->design->joins);
        self::assertCount(2, $outline->faults);
    }

    public function testNothingIsTooOddToBeRead(): void
    {
        foreach (["\0", '"', '$$', '$a$ $b$', ',,,;;', str_repeat('a', 100000), str_repeat("A b c d e.\n", 200), "A\n ;",
            "\u{E000}", "Design\n Design", ' ', "x\n\t,\n",
            'A a any number of a; a a any number of', "View \n  shows", 'Ask', 'Values of', "a, one row per\n  told apart by", "K\n  looked up by and",
            "K\n   depends on",
        ] as $odd) {
            $outline = Outline::read($odd);
            $covered = 0;
            foreach ($outline->statements as $statement) {
                self::assertSame($covered, $statement->from, $odd);
                $covered = $statement->to + 1;
            }
            self::assertSame(\count($outline->lines), $covered, 'Each line belongs to a statement.');
            self::assertContainsOnlyInstancesOf(Fault::class, $outline->faults);
        }
    }

    public function testMadeUpDesignsAreTheSameAfterTheirOutline(): void
    {
        for ($seed = 0; $seed < 300; ++$seed) {
            $design = RandomDesign::of($seed);
            $text = OutlineWriter::design($design);
            $outline = Outline::read($text);
            self::assertSame([], array_map(strval(...), $outline->faults), "Design $seed\n$text");
            self::assertSame($text, OutlineWriter::design($outline->design), "Design $seed");
            self::assertSame(self::bare($design), self::bare($outline->design), "Design $seed\n$text");
            self::assertSame($text, Formatting::of($text), "Design $seed");
        }
    }

    public function testFormattingKeepsCommentsOrderAndWhatIsNotUnderstood(): void
    {
        $text = "-- begins\nKit ,one row  per box\n      label,text of   4 ,required\n  -- which is it?\n  state, nonsense\n\n\n\nA kit   holds any number "
            ."of kits as spare .\n   called a spare\n";

        self::assertSame(
            "-- begins\nKit, one row per box\n  label, text of 4, required\n  -- which is it?\n  state, nonsense\n\n"
            ."A kit holds any number of kits as spare.\n  called a spare\n",
            Formatting::of($text),
        );
    }

    private static function bare(mixed $of): mixed
    {
        if (\is_object($of)) {
            $all = get_object_vars($of);
            unset($all['line']);

            return [$of::class => self::bare($all)];
        }

        return \is_array($of) ? array_map(self::bare(...), $of) : $of;
    }
}
