<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Model;

use Fasti\Core\Model\Asking;
use Fasti\Core\Model\Chart;
use Fasti\Core\Model\Coded;
use Fasti\Core\Model\CodeLabels;
use Fasti\Core\Model\Coding;
use Fasti\Core\Model\ConditionText;
use Fasti\Core\Model\Ground;
use Fasti\Core\Model\ModelError;
use Fasti\Core\Model\Planner;
use Fasti\Core\Model\Trial;
use Fasti\Core\Model\UnknownValue;
use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;

/** Whoever asks writes labels and reads labels; the source is asked for codes. */
final class CodingTest extends TestCase
{
    private static function ground(): Ground
    {
        $lists = [
            "\0reach\0reach_name" => ['upper' => 'Head waters', 'lower' => 'Tidal', 'mouth' => 'Tidal', 'bog' => ''],
            "\0day\0year" => ['2024' => 'the dry year', '2025' => 'not counted'],
        ];

        return new Ground(River::model(), River::catalog(), codes: static fn (string $field): array => $lists[$field] ?? []);
    }

    private static function planner(): Planner
    {
        return new Planner(self::ground(), new \DateTimeImmutable('2026-03-15'));
    }

    private static function sql(string $condition): string
    {
        $sql = self::planner()->plan(new Trial(['individuals'], [], [(new ConditionText(self::ground()->names()))->read($condition)]))->sql();

        return 1 === preg_match('/WHERE (.*)$/s', $sql, $m) ? (string) preg_replace('/\s+/', ' ', $m[1]) : $sql;
    }

    #[TestWith(['reach is head WATERS', "'upper'", 'Tidal'])]
    #[TestWith(['reach is upper', "'upper'", 'Head'])]
    #[TestWith(['reach is Tidal', "IN ('lower', 'mouth')", 'Tidal'])]
    #[TestWith(['reach is not one of Tidal, bog', "IN ('lower', 'mouth', 'bog')", 'Tidal'])]
    #[TestWith(['reach begins with head', "= 'upper'", 'nothing else'])]
    #[TestWith(['reach contains waters', "= 'upper'", 'nothing else'])]
    #[TestWith(['reach begins with waters', "'waters", "'upper'"])]
    #[TestWith(['reach is Nowhere', "'Nowhere'", 'upper'])]
    #[TestWith(['year of day is the dry year or reach is Tidal', '2024', 'dry'])]
    #[TestWith(["year of day is 'not counted'", '2025', 'counted'])]
    #[TestWith(['year of day is 1999', '1999', '2024'])]
    #[TestWith(['reach has sighting (year of day is the dry year)', '2024', 'dry'])]
    public function testTheSourceIsAskedForCodes(string $condition, string $with, string $without): void
    {
        $sql = self::sql($condition);

        self::assertStringContainsString($with, $sql);
        self::assertStringNotContainsString($without, $sql);
    }

    public function testOfAFieldThatHoldsNumbersANameThatNoCodeHasIsRefusedWithTheNearest(): void
    {
        $said = static function (string $condition): string {
            try {
                return self::sql($condition);
            } catch (ModelError $e) {
                return $e->getMessage();
            }
        };
        self::assertSame('“the dri year” is none of the codes of “year of day”, nor what one of them stands for. The nearest: the dry year – 2024.',
            $said('year of day is the dri year'));
        self::assertStringEndsWith(' There are: the dry year – 2024, not counted – 2025.', $said('year of day is Easter'));
    }

    public function testWhatNoRowHasIsSaidWithTheNearestLabel(): void
    {
        $trial = new Trial(['individuals'], [], [(new ConditionText(self::ground()->names()))->read('reach is one of Hed waters, bog')]);
        $answer = (new Asking(River::rows()))->answer(self::planner()->plan($trial));

        self::assertSame([
            'No row of reach has “Hed waters” as its reach. The nearest: “Head waters – upper”.', 'No row of reach has “bog” as its reach.',
        ], array_map(static fn (UnknownValue $one): string => $one->inWords(), $answer->unknown));
    }

    #[TestWith(['reach is upper', 'reach is Head waters – upper'])]
    #[TestWith(['reach is one of Tidal, bog', 'reach is one of Tidal, bog'])]
    #[TestWith(['reach is not mouth or station is mill', 'reach is not Tidal – mouth or station is mill'])]
    #[TestWith(['reach is over upper', 'reach is over upper'])]
    #[TestWith(['individuals is 2024', 'individuals is 2024'])]
    #[TestWith(['reach has sighting (year of day is 2025)', 'reach has sighting (year of day is \'not counted – 2025\')'])]
    public function testAConditionIsShownWithLabels(string $condition, string $shown): void
    {
        $ground = self::ground();

        self::assertSame($shown, ConditionText::of((new Coding($ground))->shown((new ConditionText($ground->names()))->read($condition))));
    }

    public function testFilesHaveALabelBesideEachCode(): void
    {
        $plan = self::planner()->plan(new Trial(['individuals'], ['reach', 'year of day', 'station']));
        $answer = (new Asking(River::rows()))->answer($plan);
        $coded = Coded::of($plan->columns, ['reach', 'year of day', 'station', 'individuals', 'reach label'], [['upper', '2026', 'mill', '3', 'x'],
            ['bog', '2024', null, '1', 'y']]);

        self::assertSame(['reach', 'reach label 2', 'year of day', 'year of day label', 'station', 'individuals', 'reach label'], $coded->names);
        self::assertSame([['upper', 'Head waters', '2026', null, 'mill', '3', 'x'], ['bog', null, '2024', 'the dry year', null, '1', 'y']], $coded->rows);
        self::assertSame([0, null, 1, null, 2, 3, null], array_map(
            static fn (mixed $one): mixed => null === $one ? null : array_search($one, $plan->columns, true),
            $coded->columns,
        ));
        $chart = Chart::of((new Asking(River::rows()))->answer(self::planner()->plan(new Trial(['individuals'], ['reach']))));
        self::assertStringContainsString('>Head waters<', $chart);
        self::assertStringContainsString('>Tidal – lower<', $chart);
        self::assertNotSame([], $answer->rows);
    }

    public function testOnlyWhatATrialIsSplitOrLimitedByNeedsItsCodes(): void
    {
        $where = (new ConditionText(self::ground()->names()))->read('reach has sighting (year of day is 2025) and station is mill');

        self::assertSame(["\0day\0year"], array_keys(self::ground()->codesIn(new Trial(['individuals'], ['station'], [$where]))));
        self::assertSame(["\0reach\0reach_name", "\0day\0year"], array_keys(
            self::ground()->codesIn(new Trial(['individuals'], ['reach', 'station'], [$where])),
        ));
        self::assertSame([], River::ground()->codesIn(new Trial(['individuals'], ['reach'])));
    }

    public function testOfMoreCodesThanCanBeShownNoneIsOffered(): void
    {
        $labels = new CodeLabels(['1' => ' one ', '2' => '']);

        self::assertSame([['code' => '1', 'label' => 'one'], ['code' => '2', 'label' => '']], $labels->offered(2));
        self::assertSame([], $labels->offered(1));
        self::assertSame(['one', null, null, null, 'one'], array_map($labels->of(...), ['1', '2', '3', null, '1  ']));
    }
}
