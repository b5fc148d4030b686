<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Design;

use Fasti\Core\Catalog\Place;
use Fasti\Core\Design\Changes;
use Fasti\Core\Design\Matching;
use Fasti\Core\Design\ReadBack;
use Fasti\Core\Design\RowQuestion;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Dialect\ScriptOptions;
use Fasti\Tests\Core\Golden\Traits;
use PHPUnit\Framework\TestCase;

/** How a planned change is written down. */
final class ChangesTest extends TestCase
{
    private static function between(string $engine, string $before, string $after): Changes
    {
        $dialect = Dialects::of($engine);
        $was = ReadBack::script($before, $dialect, 'x');
        $is = ReadBack::script($after, $dialect, 'x');

        return Changes::between($was, $is, Matching::told($was, $is), new ScriptOptions(places: false));
    }

    public function testNothingThatSomebodyWroteEndsARemark(): void
    {
        $changes = self::between('sqlite', 'CREATE TABLE t (id int PRIMARY KEY, a text);',
            "CREATE TABLE t (id int PRIMARY KEY, a text, CONSTRAINT c CHECK (a <> 'x\nDROP TABLE y'));");

        self::assertStringContainsString("\nDROP TABLE y'", $changes->questions['check:t.c']->words ?? '');
        $remarks = implode("\n", array_filter(explode("\n", $changes->script()), static fn (string $line): bool => str_starts_with($line, '--')));
        self::assertStringContainsString("-- Rows of t that break “c”, by which always a <> 'x DROP TABLE y': nothing is done", $remarks);
        self::assertStringContainsString("-- Stops, and nothing has been touched, where rows of t break “c”, by which always a <> 'x DROP TABLE y'.", $remarks);
    }

    public function testNothingThatSomebodyWroteEndsTheBlockThatStops(): void
    {
        $alter = Dialects::of('postgresql')->altering(new ScriptOptions(places: false));
        $sql = $alter->stops(new Place('', 't'), "a <> '\$fasti\$; DROP TABLE t; --'", 'check:t.c: rows')[0];

        self::assertStringStartsWith('DO $fasti2$ BEGIN IF EXISTS (SELECT 1 FROM t WHERE a <> \'$fasti$; DROP', $sql);
        self::assertStringEndsWith('END $fasti2$', $sql);
    }

    public function testAFateThatIsNoneOfAQuestionIsNotTaken(): void
    {
        $question = new RowQuestion('k', 'have “a” that is none', new Place('', 't'), 'a = 1', 'they get 2', RowQuestion::STOP, [RowQuestion::STOP]);
        $changes = self::between('sqlite', 'CREATE TABLE t (id int);', 'CREATE TABLE t (id int);');
        $changes->ask($question);

        self::assertSame([RowQuestion::STOP, ''], [$changes->fate('k'), $changes->fate('another')]);
        self::assertSame('they get 2', $question->done(RowQuestion::VALUE));
    }

    /** What a server said of each trait, against the script that made it: views apart, which servers write anew. */
    public function testWhatIsHeldAgainstItselfChangesNothingAndAsksNothing(): void
    {
        $found = [];
        foreach (Traits::recorded() as $name => [$engine, $sql]) {
            if (!isset(Traits::NOT_HELD[$name])) {
                $live = Traits::live($engine, $name);
                $after = ReadBack::script($sql, Dialects::of($engine), Traits::SCHEMAS[$engine]);
                $changes = Changes::between($live, $after, Matching::told($live, $after), new ScriptOptions(places: false));
                $words = array_filter(array_column($changes->steps, 'words'), static fn (string $one): bool => !str_starts_with($one, 'The view'));
                $found += [] === $words && [] === $changes->questions ? [] : [$name => [...$words, ...array_keys($changes->questions)]];
            }
        }

        self::assertSame([], $found);
    }
}
