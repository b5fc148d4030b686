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

    public function testTheTestSeesWhatItForbids(): void
    {
        $facts = Facts::in(<<<'PHP'
            <?php
            class A { function b($c, $d) {
                $c || $d();
                $c && $d();
                $e = $c ? 1 : ($d ? 2 : 3);
                $f = $c ?: $d ?: 3;
                return match (true) { $c => 1, default => 2 };
            } }
            PHP);

        self::assertSame([[3, 'a condition that acts'], [4, 'a condition that acts'], [5, 'a choice within a choice']], $facts->riddles);
        self::assertSame(
            [['name' => 'b', 'line' => 2, 'lines' => 5, 'paths' => 8, 'arguments' => 2, 'constructs' => false]],
            $facts->methods,
        );
    }
}
