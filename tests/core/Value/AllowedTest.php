<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Value;

use Fasti\Core\Value\Allowed;
use Fasti\Core\Value\AllowedError;
use Fasti\Core\Value\Lists;
use Fasti\Core\Value\Pasted;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class AllowedTest extends TestCase
{
    /**
     * @param list<string> $fits
     * @param list<string> $breaks
     */
    #[DataProvider('texts')]
    public function testItTellsWhatFits(string $text, array $fits, array $breaks): void
    {
        $allowed = self::parse($text);
        foreach ($fits as $value) {
            self::assertTrue($allowed->fits($value), "“{$value}” fits $text");
        }
        foreach ($breaks as $value) {
            self::assertFalse($allowed->fits($value), "“{$value}” breaks $text");
        }
        self::assertEquals($allowed, self::parse($allowed->words()), 'In its own words it says the same.');
    }

    /** @return iterable<string, array{string, list<string>, list<string>}> */
    public static function texts(): iterable
    {
        yield 'values' => ['one of G, S, "a, b"', ['G', 'S', 'a, b'], ['g', 'a', '', 'G ']];
        yield 'a list' => ['code list flags', ['G', 'B'], ['X', 'b']];
        yield 'a range' => ['0 to 100', ['0', '100', '99.5', '1e1'], ['-0.01', '101', 'abc', '']];
        yield 'a negative range' => ['-99.99 to -1', ['-1', '-50'], ['0', '-100']];
        yield 'an open range' => ['at least 2020-01-01', ['2020-01-01', '2026-11-30 10:00:00'], ['2019-12-31', 'yesterday']];
        yield 'less than' => ['less than 5', ['4.99', '-1'], ['5', '6']];
        yield 'more than' => ['more than 5', ['5.01', '6'], ['5', '4']];
        yield 'from' => ['from 5', ['5', '6'], ['4.99']];
        yield 'until' => ['until 5', ['5', '-1'], ['5.01']];
        yield 'at least, as a sign' => ['>= 5', ['5', '6'], ['4.99']];
        yield 'at most, as a sign' => ['<=5', ['5', '4'], ['5.01']];
        yield 'more than, as a sign' => ['>5', ['5.01'], ['5']];
        yield 'less than, as a sign' => ['< 5', ['4.99'], ['5']];
        yield 'between, with a dash' => ['between 1 and 3', ['1', '3'], ['0.9', '3.1']];
        yield 'at least so long' => ['at least 3 characters', ['abc', 'abcd'], ['ab']];
        yield 'at most so long' => ['at most 3 letters long', ['abc', ''], ['abcd']];
        yield 'classes' => ['matches [^a-c]x|[]]y', ['dx', ']y'], ['ax', 'dy']];
        yield 'groups' => ['matches (?:a|b){2}(c)?', ['ab', 'bac'], ['a', 'abcc']];
        yield 'letters of other alphabets' => ['matches ä+é', ['äé', 'ääé'], ['é']];
        yield 'signs of patterns' => ['matches \\d{2}\\.\\w', ['12.x'], ['12x', '1.x']];
        yield 'a length' => ['2 to 6 characters', ['ab', 'ünïcod'], ['a', 'sevenxx']];
        yield 'one length' => ['3 characters', ['abc', 'éàü'], ['ab', 'abcd']];
        yield 'letters' => ['capital letters', ['ABC', 'ÄÖ'], ['Abc', 'A1', '']];
        yield 'a pattern' => ['matches [A-Z]{3}-[0-9]+', ['ABC-1'], ['ABC-', 'xABC-1', "ABC-1\n"]];
        yield 'a pattern with a semicolon' => ['matches a;b', ['a;b'], ['a', 'b']];
        yield 'several' => ['capital letters; 2 to 3 characters; one of AB, ABCD', ['AB'], ['ABCD', 'CD']];
    }

    #[DataProvider('faults')]
    public function testWhatIsNotUnderstoodIsSaidWithItsPlace(string $text, string $says, int $at): void
    {
        try {
            self::parse($text);
            self::fail('It was understood.');
        } catch (AllowedError $e) {
            self::assertStringContainsString($says, $e->getMessage());
            self::assertSame($at, $e->at);
        }
    }

    /** @return iterable<string, array{string, string, int}> */
    public static function faults(): iterable
    {
        yield 'nothing' => [' ; ', 'Nothing is said', 0];
        yield 'words' => ['0 to 100; roughly so', '“roughly so” is not understood', 10];
        yield 'a list that is not there' => ['code list nowhere', 'There is no code list “nowhere”', 10];
        yield 'ends the wrong way round' => ['100 to 0', '100 comes after 0', 0];
        yield 'a day and a number' => ['1 to 2020-01-01', 'One end is a number', 0];
        yield 'a day that is none' => ['at most 2020-02-30', '2020-02-30 is no day', 0];
        yield 'an open quotation mark' => ['one of "a, b', 'not closed', 0];
        yield 'a pattern that would run for ever' => ['matches (a+)+b', 'run for ever', 12];
        yield 'another' => ['matches (a*b?){2,9}', 'run for ever', 14];
        yield 'many counts without an end' => ['matches .*x.*y.*z', 'More than 2 counts', 15];
        yield 'a group that is not closed' => ['matches (a', 'A “(” is not closed.', 10];
        yield 'a group that is closed twice' => ['matches (a))', 'A “)” closes nothing.', 11];
        yield 'a class that is not closed' => ['matches a[b', 'A “[” is not closed.', 9];
        yield 'a count of nothing' => ['matches |+', '“+” stands where there is nothing to count.', 9];
        yield 'a count within a group of nothing' => ['matches (*a)', '“*” stands where there is nothing to count.', 9];
        yield 'a count that is too high' => ['matches a{2000}', 'A count goes to', 9];
        yield 'no pattern' => ['matches [z-a]', 'This is no regular expression', 8];
        yield 'a named group' => ['matches (?<n>a)', 'Groups are plain ones here', 8];
        yield 'an end that is none' => ['matches ab\\', 'is not a sign that every engine knows', 11];
        yield 'looking ahead' => ['matches (?=a)b', 'looks ahead', 8];
        yield 'a reference back' => ['matches (a)\1', 'not a sign that every engine knows', 12];
    }

    public function testThePlaceOfAFaultInALaterPartCountsLettersNotBytes(): void
    {
        try {
            self::parse('one of ä, ö; nonsense');
            self::fail('It was understood.');
        } catch (AllowedError $e) {
            self::assertSame(13, $e->at);
        }
    }

    public function testPatternsEndSoonWhateverTheyMeet(): void
    {
        $start = hrtime(true);
        foreach (['[a-z]*[a-z]*x', '(?:a|ab){1,100}c', '\w+-\w+'] as $pattern) {
            self::parse("matches $pattern")->fits(str_repeat('a', 200000));
        }
        // Not a figure of speed: one that ran for ever would take hours.
        self::assertLessThan(20, (hrtime(true) - $start) / 1e9);
    }

    public function testTheListsThatShipAreWhole(): void
    {
        $lists = Lists::all();
        self::assertGreaterThanOrEqual(7, \count($lists));
        foreach ($lists as $name => $list) {
            self::assertSame(mb_strtolower($name), $name);
            self::assertNotSame('', $list->meaning);
            self::assertNotContains('', $list->codes, "Each code of $name has a label.");
            self::assertGreaterThan(1, \count($list->codes));
        }
        self::assertSame(249, \count($lists['countries, two letters']->codes));
        self::assertSame(249, \count($lists['countries, three letters']->codes));
        self::assertSame($lists['currencies'], Lists::named(' Currencies'));
    }

    public function testCodesArePastedAsPeopleHaveThem(): void
    {
        self::assertSame(['G' => 'good', 'S' => 'suspect'], Pasted::codes("G\tgood\n\nS\tsuspect\n", 190));
        self::assertSame(['G' => 'good; as it was read', 'S' => 'suspect'], Pasted::codes("G;good;as it was read\nS;suspect", 190));
        self::assertSame(['a b' => '', 'c' => ''], Pasted::codes("a b\nc", 190));
        self::assertSame(['x,y' => 'both', 'z' => 'one'], Pasted::codes("\"x,y\",both\nz,one", 190));
        // Half of the lines are not most of them.
        self::assertSame(['a;b' => '', 'c' => ''], Pasted::codes("a;b\nc", 190));
        self::assertSame(['a' => 'b', 'c' => 'd', 'e' => ''], Pasted::codes("a: b\nc: d\ne", 190));
        self::assertSame(['a' => 'first'], Pasted::codes("a;first\na;second", 190));
        self::assertSame(['a' => 'second'], Pasted::codes("a;\na;second", 190));
        self::assertSame([], Pasted::codes("\n \n", 190));
        self::assertSame(['1' => 'one', '01' => 'another'], array_map(strval(...), Pasted::codes("1 = one\n01 = another", 190)));
        $this->expectExceptionMessage('Line 2 has no code');
        Pasted::codes("a;b\n;c", 190);
    }

    private static function parse(string $text): Allowed
    {
        return Allowed::parse($text, static fn (string $name): ?array => 'flags' === $name ? ['G', 'S', 'B', 'M'] : null);
    }
}
