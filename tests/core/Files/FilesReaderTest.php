<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Files;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Files\FilesReader;
use Fasti\Core\Files\JsonSchema;
use Fasti\Core\Files\MemberList;
use Fasti\Core\Sheet\Sheets;
use Fasti\Core\Survey\Choice;
use Fasti\Core\Survey\SilentProgress;
use Fasti\Core\Survey\SourceError;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class FilesReaderTest extends TestCase
{
    public function testTheTypesOfACsvFileFitAllItsValues(): void
    {
        $table = self::table(
            ['list.csv' => "id;name;opened;height;flag;odd;x\n1;\"a; \"\"b\"\"\";2024-01-02;1.50;yes;007;\n2;c;2024-02-03 10:00;12;no;8;\n"],
            'list',
        );

        self::assertSame(
            [
                'id' => 'integer', 'name' => 'varchar(6)', 'opened' => 'timestamp', 'height' => 'decimal(4,2)', 'flag' => 'boolean', 'odd' => 'varchar(3)',
                'x' => 'text',
            ],
            array_column(array_map(static fn (Column $column): array => [$column->name, $column->type], $table->columns), 1, 0),
        );
        self::assertSame([false, true], [$table->column('id')?->nullable, $table->column('x')?->nullable]);
        self::assertSame(2, $table->rowEstimate);
    }

    public function testOddCsvFilesAreReadAndWhatIsOddIsSaid(): void
    {
        $folder = new Folder(['a.csv' => "1\t2\n3\t4\t5\n\"x\ny\"\tcaf\xE9\n"]);
        $catalog = FilesReader::open($folder->path)->read(new Choice(), new SilentProgress());

        self::assertSame(['column 1', 'column 2'], array_map(static fn (Column $column): string => $column->name, $catalog->tables[0]->columns));
        self::assertSame(3, $catalog->tables[0]->rowEstimate);
        self::assertStringContainsString('more or fewer values', implode(' ', $catalog->notes));
        self::assertStringContainsString('not in UTF-8', implode(' ', $catalog->notes));
        self::assertStringContainsString('does not look like names', implode(' ', $catalog->notes));
    }

    /** @return iterable<string, array{string, string, string}> */
    public static function wrong(): iterable
    {
        yield 'an unknown ending' => ['a.xyz', 'x', 'does not say what it is'];
        yield 'a workbook called CSV' => ['a.csv', "PK\x03\x04", 'a zip archive'];
        yield 'JSON called CSV' => ['a.csv', '[{"a":1}]', 'JSON'];
        yield 'a web page called CSV' => ['a.csv', '<html>', 'XML or HTML'];
    }

    #[DataProvider('wrong')]
    public function testAFileThatIsNotWhatItsEndingSaysIsRefusedInWords(string $name, string $content, string $words): void
    {
        $folder = new Folder([$name => $content]);
        $this->expectException(SourceError::class);
        $this->expectExceptionMessage($words);
        FilesReader::open($folder->path.'/'.$name)->read(new Choice(), new SilentProgress());
    }

    public function testAFolderWithNothingToReadIsRefused(): void
    {
        $folder = new Folder(['a.txt' => '']);
        $this->expectExceptionMessage('holds no file that Fasti reads');
        FilesReader::open($folder->path);
    }

    public function testAFolderGivesAllItsKindsAndTheChoiceHolds(): void
    {
        $folder = new Folder([
            's.sql' => 'CREATE TABLE from_script (a int);',
            'rows.csv' => "a,b\n1,2\n",
            'docs.jsonl' => '{"a":1}',
            'plan.schema.json' => '{"type":"object","properties":{"x":{"type":"string"}}}',
        ]);
        $reader = FilesReader::open($folder->path);

        self::assertEqualsCanonicalizing(
            ['docs' => 'collection', 'plan' => 'collection', 'rows' => 'table', 'from_script' => 'table'],
            $reader->inventory()->schemas['files'],
        );
        self::assertSame(
            ['docs', 'from_script', 'plan', 'rows'],
            array_map(static fn (Table $table): string => $table->name, $reader->read(new Choice(), new SilentProgress())->tables),
        );
        self::assertSame(
            ['rows'],
            array_map(static fn (Table $table): string => $table->name, $reader->read(new Choice([], ['ro*']), new SilentProgress())->tables),
        );
    }

    public function testOneBadFileAmongSeveralIsSaidAndTheOthersComeIn(): void
    {
        $folder = new Folder(['a.csv' => "x,y\n1,2\n", 'b.csv' => '[{"a":1}]', 'data.sql' => 'INSERT INTO t VALUES (1);']);
        $catalog = FilesReader::open($folder->path)->read(new Choice(), new SilentProgress());

        self::assertSame(['a'], array_map(static fn (Table $table): string => $table->name, $catalog->tables));
        self::assertStringContainsString('“b.csv” is no CSV file', $catalog->notes[0]);
        self::assertStringContainsString('“data.sql” makes no table', $catalog->notes[1]);
        unlink($folder->path.'/a.csv');
        $this->expectException(SourceError::class);
        FilesReader::open($folder->path)->inventory();
    }

    public function testSheetsAreKnownByTheirHeaderAndReadTogether(): void
    {
        $folder = new Folder([
            'c.csv' => "SCHEMA_NAME,TABLE_NAME,TABLE_KIND,COLUMN_NAME,POSITION,NATIVE_TYPE,REQUIRED,DEFAULT_VALUE\n"
                ."RIVER,STATION,TABLE,NAME,2,VARCHAR2(80),NO,\nRIVER,STATION,TABLE,ID,1,\"NUMBER(9,0)\",YES,\n"
                    ."RIVER,VISIT,TABLE,STATION_ID,1,\"NUMBER(9,0)\",YES,0\n"
                ."RIVER,OPEN_ONES,VIEW,ID,1,NUMBER,NO,\n",
            'k.csv' => "schema_name,table_name,constraint_name,constraint_kind,column_name,position,far_schema,far_table,far_column,on_delete,on_update\n"
                ."RIVER,STATION,PK_S,PRIMARY KEY,ID,1,,,,,\nRIVER,VISIT,FK_V,FOREIGN KEY,STATION_ID,1,RIVER,STATION,ID,CASCADE,\n"
                ."RIVER,AWAY,PK_A,PRIMARY KEY,ID,1,,,,,\n",
            'n.csv' => "schema_name,table_name,column_name,comment_text\nRIVER,STATION,,A fixed place\nRIVER,STATION,NAME,What people call it\n",
        ]);
        $catalog = FilesReader::open($folder->path)->read(new Choice(), new SilentProgress());
        $station = $catalog->table('RIVER', 'STATION');

        self::assertSame(['OPEN_ONES', 'STATION', 'VISIT'], array_map(static fn (Table $table): string => $table->name, $catalog->tables));
        self::assertSame(['ID', 'NAME'], array_map(static fn (Column $column): string => $column->name, $station->columns ?? []));
        self::assertSame(
            ['A fixed place', 'What people call it', ['ID']],
            [$station?->comment, $station?->column('NAME')?->comment, $station?->primaryKey?->columns],
        );
        self::assertSame(
            ['STATION', 'CASCADE'],
            [$catalog->table('RIVER', 'VISIT')?->foreignKeys[0]->references->table, $catalog->table('RIVER', 'VISIT')?->foreignKeys[0]->onDelete],
        );
        self::assertStringContainsString('RIVER.AWAY, which the sheet of columns does not list', $catalog->notes[0]);
    }

    public function testSheetsWithoutTheOneThatIsNeededAreRefused(): void
    {
        $folder = new Folder(['n.csv' => "schema_name,table_name,column_name,comment_text\nR,S,,x\n"]);
        $this->expectExceptionMessage('no sheet of columns');
        FilesReader::open($folder->path)->inventory();
    }

    public function testEachEngineHasAQueryForTheSheetThatIsNeeded(): void
    {
        foreach (Sheets::queries() as $engine => $set) {
            self::assertArrayHasKey('columns', $set['queries'], $engine);
            foreach (['schema_name', 'table_name', 'column_name', 'native_type', 'required'] as $column) {
                self::assertMatchesRegularExpression("/AS \"?$column\\b/i", $set['queries']['columns'], $engine);
            }
        }
        self::assertGreaterThanOrEqual(6, \count(Sheets::queries()));
    }

    public function testASchemaIsReadAsAPlannedCollectionAndWrittenAgain(): void
    {
        $schema = '{"$schema":"https://json-schema.org/draft/2020-12/schema","type":"object","required":["at"],'
            .'"properties":{"at":{"type":"string","format":"date-time","description":"when"},"level":{"enum":["low","high"]},"who":{"$ref":"#/$defs/person"},'
            .'"tags":{"type":"array","items":{"type":"string"}},"extra":{"type":"object","additionalProperties":{"type":"number"}}},'
            .'"$defs":{"person":{"type":"object","required":["n"],"properties":{"n":{"type":["string","null"]}}}}}';
        $table = self::table(['alarm.schema.json' => $schema], 'alarm');

        self::assertTrue($table->planned);
        self::assertSame(
            ['at', 'level', 'who', 'who.n', 'tags', 'tags[]', 'extra', 'extra{}'],
            array_map(static fn (Column $column): string => $column->name, $table->columns),
        );
        $written = JsonSchema::of($table);
        self::assertSame(['at'], $written['required'] ?? null);
        /** @var array<string, mixed> $decoded */
        $decoded = json_decode((string) json_encode($written), true);
        $again = (new \Fasti\Core\Files\SchemaFile($decoded))->table('files', 'alarm');
        self::assertEquals(
            array_map(static fn (Column $column): array => [$column->name, $column->nullable], $table->columns),
            array_map(static fn (Column $column): array => [$column->name, $column->nullable], $again->columns),
        );
    }

    public function testMembersMayBePlannedLineByLine(): void
    {
        $table = MemberList::table('files', 'alarm', 'An alarm', "at string (date-time) required\nreadings[].value number\n");

        self::assertSame(
            ['An alarm', 'string (date-time)', false, true],
            [$table->comment, $table->columns[0]->type, $table->columns[0]->nullable, $table->columns[1]->nullable],
        );
        $this->expectException(SourceError::class);
        $this->expectExceptionMessage('Line 2, “value colour”');
        MemberList::table('files', 'alarm', '', "at string\nvalue colour");
    }

    /** @param array<string, string> $files */
    private static function table(array $files, string $name): Table
    {
        $folder = new Folder($files);

        return FilesReader::open($folder->path)->read(new Choice(), new SilentProgress())->table('files', $name) ?? self::fail("There is no $name.");
    }
}
