<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Design;

use Fasti\Core\Design\Completing;
use Fasti\Core\Design\Edit;
use Fasti\Core\Design\EditError;
use Fasti\Core\Design\Edits;
use Fasti\Core\Design\Merging;
use Fasti\Core\Design\Outline;
use Fasti\Core\Design\OutlineWriter;
use Fasti\Core\Design\RulePreview;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class EditsTest extends TestCase
{
    private const TEXT = <<<'TEXT'
        Design "Lending"

        -- who borrows
        School
          name, text up to 80, required
          -- it may move
          town, text
          told apart by name and town

        Loan
          lent on, date
          due on, date, not before lent on
          told apart by school and lent on
          looked up by due on

        A school takes any number of loans; a loan is taken by exactly one school.
          deleting a school deletes its loans

        Ask "Why?", of school
        TEXT;

    #[DataProvider('edits')]
    public function testAChangeTouchesTheLinesThatSayItAndNoOthers(Edit $edit, string $was, string $is): void
    {
        $expected = str_replace($was, $is, self::TEXT, $count);
        self::assertGreaterThan(0, $count);
        $text = Edits::of(self::TEXT, $edit);
        self::assertSame($expected, $text);
        self::assertSame([], array_map(strval(...), Outline::read($text)->faults));
    }

    /** @return iterable<string, array{Edit, string, string}> */
    public static function edits(): iterable
    {
        yield 'an attribute more' => [
            new Edit('add attribute', 'school', '', 'pupils, whole number', 'How many there are'), "  town, text\n",
            "  town, text\n  pupils, whole number, meaning \"How many there are\"\n",
        ];
        yield 'an attribute otherwise' => [new Edit('set attribute', 'School', 'town', 'town, text up to 60'), '  town, text', '  town, text up to 60'];
        yield 'an attribute away' => [new Edit('remove attribute', 'School', 'name'), "  name, text up to 80, required\n", ''];
        yield 'an attribute elsewhere' => [
            new Edit('move attribute', 'Loan', 'lent on', '1'), "  lent on, date\n  due on, date, not before lent on\n",
            "  due on, date, not before lent on\n  lent on, date\n",
        ];
        yield 'a thing more' => [
            new Edit('add thing', '', 'Kit', 'box that is lent'),
            "  looked up by due on\n",
            "  looked up by due on\n\nKit, one row per box that is lent\n",
        ];
        yield 'a grain' => [new Edit('set grain', 'School', '', 'one row per school'), "School\n", "School, one row per school\n"];
        yield 'a sentence otherwise' => [
            new Edit(
                'set sentence',
                '',
                '16',
                'A loan is taken by at most one school.',
            ), 'A school takes any number of loans; a loan is taken by exactly one school.',
            'A loan is taken by at most one school.',
        ];
        yield 'a sentence away' => [
            new Edit('remove sentence', '', '16'),
            "A school takes any number of loans; a loan is taken by exactly one school.\n  deleting a school deletes its loans\n\n", '',
        ];
        yield 'a rule' => [new Edit('set rule', '', 'keys', 'natural'), "Design \"Lending\"\n", "Design \"Lending\"\n  keys are what tells things apart\n"];
        yield 'an engine' => [new Edit('set engine', '', '', 'SQLite'), "Design \"Lending\"\n", "Design \"Lending\"\n  for SQLite\n"];
        yield 'a line that is said once' => [
            new Edit('say', '16', '', 'deleting a school is refused'),
            'deleting a school deletes its loans',
            'deleting a school is refused',
        ];
        yield 'a line away' => [new Edit('unsay', '16', '', 'deleting'), "  deleting a school deletes its loans\n", ''];
        yield 'a question' => [new Edit('ask', 'Loan', '', 'And then?'), 'of school', "of school\n\nAsk \"And then?\", of Loan"];
        yield 'a view' => [
            new Edit('add view', 'Loan', 'Open loans', "due on\nname of its school"), 'of school',
            "of school\n\nView Open loans, over Loan\n  shows due on\n  shows name of its school",
        ];
        yield 'an answer' => [new Edit('answer', 'Why?', 'the keeper', 'So.'), 'of school', "of school\n  answer \"So.\", by the keeper"];
    }

    public function testTheFirstSentenceStandsBehindTheThingsAndFurtherOnesBehindIt(): void
    {
        $edits = new Edits("Design \"d\"\n\nSchool\n  name, text\n\nLoan\n  on, date\n\nAsk \"Why?\"\n");
        $edits->addSentence('A school takes any number of loans.');
        self::assertSame(
            "Design \"d\"\n\nSchool\n  name, text\n\nLoan\n  on, date\n\nA school takes any number of loans.\n\nAsk \"Why?\"\n",
            $edits->text(),
        );
        $edits->addSentence('A loan follows at most one loan.');
        self::assertStringContainsString("loans.\nA loan follows at most one loan.\n", $edits->text());
        // What is done next stands on what was done before.
        $edits->removeSentence(9);
        $edits->removeThing('Loan');
        self::assertStringNotContainsString('loan', strtolower($edits->text()));
        self::assertStringContainsString("School\n  name, text\n", $edits->text());
    }

    public function testANameIsChangedWhereverItIsMentioned(): void
    {
        $text = Edits::of(self::TEXT, new Edit('rename thing', 'School', 'Borrowing school'));
        $text = Edits::of($text, new Edit('rename attribute', 'Loan', 'lent on', 'handed out on'));
        $text = Edits::of($text, new Edit('rename attribute', 'Loan', 'due on', 'back on'));

        self::assertSame([], array_map(strval(...), Outline::read($text)->faults));
        foreach (['told apart by Borrowing school and handed out on', 'not before handed out on', 'looked up by back on',
            'A borrowing school takes', 'exactly one borrowing school',
            'deleting a borrowing school deletes its loans', 'of Borrowing school', '-- it may move'] as $expected) {
            self::assertStringContainsString($expected, $text);
        }
        self::assertStringNotContainsString('lent on', $text);
    }

    public function testADesignThatBeganWithASourceRemembersWhatAFieldIsCalledThere(): void
    {
        $edit = new Edit('rename attribute', 'Loan', 'lent on', 'handed out on');
        $begun = static fn (string $clauses): string => "Design \"Lending\"\n  begun from library\n\nLoan\n  lent on, date$clauses\n";
        $line = static fn (string $text): string => explode("\n", Edits::of($text, $edit))[str_contains($text, 'begun') ? 4 : 3];

        self::assertSame('  handed out on, date, formerly "lent_on"', $line($begun('')));
        self::assertSame('  handed out on, date, formerly "LentOn"', $line($begun(', column "LentOn"')));
        // What it was called at first is kept, however often it changes.
        self::assertSame('  handed out on, date, formerly "was"', $line($begun(', formerly "was"')));
        self::assertSame('  handed out on, date', $line("Design \"Lending\"\n\nLoan\n  lent on, date\n"));
    }

    public function testALineThatIsNotUnderstoodStaysAsItIs(): void
    {
        $text = "Loan\n  lent, dat, whatever\n  due, date, not before lent, nonsense\n";

        self::assertSame(str_replace('Loan', 'Lending', $text), Edits::of($text, new Edit('rename thing', 'Loan', 'Lending')));
    }

    #[DataProvider('refused')]
    public function testAChangeThatCannotBeMadeSaysWhy(Edit $edit, string $words): void
    {
        $this->expectException(EditError::class);
        $this->expectExceptionMessageMatches('/'.preg_quote($words, '/').'/');
        Edits::of(self::TEXT, $edit);
    }

    /** @return iterable<string, array{Edit, string}> */
    public static function refused(): iterable
    {
        yield 'a thing twice' => [new Edit('add thing', '', 'Schools'), 'already'];
        yield 'no name' => [new Edit('add thing', '', '  '), 'needs a name'];
        yield 'an attribute twice' => [new Edit('set attribute', 'School', 'town', 'name, text'), 'has “name” already'];
        yield 'no type' => [new Edit('add attribute', 'School', '', 'size, bigg'), 'is no type'];
        yield 'nothing there' => [new Edit('remove thing', 'Kit'), 'There is no thing “Kit”'];
        yield 'no sentence' => [new Edit('add sentence', '', '', 'A school is nice.'), 'How many?'];
        yield 'an unknown rule' => [new Edit('set rule', '', 'colour', 'red'), 'no rule'];
    }

    public function testWhatTwoWroteInDifferentLinesIsPutTogether(): void
    {
        $mine = str_replace('town, text', 'town, text up to 60', self::TEXT);
        $theirs = str_replace('lent on, date', 'lent on, date, required', self::TEXT)."\n  answer \"So.\"";
        $merged = Merging::of(self::TEXT, $mine, $theirs);

        self::assertSame([], $merged->clashes);
        self::assertSame(str_replace('town, text', 'town, text up to 60', $theirs), $merged->text);
    }

    public function testLinesThatBothChangedAreForAPersonToDecide(): void
    {
        $merged = Merging::of(self::TEXT, str_replace('town, text', 'place, text', self::TEXT), str_replace('town, text', 'town, long text', self::TEXT));

        self::assertSame([['was' => ['  town, text'], 'mine' => ['  place, text'], 'theirs' => ['  town, long text']]], $merged->clashes);
        self::assertStringContainsString('town, long text', $merged->text);
        self::assertStringContainsString('place, text', $merged->mine);
    }

    public function testMergingLosesNoLineOfTwoThatDoNotMeet(): void
    {
        for ($seed = 0; $seed < 200; ++$seed) {
            mt_srand($seed);
            $base = array_map(static fn (int $n): string => "line $n", range(0, mt_rand(0, 12)));
            $a = self::changed($base, 'a');
            $b = self::changed($base, 'b');
            $merged = Merging::of(implode("\n", $base), implode("\n", $a), implode("\n", $b));
            $told = implode("\n", [$merged->text, $merged->mine]);
            foreach ([...array_diff($a, $base), ...array_diff($b, $base)] as $line) {
                self::assertStringContainsString($line, $told, "Seed $seed");
            }
            if ($b === $base) {
                self::assertSame(implode("\n", $a), $merged->text, "Seed $seed");
            }
            if ($a === $base) {
                self::assertSame(implode("\n", $b), $merged->text, "Seed $seed");
            }
        }
    }

    /**
     * @param list<string> $lines
     *
     * @return list<string>
     */
    private static function changed(array $lines, string $by): array
    {
        for ($n = mt_rand(0, 3); $n > 0; --$n) {
            $at = mt_rand(0, \count($lines));
            $lines = [...\array_slice($lines, 0, $at), $by.mt_rand(0, 99), ...\array_slice($lines, $at + mt_rand(0, 1))];
        }

        return $lines;
    }

    /** @param list<string> $expected */
    #[DataProvider('places')]
    public function testWhatCouldStandThere(string $line, array $expected, string $replaced = ''): void
    {
        $text = str_replace('Ask "Why?", of school', $line, self::TEXT);
        $at = substr_count($text, "\n") + 1;
        $lines = explode("\n", $text);
        $options = Completing::at($text, $at, mb_strlen(end($lines)));
        $labels = array_column($options['options'], 'label');
        foreach ($expected as $each) {
            self::assertContains($each, $labels, implode(' | ', $labels));
        }
        self::assertSame($replaced, mb_substr(end($lines), $options['from']));
    }

    /** @return iterable<string, array{0: string, 1: list<string>, 2?: string}> */
    public static function places(): iterable
    {
        yield 'at the margin' => ['A s', ['A school '], 'A s'];
        yield 'after the verb' => ['A school takes any', ['any number of '], 'any'];
        yield 'the second thing' => ['A school takes any number of l', ['loans; '], 'l'];
        yield 'the other half' => ['A school takes any number of loans; a l', ['a loan '], 'a l'];
        yield 'a type' => ["Kit\n  label, te", ['text up to 80', 'text of 4'], 'te'];
        yield 'a clause' => ["Kit\n  label, text, req", ['required'], 'req'];
        yield 'what tells apart' => ["Kit\n  told apart by ", [], ''];
        yield 'within a thing' => ["Kit\n  told", ['told apart by '], 'told'];
    }

    public function testARuleSaysBeforehandWhatItWouldChange(): void
    {
        $before = Outline::read(self::TEXT)->design;
        $after = Outline::read(Edits::of(self::TEXT, new Edit('set rule', '', 'times', 'yes')))->design;

        self::assertContains('school gets created_at, changed_at', RulePreview::between($before, $after));
        self::assertSame(['Nothing changes in the tables as they are now.'], RulePreview::between($before, $before));
    }

    public function testEveryAttributeOfMadeUpDesignsCanBeWrittenAnew(): void
    {
        for ($seed = 0; $seed < 60; ++$seed) {
            $design = RandomDesign::of($seed);
            $text = rtrim(OutlineWriter::design($design));
            foreach ($design->things as $thing) {
                foreach ($thing->attributes as $attribute) {
                    self::assertSame(
                        $text,
                        Edits::of($text, new Edit('set attribute', $thing->name, $attribute->name, OutlineWriter::attribute($attribute))),
                        "Seed $seed",
                    );
                }
            }
        }
    }
}
