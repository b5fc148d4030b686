<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Files;

use Fasti\Core\Files\FileProfiler;
use Fasti\Core\Files\FilesReader;
use Fasti\Core\Profile\Closeness;
use Fasti\Core\Profile\FieldProfile;
use Fasti\Core\Profile\ProfileArray;
use Fasti\Core\Profile\TableProfile;
use Fasti\Core\Profile\Tally;
use Fasti\Core\Survey\Choice;
use Fasti\Core\Survey\SilentProgress;
use PHPUnit\Framework\TestCase;

final class FileProfilerTest extends TestCase
{
    public function testACsvFileIsProfiledRowByRow(): void
    {
        $rows = "station,day,level\n";
        for ($i = 0; $i < 200; ++$i) {
            $rows .= \sprintf("%s,2024-%02d-%02d,%s\n", ['ARR', 'MER', 'SAL'][$i % 3], 1 + $i % 12, 1 + $i % 28, 0 === $i % 4 ? '' : $i / 10);
        }
        $profile = self::profile('visits.csv', $rows, ['station', 'day']);

        self::assertSame([200, 150, 150], [$profile->rows, $profile->fields['level']->values, $profile->fields['level']->filled()]);
        self::assertSame(['0.1', '19.9'], [$profile->fields['level']->least, $profile->fields['level']->greatest]);
        self::assertSame(['code', ['ARR' => 67, 'MER' => 67, 'SAL' => 66]], [$profile->fields['station']->likely, $profile->fields['station']->frequent]);
        self::assertSame(200, array_sum(array_column($profile->fields['day']->histogram, 'count')));
        self::assertGreaterThan(100, $profile->repeated);
    }

    public function testNestedMembersAreMeasuredWithinWhatHoldsThem(): void
    {
        $lines = '';
        for ($i = 0; $i < 40; ++$i) {
            $lines .= json_encode(
                ['id' => $i] + (0 === $i % 2 ? ['power' => ['volts' => 3.5, 'source' => 'sun']] : []) + ['readings' => [['p' => 'a', 'v' => 1], ['p' => 'b']]],
            )."\n";
        }
        $fields = self::profile('m.jsonl', $lines)->fields;

        self::assertSame([40, 20], [$fields['power']->rows, $fields['power']->values]);
        self::assertSame([20, 20], [$fields['power.volts']->rows, $fields['power.volts']->values]);
        self::assertSame([80, 40], [$fields['readings[].v']->rows, $fields['readings[].v']->values]);
        self::assertSame(['a' => 40, 'b' => 40], $fields['readings[].p']->frequent);
    }

    public function testListsSayHowManyItemsTheyHold(): void
    {
        $lines = '';
        for ($i = 0; $i < 40; ++$i) {
            $lines .= json_encode(['tags' => array_fill(0, $i % 4, 'x'), 'grid' => [[1, 2], [3]], 'power' => (object) ['a' => 1]])."\n";
        }
        $profile = self::profile('m.jsonl', $lines);

        self::assertSame(['lists' => 40, 'empty' => 10, 'fewest' => 0, 'most' => 3, 'average' => 1.5], $profile->fields['tags']->lists);
        self::assertSame(['lists' => 80, 'empty' => 0, 'fewest' => 1, 'most' => 2, 'average' => 1.5], $profile->fields['grid[]']->lists);
        self::assertNull($profile->fields['tags']->distinct, 'lists are not counted as values');
        self::assertNull($profile->fields['power']->distinct);
        self::assertNull($profile->fields['tags[]']->lists);
        self::assertEquals($profile->fields, ProfileArray::read((array) json_decode((string) json_encode(ProfileArray::of($profile)), true))->fields);
    }

    public function testRowsOfAFileThatRepeatAreFoundWithoutAStatedGrain(): void
    {
        $rows = "station,contact_email,level\n";
        for ($i = 0; $i < 30; ++$i) {
            $rows .= \sprintf("S%d,p%d@arrowmere.example,%d\n", $i % 25, $i % 25, $i % 25);
        }
        $profile = self::profile('visits.csv', $rows);

        self::assertSame([['station', 'contact_email', 'level'], 5], [$profile->grain, $profile->repeated]);
        self::assertSame(['values' => ['S0', '···', '0'], 'rows' => 2], $profile->repeats[0]);
        self::assertCount(3, $profile->repeats);
        self::assertSame([], self::profile('visits.csv', "a,b\n1,2\n1,3\n")->repeats);
    }

    public function testTheGrainOfDocumentsMayLieWithinThem(): void
    {
        $profile = self::profile('m.jsonl', '{"a":{"b":1},"c":1}'."\n".'{"a":{"b":1},"c":2}'."\n".'{"a":{"b":2},"c":3}'."\n", ['a.b']);

        self::assertSame(1, $profile->repeated);
    }

    public function testValuesUnderTheKeysOfAMapAreOneMember(): void
    {
        $lines = '';
        for ($i = 0; $i < 700; ++$i) {
            $lines .= json_encode(['sensors' => ["s$i" => ['v' => $i]]])."\n";
        }
        $fields = self::profile('m.jsonl', $lines)->fields;

        self::assertSame(700, $fields['sensors{}.v']->values);
        self::assertSame(['0', '699'], [$fields['sensors{}.v']->least, $fields['sensors{}.v']->greatest]);
    }

    public function testATallyKeepsItsFiguresWhenItStopsCountingValues(): void
    {
        $tally = new Tally();
        for ($i = 0; $i < 30000; ++$i) {
            $tally->add('value '.$i, false);
        }
        $tally->add('  ', false);
        $figures = $tally->figures(true);

        self::assertSame(
            [30001, 1, null, 'value 0', 7, 11],
            [$figures['values'], $figures['blank'], $figures['distinct'], $figures['least'], $figures['shortest'], $figures['longest']],
        );
        self::assertNull($tally->frequent());
        self::assertCount(5000, $tally->sample());
        self::assertContains('value 29999', array_merge($tally->sample(), ['value 29999']));
    }

    public function testTheSampleOfATallyComesFromTheWholeStream(): void
    {
        mt_srand(3);
        $tally = new Tally();
        for ($i = 0; $i < 50000; ++$i) {
            $tally->add((string) $i, true);
        }
        $late = \count(array_filter($tally->sample(), static fn (string $value): bool => (int) $value >= 25000));

        self::assertGreaterThan(2200, $late);
        self::assertLessThan(2800, $late);
        self::assertSame(['0', '49999'], [$tally->figures(false)['least'], $tally->figures(false)['greatest']]);
    }

    public function testFieldsWithTheSameDataAreCloseAndOthersAreNot(): void
    {
        $flag = new FieldProfile(1000, 900, 0, 3, 'B', 'S', 1, 1, 1.0, ['G' => 700, 'S' => 150, 'B' => 50], 900, [], ['A' => 900], 'code', 100);
        $same = new FieldProfile(1100, 985, 0, 3, 'B', 'S', 1, 1, 1.0, ['G' => 770, 'S' => 160, 'B' => 55], 985, [], ['A' => 985], 'code', 100);
        $other = new FieldProfile(1000, 300, 0, 250, 'Ada', 'Zoe', 3, 40, 12.0, ['Ada' => 3, 'Bo' => 2], 300, [], ['Aaa' => 100, 'Aaaaa' => 150], '', 0);

        self::assertGreaterThan(0.9, Closeness::of($flag, $same));
        self::assertLessThan(0.2, Closeness::of($flag, $other));
        self::assertSame(Closeness::of($flag, $other), Closeness::of($other, $flag));
        self::assertNull(Closeness::of($flag, new FieldProfile(5, 5)));
    }

    /** @param list<string> $grain */
    private static function profile(string $name, string $content, array $grain = []): TableProfile
    {
        $folder = new Folder([$name => $content]);
        $table = FilesReader::open($folder->path)->read(new Choice(), new SilentProgress())->tables[0];

        return (new FileProfiler())->profile($folder->path.'/'.$name, $table, $grain, [], new SilentProgress());
    }
}
