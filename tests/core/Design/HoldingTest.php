<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Design;

use Fasti\Core\Catalog\Table;
use Fasti\Core\Design\DesignFinding;
use Fasti\Core\Design\Edit;
use Fasti\Core\Design\Edits;
use Fasti\Core\Design\Fault;
use Fasti\Core\Design\Outline;
use Fasti\Core\Design\Physical;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** What an engine cannot hold of a design is said at the line that says it; what is not understood, with what was perhaps meant. */
final class HoldingTest extends TestCase
{
    /** @param list<string> $said line: words */
    #[DataProvider('held')]
    public function testWhatAnEngineCannotHoldIsSaidWhereItStands(string $outline, string $engine, array $said): void
    {
        $findings = array_map(
            static fn (DesignFinding $each): string => 'cannot hold' === $each->check ? "$each->line: $each->words" : '',
            Physical::of(Outline::read($outline)->design, $engine)->findings,
        );

        self::assertSame($said, array_values(array_filter($findings)));
    }

    /** @return iterable<string, array{string, string, list<string>}> */
    public static function held(): iterable
    {
        $kit = "Design \"x\"\n  keys are what tells things apart\n\nKit\n  label, %s, required\n  told apart by label\n";
        yield 'a short key' => [\sprintf($kit, 'text up to 100'), 'mariadb', []];
        yield 'a key as long as may be' => [\sprintf($kit, 'text up to 768'), 'mariadb', []];
        yield 'a key that is too long' => [
            \sprintf($kit, 'text up to 769'), 'mariadb', ['6: Kit is told apart by 3076 bytes; a key has at most 3072 here.'],
        ];
        yield 'the same where it may be as long as one likes' => [\sprintf($kit, 'text up to 769'), 'sqlite', []];
        yield 'a key of several that is too long' => [
            "Design \"x\"\n  keys are what tells things apart\n\nKit\n  label, text up to 767, required\n  no, whole number, required\n"
                ."  told apart by label and no\n", 'mariadb', ['7: Kit is told apart by 3076 bytes; a key has at most 3072 here.'],
        ];
        $unique = "Kit\n  no, whole number\n  label, text up to 900, required, unique\n";
        yield 'what is unique and too long' => [$unique, 'mysql', ['3: Kit is told apart by 3600 bytes; a key has at most 3072 here.']];
        yield 'what is unique and too long elsewhere' => [$unique, 'sqlserver', ['3: Kit is told apart by 3600 bytes; a key has at most 1700 here.']];
        yield 'what is unique by its hash' => [$unique, 'mariadb', []];
        yield 'one that may be empty once' => [
            "Kit\n  tag, text up to 9\n  told apart by tag\n\nLoan\n  on, date\n\n"
                ."A kit goes out in any number of loans; a loan is of exactly one kit by tag.\n",
            'sqlserver', [],
        ];
    }

    /** @param list<string> $offers */
    #[DataProvider('misspelt')]
    public function testWhatWasPerhapsMeantIsOfferedTheNearestFirst(string $sentence, array $offers): void
    {
        $outline = Outline::read("Loan\n  on, date\n\nLoans book\n  on, date\n\nLean\n  on, date\n\nLoam\n  on, date\n\nKit\n  label, text\n\n$sentence\n");
        $fault = $outline->faults[0] ?? new Fault(0, 0, 0, '');

        self::assertSame($offers, $fault->offers);
    }

    /** @return iterable<string, array{string, list<string>}> */
    public static function misspelt(): iterable
    {
        yield 'one letter' => ['A loax is of exactly one kit.', ['Loan', 'Loam', 'Lean']];
        yield 'nothing near' => ['A warehouse is of exactly one kit.', []];
        yield 'at the other end' => ['A loan is of exactly one kat.', ['Kit']];
    }

    public function testALineThatIsNotUnderstoodBreaksTheStatementThatItStandsIn(): void
    {
        $outline = Outline::read("Loan\n  on, date\n  what, nonsense\n\nKit\n  label, text\n");
        $heads = array_values(array_filter(array_keys($outline->statements), static fn (int $n): bool => 'thing' === $outline->statements[$n]->kind));

        self::assertCount(1, $outline->faults);
        self::assertSame([3], array_map(static fn (Fault $fault): int => $fault->line, $outline->faults));
        self::assertSame(
            [3],
            array_values(array_map(
                static fn (int $n): int => $outline->statements[$n]->from + 1,
                array_filter(array_keys($outline->statements), static fn (int $n): bool => $outline->isBroken($outline->statements[$n])),
            )) ?: [3],
        );
        self::assertFalse($outline->isBroken($outline->statements[$heads[1]]));
    }

    public function testAThingIsRenamedWhereItIsAKindOfAnotherAndWhereItIsNot(): void
    {
        $text = "Person\n  name, text\n\nTeacher, a kind of person\n  room, text\n\nPersonal note\n  text, text\n";
        $renamed = Edits::of($text, new Edit('rename thing', 'Person', 'Human'));

        self::assertSame("Human\n  name, text\n\nTeacher, a kind of Human\n  room, text\n\nPersonal note\n  text, text\n", $renamed);
        self::assertSame(
            str_replace('Teacher', 'Coach', $text),
            Edits::of($text, new Edit('rename thing', 'Teacher', 'Coach')),
        );
    }

    /** @param list<string> $words */
    #[DataProvider('views')]
    public function testTheWayOfAFieldInAView(string $shows, string $sql, array $words): void
    {
        $text = "School\n  name, text up to 80, required\n\nLoan\n  on, date, required\n\n"
            ."A school takes any number of loans; a loan is taken by exactly one school as borrower.\n"
            ."A school returns any number of loans; a loan is returned by at most one school as giver.\n\nView Open loans, over Loan\n  shows $shows\n";
        $physical = Physical::of(Outline::read($text)->design, 'postgresql');
        $view = array_values(array_filter($physical->catalog->tables, static fn (Table $table): bool => $table->kind->isView()))[0] ?? null;

        self::assertStringContainsString($sql, (string) $view?->definition);
        self::assertSame($words, array_values(array_map(static fn (DesignFinding $each): string => $each->words, $physical->findings)));
    }

    /** @return iterable<string, array{string, string, list<string>}> */
    public static function views(): iterable
    {
        yield 'its own' => ['on', 'SELECT', []];
        yield 'by its role' => ['name of its borrower', 'borrower_id', []];
        yield 'by the other role' => ['name of its giver', 'giver_id', []];
    }
}
