<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Design;

use Fasti\Core\Catalog\Key;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Design\Checks;
use Fasti\Core\Design\DesignFinding;
use Fasti\Core\Design\DesignScript;
use Fasti\Core\Design\Outline;
use Fasti\Core\Design\Physical;
use Fasti\Core\Design\Working;
use Fasti\Core\Dialect\ScriptOptions;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** What follows from things and sentences, and what is noticed. */
final class WorkingTest extends TestCase
{
    private const KITS = "Kit\n  label, text of 4, required, unique\n\nLoan\n  lent on, date, required\n\n";

    private static function table(string $outline, string $name, string $engine = 'postgresql'): Table
    {
        $read = Outline::read($outline);
        self::assertSame([], array_map(strval(...), $read->faults));
        foreach (Physical::of($read->design, $engine)->catalog->tables as $table) {
            if ($table->name === $name) {
                return $table;
            }
        }
        self::fail("There is no table $name.");
    }

    /** @return list<string> */
    private static function columns(Table $table): array
    {
        return array_map(static fn ($column): string => $column->name, $table->columns);
    }

    public function testTheKeyOfAParentComesIntoItsChild(): void
    {
        $loan = self::table(self::KITS.'A loan is of exactly one kit as spare kit; a kit goes out in any number of loans.', 'loan');

        self::assertSame(['id', 'spare_kit_id', 'lent_on'], self::columns($loan));
        self::assertFalse($loan->columns[1]->nullable);
        self::assertSame(['spare_kit_id'], $loan->foreignKeys[0]->columns);
        self::assertSame('kit', $loan->foreignKeys[0]->references->table);
        self::assertSame(['loan_spare_kit_id_idx'], array_map(static fn ($index): string => $index->name, $loan->indexes));
    }

    public function testManyAtBothEndsBecomesALinkThatIsTheSamePairOnce(): void
    {
        $outline = self::KITS."A loan is of one or more kits; a kit goes out in any number of loans.\n  condition, text up to 40\n";
        $link = self::table($outline, 'loan_kit');

        self::assertSame(['loan_id', 'kit_id', 'condition'], self::columns($link));
        self::assertSame(['loan_id', 'kit_id'], $link->primaryKey?->columns);
        $numbered = self::table($outline."  keyed by a number of its own\n", 'loan_kit');
        self::assertSame(['id'], $numbered->primaryKey?->columns);
        self::assertSame([['loan_id', 'kit_id']], array_map(static fn ($key): array => $key->columns, $numbered->uniqueKeys));
        $again = self::table($outline."  the same two may be linked again\n", 'loan_kit');
        self::assertSame([], $again->uniqueKeys);
    }

    /**
     * @param list<string> $expected
     */
    #[DataProvider('rules')]
    public function testARuleChangesWhatFollows(string $rule, string $table, array $expected): void
    {
        $outline = "Design \"x\"\n  $rule\n\n"
            .self::KITS."Box, a kind of kit\n  lid, text up to 9\n\nA loan is of exactly one kit; a kit goes out in any number of loans.";

        self::assertSame($expected, self::columns(self::table($outline, $table)));
    }

    /** @return iterable<string, array{string, string, list<string>}> */
    public static function rules(): iterable
    {
        yield 'numbers' => ['keys are numbers of their own', 'loan', ['id', 'kit_id', 'lent_on']];
        yield 'natural keys' => ['keys are what tells things apart', 'loan', ['id', 'kit_label', 'lent_on']];
        yield 'keys called after the thing' => ['keys of their own are called after the thing', 'loan', ['loan_id', 'kit_id', 'lent_on']];
        yield 'capitals' => ['names are in capitals with underscores', 'LOAN', ['ID', 'KIT_ID', 'LENT_ON']];
        yield 'run together' => ['names are run together with a small letter first', 'loan', ['id', 'kitId', 'lentOn']];
        yield 'plural' => ['tables are named in the plural', 'loans', ['id', 'kit_id', 'lent_on']];
        yield 'a prefix' => ['tables begin with "tr_"', 'tr_loan', ['id', 'kit_id', 'lent_on']];
        yield 'when' => ['rows say when they were made and changed', 'loan', ['id', 'kit_id', 'lent_on', 'created_at', 'changed_at']];
        yield 'when, called otherwise' => [
            'rows say when they were made and changed, as entered on and altered on', 'loan', ['id', 'kit_id', 'lent_on', 'entered_on', 'altered_on'],
        ];
        yield 'versions' => ['rows count their changes', 'loan', ['id', 'kit_id', 'lent_on', 'version']];
        yield 'a table for each kind' => ['kinds have a table each, and the whole has none', 'box', ['id', 'label', 'lid']];
        yield 'one table for kinds' => ['kinds share the table of the whole', 'kit', ['id', 'label', 'lid', 'kind']];
        yield 'kinds beside the whole' => ['kinds add a table to that of the whole', 'box', ['id', 'lid']];
    }

    public function testWhereOneRowOnlyMayBeEmptyAKeyIsGuardedSoThatMoreMay(): void
    {
        $said = "Kit\n  label, text up to 9, required, unique\n  tag, text up to 9, unique\n";
        $kit = Physical::of(Outline::read($said)->design, 'sqlserver')->catalog->tables[0];

        self::assertSame([['label']], array_map(static fn (Key $key): array => $key->columns, $kit->uniqueKeys));
        self::assertSame(['kit_tag_key', true, 'tag IS NOT NULL'], [$kit->indexes[0]->name, $kit->indexes[0]->unique, $kit->indexes[0]->where]);
        $plain = Physical::of(Outline::read($said)->design, 'postgresql')->catalog->tables[0];
        self::assertSame([['label'], ['tag']], array_map(static fn (Key $key): array => $key->columns, $plain->uniqueKeys));

        $led = $said."\nLoan\n  on, date, required\n\nA kit goes out in any number of loans; a loan is of exactly one kit through tag to tag.\n";
        $physical = Physical::of(Outline::read($led)->design, 'sqlserver');
        self::assertContains(['label'], array_map(static fn (Key $key): array => $key->columns, $physical->catalog->tables[0]->uniqueKeys));
    }

    public function testAnOptionalPartOfAKeyIsToldWhereTheEngineComparesTheRest(): void
    {
        $said = "Kit\n  label, text up to 9, required\n  shelf, text up to 9\n  told apart by label and shelf\n";
        $words = static fn (string $engine): string => implode("\n", array_map(
            static fn (DesignFinding $each): string => $each->words,
            Physical::of(Outline::read($said)->design, $engine)->findings,
        ));

        self::assertStringContainsString('equal in all but shelf, which is empty in both, are refused', $words('oracle'));
        self::assertStringNotContainsString('shelf', $words('mariadb'));
    }

    public function testWhatMayBeEmptyTellsNothingApart(): void
    {
        $said = static function (string $outline): array {
            $design = Outline::read($outline)->design;

            return array_map(static fn (DesignFinding $each): string => $each->line.' '.$each->words, Checks::of($design, Working::of($design)));
        };
        $text = "Kit\n  label, text up to 9, required\n  shelf, text up to 9\n  told apart by label and shelf\n";

        self::assertSame(['4 Two kits are not told apart where shelf is empty: the same one may be entered twice.'], $said($text));
        self::assertSame([], $said($text."  told apart by label\n"));
        self::assertSame([], $said(str_replace('shelf, text up to 9', 'shelf, text up to 9, required', $text)));
    }

    public function testASecondWayForWhatFollowsADeletionIsRefusedWhereTheEngineTakesOne(): void
    {
        $said = "School\n\nTeacher\n\nLoan\n\n"
            ."A school has any number of teachers; a teacher is at exactly one school.\n  deleting a school deletes its teachers\n"
            ."A teacher signs any number of loans; a loan is signed by exactly one teacher.\n  deleting a teacher deletes its loans\n"
            ."A school takes any number of loans; a loan is taken by exactly one school.\n  deleting a school deletes its loans\n"
            ."A loan follows at most one loan; a loan is followed by any number of loans as \"former\".\n";
        $outline = Outline::read($said);
        self::assertSame([], array_map(strval(...), $outline->faults));
        $actions = static function (Physical $physical): array {
            $actions = [];
            foreach ($physical->catalog->tables as $table) {
                foreach ($table->foreignKeys as $key) {
                    $actions[$table->name.' → '.$key->references->table] = $key->onDelete;
                }
            }
            ksort($actions);

            return $actions;
        };
        $physical = Physical::of($outline->design, 'sqlserver');

        self::assertSame(
            ['loan → loan' => 'NO ACTION', 'loan → school' => 'NO ACTION', 'loan → teacher' => 'CASCADE', 'teacher → school' => 'CASCADE'],
            $actions($physical),
        );
        $words = implode("\n", array_map(static fn (DesignFinding $each): string => $each->words, $physical->findings));
        self::assertStringContainsString('Deleting or changing a school would reach loans a second time', $words);
        self::assertSame('CASCADE', $actions(Physical::of($outline->design, 'postgresql'))['loan → school']);
    }

    public function testALongNameIsCutAndAReservedOneIsSaid(): void
    {
        $name = str_repeat('instrument that is lent ', 4);
        $physical = Physical::of(Outline::read(trim($name)."\n  order, date\n\nOrder\n  label, date")->design, 'postgresql');
        foreach ($physical->catalog->tables as $table) {
            self::assertLessThanOrEqual(63, \strlen($table->name));
            self::assertLessThanOrEqual(63, \strlen((string) $table->primaryKey?->name));
        }
        self::assertContains('reserved', array_map(static fn (DesignFinding $finding): string => $finding->check, $physical->findings));
        self::assertStringContainsString('"order"', (new DesignScript($physical))->text(new ScriptOptions()));
    }

    /** @param list<string> $expected */
    #[DataProvider('noticed')]
    public function testWhatIsNoticed(string $outline, array $expected): void
    {
        $read = Outline::read($outline);
        self::assertSame([], array_map(strval(...), $read->faults));
        $found = array_map(
            static fn (DesignFinding $finding): string => $finding->line.' '.$finding->check,
            Checks::of($read->design, Working::of($read->design)),
        );

        self::assertSame($expected, $found);
    }

    /** @return iterable<string, array{string, list<string>}> */
    public static function noticed(): iterable
    {
        $a = "A\n  n, text, required, unique\n";
        $b = "B\n  m, text, required, unique\n";
        $one = "An A holds any number of Bs; a B lies in exactly one A.\n";
        yield 'nothing' => [$a.$b.$one, []];
        yield 'nothing tells apart' => ["Reach\n  n, text\n", ['1 told apart']];
        yield 'no way between halves' => [$a.$b, ['3 no way']];
        yield 'a repeated group' => ["Reach\n  n, text, required, unique\n  phone 1, text\n  phone 2, text\n", ['3 repeated']];
        yield 'several values at once' => ["Reach\n  n, text, required, unique\n  colours, any of red, blue\n", ['3 several values']];
        yield 'a part of the key' => [
            "Reach\n  p, text, required\n  q, text, required\n  town, text\n  told apart by p and q\n  town depends on p\n", ['6 second form'],
        ];
        yield 'what is no key' => ["Reach\n  p, text, required\n  code, text\n  town, text\n  told apart by p\n  town depends on code\n", ['6 third form']];
        yield 'a key by way of others' => [
            "Reach\n  p, text, required\n  c, text, required\n  t, text\n  told apart by p\n  p depends on c\n  t depends on c\n",
            [],
        ];
        yield 'an attribute of the join' => [
            "Loan\n  n, text, required, unique\n  kit condition, text\n".str_replace('B', 'Kit', $b)
                ."A loan is of any number of kits; a kit is in any number of loans.\n",
            ['3 belongs to the join'],
        ];
        yield 'always, and yet emptied' => [$a.$b.$one."  deleting an A empties its Bs\n", ['5 against a rule']];
        yield 'names that differ by style' => [
            "Reach\n  e-mail, text, required, unique\nPerson\n  email, text, required, unique\n"
            .'A reach has any number of persons; a person is of exactly one reach.', ['4 style only'],
        ];
        yield 'a count that no table holds' => [$a.$b."An A holds 2 to 4 Bs; a B lies in exactly one A.\n", ['5 not held']];
        yield 'one way only' => [$a.$b."A B lies in exactly one A.\n", ['5 one way']];
        yield 'parents that need each other' => [$a.$b.$one."A B knows any number of As as friend; an A is known by exactly one B.\n", ['6 needs itself']];
        yield 'said twice' => [$a.$b.$one.$one, ['6 said twice']];
        yield 'a personal key' => [
            "Design \"x\"\n  keys are what tells things apart\nReach\n  p, text up to 9, personal\n  told apart by p\n",
            ['5 personal key'],
        ];
    }

    public function testALoopOfRequiredParentsIsWrittenInAnOrderThatRuns(): void
    {
        $outline = "A\n  n, text\nB\n  m, text\nAn A holds any number of Bs; a B lies in exactly one A.\nA B leads any number of As as led; an A is led by "
            ."exactly one B.\n";
        $script = (new DesignScript(Physical::of(Outline::read($outline)->design, 'postgresql')))->text(new ScriptOptions());

        self::assertStringContainsString('ALTER TABLE', $script);
        self::assertSame(2, substr_count($script, 'FOREIGN KEY'));
    }
}
