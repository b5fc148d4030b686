<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Files;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\OpenForm;
use Fasti\Core\Files\CsvHeader;
use Fasti\Core\Files\CsvTable;
use Fasti\Core\Files\FileProfiler;
use Fasti\Core\Files\FilesReader;
use Fasti\Core\Files\JsonSchema;
use Fasti\Core\Files\MemberList;
use Fasti\Core\Profile\ProfileArray;
use Fasti\Core\Survey\Choice;
use Fasti\Core\Survey\SilentProgress;
use Fasti\Core\Survey\SourceError;
use Fasti\Tests\Core\Golden\Snapshot;
use Fasti\Tests\Core\Golden\World;
use PHPUnit\Framework\TestCase;

/** Everything that is read of odd files, what is said of what is wrong with them, and their profiles, as it was seen to be. */
final class SeenTest extends TestCase
{
    public function testFoldersOfFiles(): void
    {
        $lines = [];
        foreach (self::folders() as $name => $files) {
            $folder = new Folder($files);
            try {
                $reader = FilesReader::open($folder->path);
                $catalog = $reader->read(new Choice(), new SilentProgress());
                array_push($lines, "# $name", ...self::plain(World::lines('inventory', $reader->inventory()), $folder), ...self::plain(
                    World::lines('catalog', OpenForm::of($catalog)), $folder,
                ));
                array_push($lines, ...self::profiles($folder, $catalog));
                foreach ($catalog->tables as $table) {
                    array_push($lines, ...World::lines("schema of $table->name", JsonSchema::of($table, 'Title', 'About it.', ['a' => 'What it is.'])));
                }
            } catch (SourceError $e) {
                array_push($lines, "# $name", ...self::plain([$e->inWords()], $folder));
            }
        }

        Snapshot::same('files', $lines);
    }

    public function testTypesOfValuesAndHeadersOfTables(): void
    {
        $lines = [];
        foreach (['1', '007', '-5', '+5', '1.50', '1,50', '1.000,5', '1e3', '', ' ', '2024-01-02', '02.01.2024', '2024-01-02 10:00', '2024-01-02T10:00:00Z',
            '10:20', 'true', 'yes', 'no', 'x',
            '99999999999', '2147483648', '9999999999999999999', '50%', '0', '1', '-0', '.5', '5.', '١'] as $value) {
            $lines[] = "“{$value}”: ".CsvTable::typeOf($value);
        }
        foreach ([
            [['id', 'name'], [['1', 'a'], ['2', 'b']]], [['1', 'a'], [['2', 'b'], ['3', 'c']]], [['id', 'id'], [['1', '2']]], [['', 'name'], [['1', 'a']]],
            [['name', 'town'], [['Ada', 'Arrow'], ['Tom', 'Reed']]], [['2020', '2021'], [['5', '6']]], [['id'], []], [[], []], [['a b', 'Größe'], [['x', 'y']]],
        ] as $i => [$first, $rows]) {
            array_push($lines, ...World::lines("header $i", CsvHeader::of($first, $rows)));
        }

        Snapshot::same('files.types', $lines);
    }

    public function testListsOfMembersThatAreWritten(): void
    {
        $lines = [];
        foreach ([
            "id integer required\nname string\nat string (date-time)\n\"odd name\" "
                ."number\nreadings[].v number", '', 'id', 'id number extra words', "id integer\nid integer", 'a.b.c string required',
            'x nothing', "tags[] string\n\n  spaced   string  ", str_repeat('x', 200).' string',
        ] as $text) {
            try {
                array_push(
                    $lines,
                    ...World::lines(addcslashes(mb_strimwidth($text, 0, 60, '…'), "\n"), OpenForm::of(MemberList::table('main', 'm', 'about it', $text))),
                );
            } catch (SourceError $e) {
                $lines[] = addcslashes(mb_strimwidth($text, 0, 60, '…'), "\n").': '.$e->inWords();
            }
        }

        Snapshot::same('files.members', $lines);
    }

    /** @return list<string> */
    private static function profiles(Folder $folder, Catalog $catalog): array
    {
        $lines = [];
        foreach ($catalog->tables as $table) {
            foreach (glob($folder->path.'/'.$table->name.'.*') ?: [] as $path) {
                if (1 === preg_match('/\.(?:csv|tsv|jsonl?)$/', $path)) {
                    $known = ProfileArray::of((new FileProfiler())->profile($path, $table, [], [], new SilentProgress()));
                    unset($known['seconds']);
                    array_push($lines, ...World::lines("profile of $table->name", $known));
                }
            }
        }

        return $lines;
    }

    /**
     * @param list<string> $lines
     *
     * @return list<string> without where the folder stands
     */
    private static function plain(array $lines, Folder $folder): array
    {
        return str_replace([$folder->path, basename($folder->path)], 'FOLDER', $lines);
    }

    /** @return iterable<string, array<string, string>> */
    private static function folders(): iterable
    {
        $each = static fn (callable $make, int $many = 40): string => implode(
            "\n",
            array_map(static fn (int $i): string => (string) json_encode($make($i)), range(0, $many - 1)),
        );
        yield 'nothing' => [];
        yield 'what is not read' => ['a.exe' => 'MZ', 'b.md' => '# b'];
        yield 'tables' => [
            'station.csv' => "id;name;opened;height\n1;\"Arrow; bridge\";2019-05-01;1,50\n2;Mill race;2020-06-02;2,25\n3;;;\n",
            'visit.tsv' => "id\tstation_id\tcost\tflag\n1\t1\t5.50\tyes\n2\t2\t7\tno\n3\t9\t\tyes\n",
        ];
        yield 'uneven rows' => [
            'a.csv' => "a,b,c\n1,2\n1,2,3,4\n\"open,1\n",
            'b.csv' => "x|y\n1|2\n",
            'c.csv' => "\xEF\xBB\xBFname,größe\r\nx,1\r\n",
            'd.csv' => "\xFF\xFEa\0,\0b\0\n\0",
        ];
        yield 'no header' => ['readings.csv' => "1,2024-01-01,5.5\n2,2024-01-02,6.5\n3,2024-01-03,7.5\n"];
        yield 'documents that differ' => ['m.jsonl' => $each(static fn (int $i): array => [
            'id' => $i, 'kind' => ['G', 'S'][$i % 2], 'at' => \sprintf('2024-01-%02dT10:00:00Z', 1 + $i % 28),
        ] + (0 === $i % 3 ? ['power' => ['volts' => 3.5, 'note' => null]] : []) + (0 === $i % 4 ? ['readings' => [['p' => 'a', 'v' => $i], ['p' => 'b']]] : [])
            + (0 === $i % 5 ? ['station_id' => 'ARR-0'.($i % 7)] : []))];
        yield 'documents that refer' => [
            'stations.json' => (string) json_encode(array_map(
                static fn (int $i): array => ['_id' => "ARR-0$i", 'name' => "Station $i", 'prices' => ['EUR' => $i, 'CHF' => 2 * $i]],
                range(0, 9),
            )),
            'visits.jsonl' => $each(
                static fn (int $i): array => ['_id' => $i, 'stationId' => 'ARR-0'.($i % 10), 'tags' => ['a', 'b'], 'names' => ['en' => 'x', 'de' => 'y']],
            ),
        ];
        yield 'maps by many names' => [
            'maps.jsonl' => $each(
                static fn (int $i): array => ['by' => ["s$i" => 1, 's'.($i + 1) => 2], 'at' => ['2024-01-01' => 5], 'v' => ['1.0.0' => true]],
            ),
        ];
        yield from self::odd();
    }

    /** @return iterable<string, array<string, string>> */
    private static function odd(): iterable
    {
        yield 'broken documents' => [
            'a.json' => '[{"a": 1}, {"a": 2', 'b.jsonl' => "{\"a\": 1}\n{broken}\n{\"a\": 3}\n[1]\n5\n", 'c.json' => '"text"', 'd.json' => '',
            'e.json' => '{"a": {"b": {"c": [[1, 2], [3]]}}}',
        ];
        yield 'a schema of documents' => ['order.schema.json' => (string) json_encode([
            '$schema' => 'https://json-schema.org/draft/2020-12/schema', 'title' => 'Order', 'type' => 'object', 'required' => ['id'],
            'properties' => [
                'id' => [
                    'type' => 'integer',
                    'description' => 'its number',
                ], 'state' => ['enum' => ['open', 'closed', null]], 'at' => ['type' => ['string', 'null'], 'format' => 'date'],
                'lines' => ['type' => 'array', 'items' => ['$ref' => '#/$defs/line']], 'extra' => [
                    'type' => 'object',
                    'additionalProperties' => ['type' => 'number'],
                ],
                'either' => ['oneOf' => [['type' => 'string'], ['type' => 'integer']]], 'gone' => ['$ref' => '#/$defs/missing'], 'fixed' => ['const' => 'x'],
            ],
            '$defs' => ['line' => [
                'type' => 'object',
                'properties' => ['sku' => ['type' => 'string'], 'of' => ['$ref' => '#/$defs/line']],
                'required' => ['sku'],
            ]],
        ])];
        yield 'a script beside tables' => [
            'schema.sql' => "CREATE TABLE a (id int PRIMARY KEY, b_id int REFERENCES b (id));\nCREATE TABLE b (id int PRIMARY KEY);\nINSERT INTO a VALUES "
                .'(1, 2);',
            'b.csv' => "id\n1\n",
        ];
        yield 'sheets of a catalog' => [
            'columns.csv' => "SCHEMA_NAME,TABLE_NAME,TABLE_KIND,COLUMN_NAME,POSITION,NATIVE_TYPE,REQUIRED,DEFAULT_VALUE\nR,S,TABLE,ID,1,NUMBER,YES,\n"
                ."R,S,TABLE,NAME,2,VARCHAR2(9),NO,'x'\nR,V,VIEW,ID,1,NUMBER,NO,\n",
            'keys.csv' => 'schema_name,table_name,constraint_name,constraint_kind,column_name,position,far_schema,far_table,far_column,on_delete,'
                ."on_update\nR,S,PK,PRIMARY KEY,ID,1,,,,,\nR,S,FK,FOREIGN KEY,ID,1,R,T,ID,CASCADE,\n",
        ];
    }
}
