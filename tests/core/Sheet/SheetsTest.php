<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Sheet;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Sheet\Sheets;
use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;

final class SheetsTest extends TestCase
{
    private const COLUMNS = [
        'schema_name', 'table_name', 'table_kind', 'column_name', 'position', 'native_type', 'required', 'default_value', 'numbered', 'column_comment',
        'table_comment',
    ];
    private const KEYS = [
        'schema_name', 'table_name', 'constraint_name', 'constraint_kind', 'column_name', 'position', 'far_schema', 'far_table', 'far_column', 'on_delete',
        'on_update',
    ];

    /** @param list<string> $header */
    #[TestWith([['SCHEMA_NAME', ' Table_Name', 'COLUMN_NAME', 'NATIVE_TYPE'], 'columns'])]
    #[TestWith([['constraint_kind', 'constraint_name', 'column_name', 'table_name', 'schema_name'], 'keys'])]
    #[TestWith([['schema_name', 'table_name', 'column_name', 'comment_text'], 'comments'])]
    #[TestWith([['schema_name', 'table_name', 'height'], null])]
    #[TestWith([['id', 'name'], null])]
    public function testASheetIsKnownByItsHeaderAlone(array $header, ?string $sheet): void
    {
        self::assertSame($sheet, Sheets::sheet($header));
    }

    public function testEachEngineBringsTheQueriesOfItsSheetsAndWhatCannotBeReachedComesFirst(): void
    {
        $queries = Sheets::queries();

        self::assertSame(['sql', 'oracle', 'sqlserver', 'db2', 'snowflake', 'teradata', 'mysql', 'postgresql'], array_keys($queries));
        self::assertSame(['MySQL and MariaDB', 'IBM Db2'], [$queries['mysql']['name'], $queries['db2']['name']]);
        self::assertSame(['columns', 'keys', 'comments'], array_keys($queries['oracle']['queries']));
        self::assertSame(['columns', 'keys'], array_keys($queries['snowflake']['queries']));
        foreach ($queries as $engine => ['queries' => $sheets]) {
            foreach ($sheets as $sheet => $sql) {
                // What a query gives is what is looked for in the header of its sheet.
                preg_match_all('/\b(\w+_name|native_type|constraint_kind|comment_text)\b/i', $sql, $m);
                self::assertSame($sheet, Sheets::sheet($m[1]), "$engine $sheet");
            }
        }
    }

    public function testWhatClientsWriteForNothingIsNothing(): void
    {
        $table = self::catalog([
            ['R', 'T', 'BASE TABLE', 'a', '1', 'NUMBER(9,0)', 'Y', 'NULL', 'YES', '(null)', '\N'],
            ['R', 'T', 'BASE TABLE', 'b', '2', 'VARCHAR2(9)', 'no', "'x'", '', ' spaced ', ''],
        ])->tables[0];

        self::assertSame(
            ['', null, true, false],
            [$table->comment, $table->columns[0]->default, $table->columns[0]->autoNumbered, $table->columns[0]->nullable],
        );
        self::assertSame(
            ["'x'", true, 'spaced', 'varchar2(9)'],
            [$table->columns[1]->default, $table->columns[1]->nullable, $table->columns[1]->comment, $table->columns[1]->type],
        );
    }

    public function testColumnsAndKeysStandInTheirOrderHoweverTheRowsCome(): void
    {
        $table = self::catalog(
            [
                ['R', 'T', 'TABLE', 'c', '10', 'int', '', '', '', '', ''],
                ['R', 'T', 'TABLE', 'a', '1', 'int', '', '', '', '', ''],
                ['R', 'T', 'TABLE', 'b', '2', 'int', '', '', '', '', ''],
            ],
            [
                ['R', 'T', 'P', 'PRIMARY KEY', 'b', '2', '', '', '', '', ''],
                ['R', 'T', 'P', 'PRIMARY KEY', 'a', '1', '', '', '', '', ''],
                ['R', 'T', 'F', 'FOREIGN KEY', 'c', '1', '', 'FAR', 'id', 'NO_ACTION', 'CASCADE'],
                ['R', 'T', 'U', 'UNIQUE', 'c', '1', '', '', '', '', ''],
            ],
        )->tables[0];

        self::assertSame(['a', 'b', 'c'], array_map(static fn ($column): string => $column->name, $table->columns));
        self::assertSame([['a', 'b'], ['c']], [$table->primaryKey?->columns, $table->uniqueKeys[0]->columns]);
        self::assertSame(
            ['R', 'FAR', 'NO ACTION', 'CASCADE'],
            [
                $table->foreignKeys[0]->references->schema,
                $table->foreignKeys[0]->references->table,
                $table->foreignKeys[0]->onDelete,
                $table->foreignKeys[0]->onUpdate,
            ],
        );
    }

    public function testTablesStandInTheOrderOfTheirNamesAndNumbersAreNames(): void
    {
        $row = static fn (string $schema, string $table): array => [$schema, $table, 'TABLE', 'c', '', 'int', '', '', '', '', ''];
        $catalog = self::catalog([$row('B', 'z'), $row('A', '9'), $row('A', '10'), $row('B', 'a')], []);

        self::assertSame(['A.10', 'A.9', 'B.a', 'B.z'], array_map(static fn ($table): string => $table->schema.'.'.$table->name, $catalog->tables));
    }

    public function testKeysOfWhatIsNotListedAreSaidFiftyTimesAtTheMost(): void
    {
        $keys = [['R', 'T', 'F', 'FOREIGN KEY', 'c', '1', '', '', '', '', '']];
        for ($i = 0; $i < 60; ++$i) {
            $keys[] = ['R', "gone_$i", 'P', 'PRIMARY KEY', 'c', '1', '', '', '', '', ''];
        }
        $catalog = self::catalog([['R', 'T', 'TABLE', 'c', '', 'int', '', '', '', '', ''], ['R', 'T', 'TABLE', 'b', '', 'int', '', '', '', '', '']], $keys);

        self::assertCount(50, $catalog->notes);
        self::assertStringContainsString('R.gone_0, which the sheet of columns does not list', $catalog->notes[0]);
        self::assertSame([], $catalog->tables[0]->foreignKeys, 'it leads nowhere');
        self::assertSame(['c', 'b'], array_map(static fn ($column): string => $column->name, $catalog->tables[0]->columns), 'as they came');
    }

    public function testViewsAreToldFromTables(): void
    {
        $kinds = array_map(
            static fn ($table): TableType => $table->kind,
            self::catalog([
                ['R', 'A', 'VIEW', 'x', '1', 'int', '', '', '', '', ''],
                ['R', 'B', 'MATERIALIZED VIEW', 'x', '1', 'int', '', '', '', '', ''],
                ['R', 'C', '', 'x', '1', 'int', '', '', '', '', ''],
            ])->tables,
        );

        self::assertSame([TableType::View, TableType::MaterializedView, TableType::Table], $kinds);
    }

    public function testARowWithoutATableIsLeftOutAndSaid(): void
    {
        $catalog = self::catalog([['R', '', 'TABLE', 'x', '1', 'int', '', '', '', '', ''], ['R', 'T', 'TABLE', 'x', '1', 'int', '', '', '', '', '']]);

        self::assertCount(1, $catalog->tables);
        self::assertStringContainsString('c.csv, line 0 names no table', $catalog->notes[0]);
    }

    public function testACommentOnWhatIsNotListedMakesNoTable(): void
    {
        $sheets = new Sheets();
        $sheets->add('c.csv', self::COLUMNS, [['R', 'T', 'TABLE', 'x', '1', 'int', '', '', '', '', '']]);
        $sheets->add(
            'n.csv',
            ['schema_name', 'table_name', 'column_name', 'comment_text'],
            [['R', 'AWAY', '', 'lost'], ['R', 'T', 'y', 'lost'], ['R', 'T', 'x', 'kept'], ['R', 'T', '', 'of the table']],
        );
        $catalog = $sheets->catalog();

        self::assertSame(['T'], array_map(static fn ($table): string => $table->name, $catalog->tables));
        self::assertSame(['of the table', 'kept'], [$catalog->tables[0]->comment, $catalog->tables[0]->columns[0]->comment]);
    }

    public function testEveryQueryIsOneStatementThatOnlyReads(): void
    {
        foreach (Sheets::queries() as $engine => $set) {
            foreach ($set['queries'] as $sheet => $query) {
                $bare = trim((string) preg_replace('/^--.*$/m', '', $query));
                self::assertStringStartsWith('SELECT', $bare, "$engine $sheet");
                self::assertStringNotContainsString(';', $bare, "$engine $sheet");
                self::assertDoesNotMatchRegularExpression('/\b(?:INSERT|UPDATE|DELETE|DROP|ALTER|CREATE)\s/', $bare, "$engine $sheet");
                preg_match_all('/\bAS "?(\w+)"?/i', $bare, $m);
                self::assertSame($sheet, Sheets::sheet($m[1]), "$engine $sheet");
            }
        }
    }

    /**
     * @param list<list<string>> $columns
     * @param list<list<string>> $keys
     */
    private static function catalog(array $columns, array $keys = []): Catalog
    {
        $sheets = new Sheets();
        $sheets->add('c.csv', self::COLUMNS, $columns);
        $sheets->add('k.csv', self::KEYS, $keys);

        return $sheets->catalog();
    }
}
