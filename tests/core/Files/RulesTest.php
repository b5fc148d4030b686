<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Files;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\ForeignKey;
use Fasti\Core\Files\CsvFile;
use Fasti\Core\Files\CsvHeader;
use Fasti\Core\Files\FilesReader;
use Fasti\Core\Files\JsonDocuments;
use Fasti\Core\Files\Maps;
use Fasti\Core\Files\Structure;
use Fasti\Core\Survey\Choice;
use Fasti\Core\Survey\SilentProgress;
use Fasti\Core\Survey\SourceError;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;

/** Rule by rule, at the edge of each: what files are taken for, and what is read from them. */
final class RulesTest extends TestCase
{
    #[TestWith(['', 'empty'])]
    #[TestWith([" \n\t", 'empty'])]
    #[TestWith(["PK\x03\x04", 'a zip archive'])]
    #[TestWith(["\x1f\x8b\x08a,b\n", 'packed with gzip'])]
    #[TestWith(["\xFF\xFEa\0,\0", 'in UTF-16'])]
    #[TestWith(["\xFE\xFF\0a\0,", 'in UTF-16'])]
    #[TestWith(["a,b\n\0,1\n", 'a binary file'])]
    #[TestWith(['[{"a": 1}]', 'JSON'])]
    #[TestWith(["  {\"a\": 1}\n", 'JSON'])]
    #[TestWith(['<table><tr>', 'XML or HTML'])]
    public function testWhatIsNoCsvFileIsSaid(string $content, string $what): void
    {
        $folder = new Folder(['f.csv' => $content]);
        try {
            new CsvFile($folder->path.'/f.csv');
            self::fail('It is no CSV file.');
        } catch (SourceError $e) {
            self::assertStringContainsString("but looks $what", $e->getMessage());
        }
    }

    #[TestWith(["[1],b\n2,c\n"])]
    #[TestWith(["PKW,LKW\n1,2\n"])]
    public function testWhatOnlyResemblesSomethingElseIsRead(string $content): void
    {
        $folder = new Folder(['f.csv' => $content]);
        if (str_starts_with($content, 'PK')) {
            $this->expectException(SourceError::class);
        }

        self::assertCount(2, (new CsvFile($folder->path.'/f.csv'))->header);
    }

    /**
     * @param list<string>       $first
     * @param list<list<string>> $rows
     */
    #[DataProvider('firstRows')]
    public function testWhetherAFirstRowNamesTheColumns(array $first, array $rows, string $why): void
    {
        $header = CsvHeader::of($first, $rows);

        self::assertSame($why, $header->why);
        self::assertSame('' === $why, $header->named);
    }

    /** @return iterable<string, array{list<string>, list<list<string>>, string}> */
    public static function firstRows(): iterable
    {
        yield 'texts over numbers' => [['code', 'depth'], [['a', '1.5'], ['b', '2']], ''];
        yield 'texts over dates' => [['day'], [['2024-01-01'], ['03.04.2024']], ''];
        yield 'a number over numbers' => [['12', '5'], [['13', '6']], '“12” is a value'];
        yield 'nothing' => [['', ' '], [['a', 'b']], 'it is empty'];
        yield 'years one after another' => [['station', '2019', '2020', '2021'], [['a', 'x', 'y', 'z']], ''];
        yield 'years that are none' => [['station', '2019', '2021'], [['a', 'x', 'y']], '“2019” is a value'];
        yield 'one year' => [['station', '2019'], [['a', 'x']], '“2019” is a value'];
        yield 'numbers from one' => [['1', '2', '3', '4', '5'], [['a', 'b', 'c', 'd', 'e']], ''];
        yield 'too few numbers from one' => [['1', '2', '3', '4'], [['a', 'b', 'c', 'd']], '“1” is a value'];
        yield 'numbers from seven' => [['7', '8', '9', '10', '11'], [['a', 'b', 'c', 'd', 'e']], '“7” is a value'];
        yield 'a value that stands again' => [['low', 'x'], [['high', 'y'], ['low', 'z']], '“low” stands again in its column'];
        yield 'one of four that stands again' => [['low', 'x', 'y', 'z'], [['low', '', '', '']], ''];
        yield 'codes like those below' => [['ST-01'], [['ST-02'], ['ST-03'], ['QR-99']], '“ST-01” is written as what stands under it'];
        yield 'codes over too few' => [['ST-01'], [['ST-02'], ['ST-03']], ''];
        yield 'codes over others' => [['ST-01'], [['ST-02'], ['ST-03'], ['STX-4']], ''];
        yield 'words of one shape' => [['mill'], [['weir'], ['lock'], ['pond']], ''];
        yield 'one of three columns of codes' => [
            ['A1', 'name', 'note'], [['B2', 'x y', 'long text'], ['C3', 'zz', 'q'], ['D4', 'z', 'another']], '',
        ];
    }

    public function testNamesOfAColumnWithoutOneKeepClearOfThoseThatAreWritten(): void
    {
        $header = CsvHeader::of(['a', '', 'column 2', 'a'], [['1', '2', '3', '4']]);

        self::assertSame(['a', 'column 2 2', 'column 2', 'a 2'], $header->names);
        self::assertSame(['column 1', 'column 2'], CsvHeader::of(['1', '2'], [['3', '4']])->names, 'of data, the place');
    }

    public function testPlainValuesInAnArrayAreHandedOnWhereverTheyAreCut(): void
    {
        foreach ([0, 1, 7] as $before) {
            $long = str_repeat('x', (1 << 18) - 20 + $before);
            $folder = new Folder(['f.json' => "[ \"$long\", 12, true, [1, [\"]\"], 2], null, {\"a\": \"}\"}, \"end\"]"]);
            $documents = new JsonDocuments($folder->path.'/f.json');
            $read = [];
            foreach ($documents as [$value, , $number]) {
                $read[$number] = \is_string($value) ? \strlen($value) : $value;
            }

            self::assertEquals([1 => \strlen($long), 12, true, [1, [']'], 2], 6 => (object) ['a' => '}'], 7 => 3], $read);
            self::assertSame([[], 0], [$documents->faults, $documents->faulty]);
        }
    }

    public function testAPlainValueThatBreaksOffEndsTheFile(): void
    {
        $folder = new Folder(['f.json' => '[{"a":1}, "half of a te']);
        $documents = new JsonDocuments($folder->path.'/f.json');

        self::assertCount(1, [...$documents]);
        self::assertSame(1, $documents->faulty);
        self::assertStringContainsString('document 2 is not complete', $documents->faults[0]);
    }

    public function testWholeNumbersAreTalliedAndSketchedAsTextsAre(): void
    {
        $structure = new Structure();
        foreach ([3, 3, 5, '5', 1.5, true, null] as $value) {
            $structure->add((object) ['station_no' => $value, 'n' => $value], '');
        }
        $member = $structure->root->members['station_no'];

        self::assertSame([3, 1, 1, 1, 1], [$member->integers, $member->strings, $member->numbers, $member->booleans, $member->nulls]);
        self::assertSame([3 => 2, 5 => 2], $member->values);
        self::assertSame(4, $member->looked);
        self::assertEqualsCanonicalizing([crc32('3'), crc32('5')], array_keys($member->sketch));
        self::assertSame([], $structure->root->members['n']->sketch, 'no name of an identifier');
    }

    public function testASketchKeepsTheLeastHashes(): void
    {
        $structure = new Structure();
        $hashes = [];
        for ($i = 0; $i < 1500; ++$i) {
            $structure->add((object) ['code' => "c$i"], '');
            $hashes[] = crc32("c$i");
        }
        $member = $structure->root->members['code'];
        sort($hashes);
        $kept = array_keys($member->sketch);
        sort($kept);

        self::assertLessThan(\PHP_INT_MAX, $member->limit);
        self::assertSame(\array_slice($hashes, 0, \count($kept)), $kept, 'those of both sides are the same ones');
        self::assertGreaterThanOrEqual(512, \count($kept));
    }

    /** @param array<string, string> $references */
    #[DataProvider('named')]
    public function testAReferenceHasANameThatSpeaksOfWhatItLeadsTo(string $field, array $references): void
    {
        $stations = $messages = '';
        for ($i = 0; $i < 40; ++$i) {
            $stations .= json_encode(['code' => "ST-$i", 'ref' => "R$i"])."\n";
            $messages .= json_encode([$field => 'ST-'.($i % 30)])."\n";
        }
        $folder = new Folder(['stations.jsonl' => $stations, 'messages.jsonl' => $messages]);
        $keys = FilesReader::open($folder->path)->read(new Choice(), new SilentProgress())->table('files', 'messages')->foreignKeys ?? [];

        self::assertSame($references, array_column(array_map(
            static fn (ForeignKey $key): array => [$key->columns[0], $key->references->table.'.'.$key->references->columns[0]],
            $keys,
        ), 1, 0));
    }

    /** @return iterable<string, array{string, array<string, string>}> */
    public static function named(): iterable
    {
        yield 'by the name of the collection' => ['station', ['station' => 'stations.code']];
        yield 'with the word of a key' => ['stationCode', ['stationCode' => 'stations.code']];
        yield 'with a role' => ['next_station_code', ['next_station_code' => 'stations.code']];
        yield 'by a part of it' => ['stat_no', ['stat_no' => 'stations.code']];
        yield 'by another word' => ['kind_code', []];
        yield 'by a word that all have' => ['code', []];
        yield 'by two letters' => ['st', []];
    }

    public function testCodesAreWordsThatStandOftenEnough(): void
    {
        $codes = static function (int $of, int $distinct, int $length = 3): array {
            $lines = '';
            for ($i = 0; $i < $of; ++$i) {
                $lines .= json_encode(['state' => str_pad('s'.($i % $distinct), $length, '-'), 'n' => $i % 2])."\n";
            }
            $folder = new Folder(['m.jsonl' => $lines]);

            return FilesReader::open($folder->path)->read(new Choice(), new SilentProgress())->tables[0]->column('state')->seen->values ?? [];
        };

        self::assertCount(5, $codes(20, 5));
        self::assertSame([], $codes(19, 5), 'four of each at least');
        self::assertSame([], $codes(200, 5, 41), 'too long for a code');
        self::assertCount(1, $codes(8, 1), 'one code is one');
        self::assertSame([], $codes(1, 1));
    }

    public function testTypesOfASchemaAreInOneOrder(): void
    {
        $schema = ['type' => 'object', 'properties' => [
            'a' => ['type' => ['string', 'integer', 'null'], 'format' => 'date'], 'b' => ['properties' => ['c' => ['type' => 'boolean']]],
            'd' => ['enum' => ['x', 'y', null]], 'e' => [],
        ], 'required' => ['a', 'b', 'd']];
        $folder = new Folder(['plan.schema.json' => (string) json_encode($schema)]);
        $table = FilesReader::open($folder->path)->read(new Choice(), new SilentProgress())->tables[0];

        self::assertSame(
            [['a', 'integer | string (date)', true], ['b', 'object', false], ['b.c', 'boolean', true], ['d', "enum('x','y')", true], ['e', 'any', true]],
            array_map(static fn (Column $column): array => [$column->name, $column->base ?? $column->type, $column->nullable], $table->columns),
        );
    }

    /** @param array<string, mixed> ...$objects */
    #[DataProvider('innerNames')]
    public function testObjectsUnderNamesAreAlikeOrNoMap(bool $map, array ...$objects): void
    {
        $structure = new Structure();
        foreach ($objects as $object) {
            $structure->add(json_decode((string) json_encode($object)), '');
        }

        self::assertSame($map, [] !== Maps::in($structure->root));
    }

    /** @return iterable<string, array<bool|array<string, mixed>>> */
    public static function innerNames(): iterable
    {
        $days = ['2024-01-01', '2024-01-02', '2024-01-03'];
        yield 'objects with nothing in them' => [false, array_fill_keys($days, new \stdClass())];
        yield 'objects of the same members' => [true, array_fill_keys($days, ['low' => 1, 'high' => 2])];
        yield 'objects of other members' => [false, [$days[0] => ['a' => 1], $days[1] => ['b' => 'x'], $days[2] => ['c' => true]]];
        yield 'objects whose members are of several kinds' => [false, [$days[0] => ['a' => 1], $days[1] => ['a' => 'x'], $days[2] => ['a' => 2]]];
        yield 'objects one of whose members may be null' => [true, [$days[0] => ['a' => 1], $days[1] => ['a' => null], $days[2] => ['a' => 2]]];
        yield 'maps of other names, all of one kind' => [true, [$days[0] => ['a' => 1, 'b' => 2], $days[1] => ['c' => 1], $days[2] => ['d' => 3]]];
    }
}
