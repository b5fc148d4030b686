<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Sql;

use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Dialect\Grammar;
use Fasti\Core\Sql\Lexer;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** How a text is cut into words by the signs of each engine. */
final class LexerTest extends TestCase
{
    /** @return iterable<string, array{string, string, list<string>}> */
    public static function texts(): iterable
    {
        yield 'operators end before a minus unless they hold a rarer sign' => [
            'postgresql',
            'a=-1 @-2 b->>c',
            ['w a', 'o =', 'o -', 'n 1', 'o @-', 'n 2', 'w b', 'o ->>', 'w c'],
        ];
        yield 'a comment ends an operator' => ['postgresql', 'a+/* b */-c', ['w a', 'o +', 'o -', 'w c']];
        yield 'comments within comments' => ['postgresql', '/* a /* b */ c */ d', ['w d']];
        yield 'comments do not nest elsewhere' => ['sqlite', '/* a /* b */ c', ['w c']];
        yield 'dollars' => ['postgresql', "\$x\$it's \$\$ \$x\$ \$1", ["s \$x\$it's \$\$ \$x\$", 'v $1']];
        yield 'a minus is a comment only before a blank' => ['mariadb', "a--1 -- b\nc", ['w a', 'o -', 'o -', 'n 1', 'w c']];
        yield 'comments for versions' => ['mariadb', '/*!50001 a */ /* b */ /*M!100100 c*/', ['w a', 'w c']];
        yield 'escapes' => ['mariadb', "'a\\'b' \"c\"\"d\" `e``f`", ["s 'a\\'b'", 'q "c""d"', 'q `e``f`']];
        yield 'character sets' => ['mariadb', "_utf8mb4'a' _latin1 x'4D' N'b'", ["s _utf8mb4'a'", "s _latin1 x'4D'", "s N'b'"]];
        yield 'no escapes elsewhere' => ['sqlite', "'a\\' 'b'", ["s 'a\\'", "s 'b'"]];
        yield 'brackets' => ['sqlite', '[a b] `c` "d"', ['q [a b]', 'q `c`', 'q "d"']];
        yield 'delimited texts' => ['sql', "q'[it's]' nq'{a}' q'!b!'", ["s q'[it's]'", "s nq'{a}'", "s q'!b!'"]];
        yield 'outer joins' => ['sql', 'a(+) = b', ['w a', 'o (+)', 'o =', 'w b']];
        yield 'numbers' => ['postgresql', '1 1.5 .5 1e3 1.e-2 0x1F 1..2', ['n 1', 'n 1.5', 'n .5', 'n 1e3', 'n 1.e-2', 'n 0x1F', 'n 1', 'o ..', 'n 2']];
        yield 'parameters' => ['mariadb', '? :name @v @@global.x', ['v ?', 'v :name', 'v @v', 'v @@global.x']];
        yield 'what does not end' => ['postgresql', "a 'b", ['w a', "u 'b"]];
    }

    /** @param list<string> $expected kind and text of each word */
    #[DataProvider('texts')]
    public function testWordsAreCutAsTheEngineDoesIt(string $engine, string $text, array $expected): void
    {
        $lexer = new Lexer($text, Dialects::named($engine)?->grammar() ?? new Grammar());

        self::assertSame($expected, array_map(static fn (string $kind, string $word): string => "$kind $word", $lexer->kinds, $lexer->texts));
    }

    public function testEveryWordKnowsItsPlace(): void
    {
        foreach (['postgresql', 'mariadb', 'sqlite'] as $engine) {
            foreach (Queries::hard($engine) as [$sql]) {
                $lexer = new Lexer($sql, Dialects::named($engine)?->grammar() ?? new Grammar());
                foreach ($lexer->texts as $i => $word) {
                    self::assertSame($word, substr($sql, $lexer->offsets[$i], \strlen($word)));
                }
            }
        }
    }

    public function testAGrammarWithOtherSignsLeavesThoseOfItsNameAsTheyAre(): void
    {
        $plain = new Grammar();
        $other = new Grammar();
        $other->signs->brackets = false;
        $other->queries->hashedNames = false;
        $other->signs->backticks = false;
        foreach ([[$other, $plain], [$plain, $other]] as $pair) {
            foreach ($pair as $grammar) {
                $quoted = $grammar === $plain;
                self::assertSame(
                    $quoted ? ['[a b]', '`c`', 'd#'] : ['[', 'a', 'b', ']', '`', 'c', '`', 'd', '#'],
                    (new Lexer('[a b] `c` d#', $grammar))->texts,
                );
            }
        }
    }
}
