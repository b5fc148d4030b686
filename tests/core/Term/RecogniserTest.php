<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Term;

use Fasti\Core\Term\Found;
use Fasti\Core\Term\Recogniser;
use PHPUnit\Framework\TestCase;

final class RecogniserTest extends TestCase
{
    private const TERMS = [
        1 => ['gauge'], 2 => ['gauge board', 'staff gauge'], 3 => ['reach'], 4 => ['IT'], 5 => ['catchment area'], 6 => ['reach'], 7 => ['species'],
        8 => ['a'], 9 => ['Müller’s sampler'],
    ];

    public function testTheLongestStandsAndNoneOverlaps(): void
    {
        self::assertSame(
            ['gauge board: 2', 'gauge: 1', 'Staff gauges: 2'],
            self::found('The gauge board beside the gauge. Staff gauges are older.'),
        );
    }

    public function testWholeWordsOnlyInTheSingularAndPlural(): void
    {
        self::assertSame(['reaches: 3 6'], self::found('An outreach preaches of reaches and of reachable ends.'));
        self::assertSame(['species: 7'], self::found('special species'));
    }

    public function testAShortFormInCapitalsIsNotAWord(): void
    {
        self::assertSame(['IT: 4'], self::found('it is kept by IT.'));
    }

    public function testWordsOfOneTermStandTogether(): void
    {
        self::assertSame(['catchment areas: 5'], self::found('catchment. Area of a catchment; areas: both, catchment areas', [5]));
        self::assertSame(["catchment\n areas: 5"], self::found("catchment\n areas", [5]));
    }

    public function testOffsetsAreBytesAndAWordMayBeOfAnyLanguage(): void
    {
        $text = 'Größe: Müller\'s sampler, ספר, a';
        $found = (new Recogniser(self::TERMS))->in($text);
        self::assertSame(["Müller's sampler", 'a'], array_map(static fn (Found $one): string => substr($text, $one->from, $one->length), $found));
    }

    public function testATermThatIsInHalfTheLanguageIsFoundWhereItIsAWord(): void
    {
        self::assertSame(['a: 8', 'A: 8'], self::found('a banana again. A cat', [8]));
    }

    public function testWithoutTermsThereIsNothing(): void
    {
        self::assertSame([], (new Recogniser([]))->in('station'));
        self::assertSame([], (new Recogniser([1 => ['!?', '']]))->in('station !?'));
    }

    /**
     * @param list<int>|null $only
     *
     * @return list<string>
     */
    private static function found(string $text, ?array $only = null): array
    {
        $terms = array_filter(self::TERMS, static fn (int $id): bool => null === $only ? 8 !== $id : \in_array($id, $only, true), \ARRAY_FILTER_USE_KEY);

        return array_map(
            static fn (Found $found): string => substr($text, $found->from, $found->length).': '.implode(' ', $found->terms),
            (new Recogniser($terms))->in($text),
        );
    }
}
