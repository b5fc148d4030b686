<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Design;

use Fasti\Core\Design\Fault;
use Fasti\Core\Design\Outline;
use Fasti\Core\Design\OutlineWriter;
use Fasti\Core\Design\Rules;
use Fasti\Core\Design\TypeReader;
use PHPUnit\Framework\TestCase;

/** The page about the grammar says what is understood, and all of it. */
final class GrammarTest extends TestCase
{
    private static function page(): string
    {
        return (string) file_get_contents(__DIR__.'/../../../docs/outline.md');
    }

    public function testEveryExampleIsUnderstood(): void
    {
        preg_match_all('/^```outline\n(.*?)^```$/ms', self::page(), $found);
        self::assertGreaterThanOrEqual(10, \count($found[1]));
        $kinds = [];
        foreach ($found[1] as $example) {
            $outline = Outline::read($example);
            self::assertSame([], array_map(static fn (Fault $fault): string => $fault.' | '.explode("\n", $example)[$fault->line - 1], $outline->faults));
            foreach ($outline->statements as $statement) {
                $kinds[$statement->kind] = true;
            }
            // What is read is what is written again.
            $text = OutlineWriter::design($outline->design);
            self::assertSame($text, OutlineWriter::design(Outline::read($text)->design));
        }
        foreach ([
            'design', 'rule', 'thing', 'attribute', 'identifier', 'lookup', 'condition', 'dependency', 'clause', 'join', 'list', 'value', 'question',
            'answer', 'block', 'view',
        ] as $kind) {
            self::assertArrayHasKey($kind, $kinds, "There is no example of a $kind.");
        }
    }

    public function testEveryRuleAndEveryTypeStandsThere(): void
    {
        $page = preg_replace('/\s+/', ' ', self::page()) ?? '';
        foreach (Rules::ALL as [, $settings]) {
            foreach ($settings as $sentence) {
                self::assertStringContainsString($sentence, $page);
            }
        }
        foreach (TypeReader::words() as $type) {
            self::assertStringContainsString(explode(' from ', trim($type))[0], $page);
        }
    }
}
