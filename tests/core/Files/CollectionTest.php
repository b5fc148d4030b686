<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Files;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Files\FilesReader;
use Fasti\Core\Survey\Choice;
use Fasti\Core\Survey\SilentProgress;
use Fasti\Core\Survey\SourceError;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class CollectionTest extends TestCase
{
    public function testMembersArePathsWithHowOftenTheyAreThere(): void
    {
        $table = self::one("{\"a\":1,\"b\":{\"c\":\"x\",\"d\":[{\"e\":1},{\"e\":2,\"f\":null}]}}\n{\"a\":2.5,\"b\":{\"c\":\"y\",\"d\":[]},\"g\":[true]}\n");

        self::assertSame(
            ['a', 'b', 'b.c', 'b.d', 'b.d[].e', 'b.d[].f', 'g', 'g[]'],
            array_map(static fn (Column $column): string => $column->name, $table->columns),
        );
        self::assertSame(TableType::Collection, $table->kind);
        self::assertSame(['number', false], [$table->column('a')?->type, $table->column('a')?->nullable]);
        self::assertSame([1, 2], [$table->column('g')?->seen?->present, $table->column('g')?->seen?->of]);
        self::assertSame([1, 2], [$table->column('b.d[].f')?->seen?->present, $table->column('b.d[].f')?->seen?->of]);
        self::assertTrue($table->column('b.d[].f')?->nullable);
        self::assertSame(2, $table->rowEstimate);
    }

    public function testAVaryingTypeIsSaidWithHowOften(): void
    {
        $signal = self::one(str_repeat("{\"signal\":-70}\n", 9)."{\"signal\":\"-70 dBm\"}\n")->column('signal');

        self::assertSame('integer | string', $signal?->type);
        self::assertSame(['integer' => 9, 'string' => 1], $signal->seen?->types);
    }

    public function testFormatsAndCodesAreSeen(): void
    {
        $lines = '';
        for ($i = 0; $i < 60; ++$i) {
            $lines .= json_encode([
                'at' => gmdate('Y-m-d\TH:i:s\Z', $i * 1000),
                'day' => '2024-02-0'.(1 + $i % 9),
                'flag' => 'GSB'[$i % 3],
                'free' => 'text '.$i,
            ])."\n";
        }
        $table = self::one($lines);

        self::assertSame(
            ['string (date-time)', 'string (date)', 'string', 'string'],
            array_map(static fn (Column $column): string => $column->type, $table->columns),
        );
        self::assertSame(['G' => 20, 'S' => 20, 'B' => 20], $table->column('flag')?->seen?->values);
        self::assertSame([], $table->column('free')?->seen?->values);
    }

    public function testVersionsOfAMessageAreShapesOfTheirOwn(): void
    {
        $lines = '';
        for ($i = 0; $i < 90; ++$i) {
            $lines .= json_encode(['version' => 1 + intdiv($i, 30), 'id' => $i] + match (intdiv($i, 30)) {
                0 => ['lat' => 1.5, 'lon' => 2.5],
                1 => ['position' => ['lat' => 1.5, 'lon' => 2.5]] + (0 === $i % 2 ? ['note' => 'x'] : []),
                default => ['position' => ['lat' => 1.5, 'lon' => 2.5], 'gateway' => 'g'],
            })."\n";
        }
        $shapes = self::one($lines)->shapes;

        self::assertCount(3, $shapes);
        self::assertSame([30, 30, 30], array_map(static fn ($shape): int => $shape->count, $shapes));
        self::assertSame([1, 30], [$shapes[0]->first, $shapes[0]->last]);
        self::assertSame(['note'], $shapes[1]->sometimes);
        self::assertStringContainsString('"position"', $shapes[1]->example);
    }

    public function testAnExampleShowsNoPersonalValue(): void
    {
        $shape = self::one("{\"station\":\"ARR-01\",\"observer_email\":\"some.body@arrowmere.example\",\"sent_by\":\"x.y@arrowmere.example\"}\n")->shapes[0];

        self::assertStringContainsString('ARR-01', $shape->example);
        self::assertStringNotContainsString('some.body', $shape->example);
        self::assertStringNotContainsString('x.y@', $shape->example);
    }

    public function testFewPersonalValuesAreNotTakenForCodes(): void
    {
        $lines = '';
        for ($i = 0; $i < 80; ++$i) {
            $lines .= json_encode([
                'by' => 'p'.($i % 4).'@arrowmere.example',
                'observer' => ['Ada Brook', 'Bran Calder'][$i % 2],
                'state' => ['ok', 'low'][$i % 2],
            ])."\n";
        }
        $table = self::one($lines);

        self::assertSame([[], [], ['ok' => 40, 'low' => 40]], array_map(static fn (Column $column): ?array => $column->seen?->values, $table->columns));
    }

    public function testReferencesToOtherCollectionsAreProposedWithTheirReason(): void
    {
        $stations = $messages = '';
        for ($i = 0; $i < 700; ++$i) {
            $stations .= json_encode(['code' => 'ST-'.$i, 'name' => 'n'.$i])."\n";
            $messages .= json_encode(['station_code' => 'ST-'.($i * 7 % 700), 'other_code' => 'ST-'.(5000 + $i)])."\n";
        }
        $catalog = self::read(['stations.jsonl' => $stations, 'messages.jsonl' => $messages]);
        $keys = $catalog->table('files', 'messages')->foreignKeys ?? [];

        self::assertCount(1, $keys);
        self::assertSame([['station_code'], 'stations', ['code']], [$keys[0]->columns, $keys[0]->references->table, $keys[0]->references->columns]);
        self::assertStringContainsString('100 % of its values', $keys[0]->reason);
    }

    public function testAMillionMemberNamesAreTheKeysOfAMap(): void
    {
        $lines = '';
        for ($i = 0; $i < 2000; ++$i) {
            $sensors = [];
            for ($k = 0; $k < 500; ++$k) {
                $sensors['s'.(500 * $i + $k)] = ['v' => $k];
            }
            $lines .= json_encode(['id' => $i, 'sensors' => $sensors])."\n";
        }
        $catalog = self::read(['wide.jsonl' => $lines]);

        self::assertSame(
            ['id', 'sensors', 'sensors{}', 'sensors{}.v'],
            array_map(static fn (Column $column): string => $column->name, $catalog->tables[0]->columns),
        );
        self::assertStringContainsString('the object sensors is a map', $catalog->notes[0]);
        self::assertLessThan(200, memory_get_peak_usage() / 1048576);
    }

    public function testDeepNestingIsReadAsFarAsItHelps(): void
    {
        $catalog = self::read(['deep.jsonl' => str_repeat('{"a":', 200).'1'.str_repeat('}', 200)."\n"]);

        self::assertCount(64, $catalog->tables[0]->columns);
        self::assertStringContainsString('nested more than 64 deep', $catalog->notes[0]);
    }

    /** @return iterable<string, array{string, int}> */
    public static function forms(): iterable
    {
        yield 'an array' => ['[{"a":1},{"a":2}, {"a":"}"}]', 3];
        yield 'an array over many lines' => ["[\n  {\n    \"a\": 1\n  },\n  {\n    \"a\": 2\n  }\n]\n", 2];
        yield 'one document over many lines' => ["{\n  \"a\": {\n    \"b\": 1\n  }\n}", 1];
        yield 'documents one after another' => ["{\n \"a\": 1\n}\n{\n \"a\": 2\n}", 2];
        yield 'lines with empty ones between' => ["{\"a\":1}\n\n{\"a\":2}\r\n", 2];
        yield 'a byte order mark' => ["\xEF\xBB\xBF{\"a\":1}\n", 1];
        yield 'a document greater than what is read at a time' => ['[{"a":"'.str_repeat('x', 600000).'"},{"a":1}]', 2];
    }

    #[DataProvider('forms')]
    public function testDocumentsStandInLinesOrInAnArray(string $content, int $count): void
    {
        self::assertSame($count, self::one($content)->rowEstimate);
    }

    public function testABrokenLineIsSaidAndTheRestComesIn(): void
    {
        $catalog = self::read(['m.jsonl' => "{\"a\":1}\n{\"a\":\n{\"a\":3}\n[1]\n"]);

        self::assertSame(2, $catalog->tables[0]->rowEstimate);
        self::assertStringContainsString('document 2', $catalog->notes[0]);
        self::assertStringContainsString('1 values are no objects', $catalog->notes[1]);
    }

    public function testBrokenLettersAreReplacedAndSaid(): void
    {
        $catalog = self::read(['m.jsonl' => "{\"a\":\"caf\xE9\"}\n"]);

        self::assertSame(1, $catalog->tables[0]->rowEstimate);
        self::assertStringContainsString('not in UTF-8', $catalog->notes[0]);
    }

    public function testAnArrayThatBreaksOffGivesItsWholeDocuments(): void
    {
        $catalog = self::read(['m.json' => '[{"a":1},{"a":2},{"a":']);

        self::assertSame(2, $catalog->tables[0]->rowEstimate);
        self::assertStringContainsString('document 3 is not complete', $catalog->notes[0]);
    }

    /** @return iterable<string, array{string, string}> */
    public static function wrong(): iterable
    {
        yield 'empty' => ['', 'is empty'];
        yield 'not JSON' => ["id;name\n1;x", 'not JSON'];
        yield 'packed' => ["\x1f\x8b\x08", 'packed with gzip'];
        yield 'binary' => ["{\0\0", 'a binary file'];
    }

    #[DataProvider('wrong')]
    public function testAFileThatIsNoJsonIsRefusedInWords(string $content, string $words): void
    {
        $this->expectException(SourceError::class);
        $this->expectExceptionMessage($words);
        self::one($content);
    }

    private static function one(string $content): Table
    {
        return self::read(['m.json' => $content])->tables[0];
    }

    /** @param array<string, string> $files */
    private static function read(array $files): Catalog
    {
        $folder = new Folder($files);

        return FilesReader::open($folder->path)->read(new Choice(), new SilentProgress());
    }
}
