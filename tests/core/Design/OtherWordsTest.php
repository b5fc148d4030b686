<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Design;

use Fasti\Core\Design\Outline;
use Fasti\Core\Design\OutlineWriter;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** What people write in their own words, and in those of SQL, is understood or answered with the words that are. */
final class OtherWordsTest extends TestCase
{
    #[DataProvider('attributes')]
    public function testAnAttributeIsUnderstoodOrAnswered(string $written, string $said): void
    {
        $read = Outline::read("Design \"x\"\n\nThing\n  other, date\n  a, $written\n");
        if (str_starts_with($said, '✗ ')) {
            self::assertCount(1, $read->faults, $written);
            self::assertStringContainsString(substr($said, \strlen('✗ ')), $read->faults[0]->message);

            return;
        }
        self::assertSame([], $read->faults, $written);
        self::assertSame(1, preg_match('/^  a, (.*)$/m', $text = OutlineWriter::design($read->design), $m));
        self::assertSame($said, $m[1] ?? '');
        self::assertSame($text, OutlineWriter::design(Outline::read($text)->design), 'It is read again as it was written.');
    }

    /** @return iterable<string, array{string, string}> */
    public static function attributes(): iterable
    {
        foreach (file(__DIR__.'/../../outlines/attributes.txt', \FILE_IGNORE_NEW_LINES | \FILE_SKIP_EMPTY_LINES) ?: [] as $line) {
            if (!str_starts_with($line, '#')) {
                [$written, $said] = explode(' → ', $line, 2);
                yield $written => [$written, $said];
            }
        }
    }
}
