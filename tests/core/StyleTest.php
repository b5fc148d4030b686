<?php

declare(strict_types=1);

namespace Fasti\Tests\Core;

use Fasti\Tests\Core\House\Facts;
use Fasti\Tests\Core\House\Tree;
use PHPUnit\Framework\TestCase;

/** How long lines and how involved statements may be. See docs/house.md. */
#[\PHPUnit\Framework\Attributes\Group('house')]
final class StyleTest extends TestCase
{
    private const CODE = ['core', 'src', 'demo', 'bench', 'tests'];
    private const WIDEST = 160;
    private const LONGEST = 600;
    private const LONGEST_METHOD = 60;
    private const MOST_ARGUMENTS = 8;
    /** Cyclomatic complexity (McCabe 1976), each && and || counted. */
    private const MOST_PATHS = 20;
    /** Of what tells the words of a language apart, and of what makes material for tests. */
    private const MOST_PATHS_OF_READERS = 40;
    private const READERS = '#^(core/(Script|Sql)/|core/Engine/\w+/\w+Grammar.php|core/Design/\w+Reader.php|core/Model/FormulaReader.php|tests/|bench/)#';
    /** Methods that may be longer, more involved or take more, and why: fifteen at the most. */
    private const EXCEPTIONS = [
        'core/Diagram/Leading/Search.php trace' => 'the innermost loop of drawing: a call at each crossing costs a third of its speed',
        'core/Script/Statements.php getIterator' => 'the loop over each word of a dump: the same',
        'src/Design/DesignCommand.php __invoke' => 'the options of a command are its arguments',
        'src/Diagram/DiagramCommand.php __invoke' => 'the options of a command are its arguments',
        'src/Model/ModelAskCommand.php __invoke' => 'the options of a command are its arguments',
    ];

    public function testNoLineIsWiderThanAScreen(): void
    {
        $found = [];
        foreach (['core', 'src', 'templates', 'assets', 'tests'] as $top) {
            foreach (Tree::files($top, 'php|twig|js|mjs|scss') as $file) {
                foreach (explode("\n", Tree::read($file)) as $i => $line) {
                    // A picture within an address cannot be broken.
                    if (mb_strlen($line) > self::WIDEST && !str_contains($line, 'data:image/')) {
                        $found[] = $file.':'.($i + 1);
                    }
                }
            }
        }

        self::assertSame([], $found);
    }

    public function testStatementsSayWhatTheyDo(): void
    {
        $found = [];
        foreach (self::CODE as $top) {
            foreach (Tree::files($top) as $file) {
                foreach (Tree::facts($file)->riddles as [$line, $what]) {
                    $found[] = "$file:$line $what";
                }
            }
        }

        self::assertSame([], $found);
    }

    public function testMethodsAreNeitherLongNorInvolved(): void
    {
        $found = [];
        $excepted = self::EXCEPTIONS;
        foreach (self::CODE as $top) {
            foreach (Tree::files($top) as $file) {
                $paths = 1 === preg_match(self::READERS, $file) ? self::MOST_PATHS_OF_READERS : self::MOST_PATHS;
                foreach (Tree::facts($file)->methods as $method) {
                    $wrong = array_filter([
                        $method['lines'] > self::LONGEST_METHOD ? "$method[lines] lines" : '',
                        $method['paths'] > $paths ? "a complexity of $method[paths]" : '',
                        $method['arguments'] > self::MOST_ARGUMENTS && !$method['constructs'] ? "$method[arguments] arguments" : '',
                    ]);
                    if ([] !== $wrong && !isset(self::EXCEPTIONS["$file $method[name]"])) {
                        $found[] = "$file:$method[line] $method[name] has ".implode(', ', $wrong);
                    }
                    if ([] !== $wrong) {
                        unset($excepted["$file $method[name]"]);
                    }
                }
            }
        }

        self::assertSame([], $found);
        self::assertSame([], array_keys($excepted), 'What is no exception any more is taken from the list.');
        self::assertLessThanOrEqual(15, \count(self::EXCEPTIONS));
    }

    public function testFilesAreShort(): void
    {
        $found = [];
        foreach (self::CODE as $top) {
            foreach (Tree::files($top) as $file) {
                $lines = substr_count(Tree::read($file), "\n");
                if ($lines > self::LONGEST) {
                    $found[] = "$file has $lines lines";
                }
            }
        }

        self::assertSame([], $found);
    }

    public function testTheTestSeesWhatItForbids(): void
    {
        $facts = Facts::in(<<<'PHP'
            <?php
            class A { function b($c, $d) {
                $c || $d();
                $c && $d();
                $e = $c ? 1 : ($d ? 2 : 3);
                $f = $c ?: $d ?: 3;
                [$e, $f] = [1, 2];
                [$e, $f] = [$f, $e];
                $c ? $d() : $e();
                return match (true) { $c => 1, default => 2 };
            } }
            PHP);

        self::assertSame([[3, 'a condition that acts'], [4, 'a condition that acts'], [5, 'a choice within a choice'],
            [7, 'several things assigned at once'], [9, 'a choice that acts']], $facts->riddles);
        self::assertSame(
            [['name' => 'b', 'line' => 2, 'lines' => 8, 'paths' => 9, 'arguments' => 2, 'constructs' => false]],
            $facts->methods,
        );
    }
}
