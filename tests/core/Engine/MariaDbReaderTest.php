<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Engine;

use Fasti\Core\Engine\MariaDb\MariaDbReader;
use Fasti\Core\Survey\Choice;
use Fasti\Core\Survey\Progress;
use Fasti\Core\Survey\Rows;
use Fasti\Core\Survey\SilentProgress;
use Fasti\Core\Survey\SourceError;
use Fasti\Core\Survey\Stopped;
use PHPUnit\Framework\TestCase;

/** What the reader makes of answers that a real server gives only at an unlucky moment; the rest is tested against one. */
final class MariaDbReaderTest extends TestCase
{
    public function testATableDroppedBetweenListingAndReadingIsLeftOutAndSaid(): void
    {
        $catalog = (new MariaDbReader(self::server(['kept', 'dropped'], ['kept'])))->read(new Choice(), new SilentProgress());

        self::assertSame(['kept'], array_map(static fn ($table): string => $table->name, $catalog->tables));
        self::assertStringContainsString('main.dropped was listed but could not be read', $catalog->notes[0]);
    }

    public function testAnEmptyChoiceReadsNothingAndSaysSo(): void
    {
        $catalog = (new MariaDbReader(self::server(['kept'], ['kept'])))->read(new Choice([], ['nothing*']), new SilentProgress());

        self::assertSame([], $catalog->tables);
        self::assertStringContainsString('Nothing matches', $catalog->notes[0]);
    }

    public function testADatabaseThatMayNotBeReadIsAnError(): void
    {
        $this->expectException(SourceError::class);
        $this->expectExceptionMessage('may not read anything of the database “hidden”');
        (new MariaDbReader(self::server([], []), 'hidden'))->inventory();
    }

    public function testItStopsWhenItIsAskedTo(): void
    {
        $progress = new class implements Progress {
            public int $calls = 0;

            public function at(string $what, int $done, int $total): void
            {
                if (++$this->calls > 3) {
                    throw new Stopped();
                }
            }
        };
        try {
            (new MariaDbReader(self::server(['kept'], ['kept'])))->read(new Choice(), $progress);
            self::fail('It read on.');
        } catch (Stopped) {
            self::assertSame(4, $progress->calls);
        }
    }

    public function testMySqlWritesDefaultsAndExpressionsAnotherWay(): void
    {
        $rows = new class implements Rows {
            public function rows(string $sql, array $parameters = []): iterable
            {
                $column = static fn (string $name, string $type, ?string $default, string $extra = '', string $generated = ''): array => [
                    'TABLE_SCHEMA' => 'main', 'TABLE_NAME' => 'station', 'COLUMN_NAME' => $name, 'COLUMN_TYPE' => $type, 'IS_NULLABLE' => 'YES',
                    'COLUMN_DEFAULT' => $default, 'COLUMN_COMMENT' => '', 'EXTRA' => $extra, 'GENERATION_EXPRESSION' => $generated,
                    'CHARACTER_SET_NAME' => null, 'COLLATION_NAME' => null,
                ];
                $key = static fn (string $name, ?string $of, ?string $expression): array => [
                    'TABLE_SCHEMA' => 'main', 'TABLE_NAME' => 'station', 'INDEX_NAME' => $name, 'COLUMN_NAME' => $of, 'SUB_PART' => null, 'COLLATION' => 'A',
                    'NON_UNIQUE' => 'PRIMARY' === $name ? '0' : '1', 'INDEX_TYPE' => 'BTREE', 'INDEX_COMMENT' => '', 'EXPRESSION' => $expression,
                ];

                return match (true) {
                    str_contains($sql, 'SCHEMATA') => [['s' => 'main']],
                    str_contains($sql, 'VERSION()') => [['v' => '8.0.36']],
                    str_contains($sql, 'AS n, TABLE_TYPE') => [['s' => 'main', 'n' => 'station', 't' => 'BASE TABLE']],
                    str_contains($sql, 'information_schema.COLUMNS') => [
                        $column('id', 'int unsigned', null, 'auto_increment'), $column('code', 'varchar(5)', "it's"), $column('n', 'int', '7'),
                        $column('at', 'datetime', 'CURRENT_TIMESTAMP', 'DEFAULT_GENERATED'),
                        $column('twice', 'varchar(9)', null, 'VIRTUAL GENERATED', "concat(`code`,_utf8mb4\\'x\\')"),
                    ],
                    str_contains($sql, 'STATISTICS') => str_contains($sql, 'EXPRESSION')
                        ? [$key('PRIMARY', 'id', null), $key('by_code', null, 'lower(`code`)')]
                        : throw new \LogicException('It did not ask for expressions.'),
                    str_contains($sql, 'CHECK_CONSTRAINTS') => str_contains($sql, 'TABLE_CONSTRAINTS')
                        ? [['s' => 'main', 't' => 'station', 'n' => 'code_ok', 'l' => 'Table', 'c' => "(`code` <> _utf8mb4\\'\\')"]]
                        : throw new \LogicException('There is no table name in that view.'),
                    str_contains($sql, 'information_schema.TABLES') => [[
                        'TABLE_SCHEMA' => 'main', 'TABLE_NAME' => 'station', 'TABLE_TYPE' => 'BASE TABLE', 'ENGINE' => 'InnoDB', 'TABLE_ROWS' => '3',
                        'DATA_LENGTH' => '1', 'INDEX_LENGTH' => '1', 'TABLE_COLLATION' => null, 'TABLE_COMMENT' => '',
                    ]],
                    default => [],
                };
            }
        };
        $catalog = (new MariaDbReader($rows))->read(new Choice(), new SilentProgress());
        $table = $catalog->tables[0];

        self::assertSame('mysql', $catalog->engine);
        self::assertSame([null, "'it''s'", '7', 'CURRENT_TIMESTAMP', null], array_map(static fn ($column): ?string => $column->default, $table->columns));
        self::assertSame("concat(`code`,'x')", $table->column('twice')?->generated?->expression);
        self::assertSame("(`code` <> '')", $table->checks[0]->expression);
        self::assertSame('lower(`code`)', $table->indexes[1]->parts[0]->column);
        self::assertSame(['id'], $table->primaryKey?->columns);
    }

    public function testNamesOfDigitsAloneStayNames(): void
    {
        $catalog = (new MariaDbReader(self::server(['2024'], ['2024'])))->read(new Choice(), new SilentProgress());

        self::assertSame('2024', $catalog->tables[0]->name);
    }

    /**
     * @param list<string> $listed
     * @param list<string> $readable
     */
    private static function server(array $listed, array $readable, string $version = '10.11.6-MariaDB'): Rows
    {
        return new class($listed, $readable, $version) implements Rows {
            /**
             * @param list<string> $listed
             * @param list<string> $readable
             */
            public function __construct(private readonly array $listed, private readonly array $readable, private readonly string $version)
            {
            }

            public function rows(string $sql, array $parameters = []): iterable
            {
                if (str_contains($sql, 'SCHEMATA')) {
                    return [['s' => 'main']];
                }
                if (str_contains($sql, 'VERSION()')) {
                    return [['v' => $this->version]];
                }
                if (str_contains($sql, 'AS n, TABLE_TYPE')) {
                    return array_map(static fn (string $name): array => ['s' => 'main', 'n' => $name, 't' => 'BASE TABLE'], $this->listed);
                }
                if (str_contains($sql, 'information_schema.TABLES')) {
                    return array_map(
                        static fn (string $name): array => [
                            'TABLE_SCHEMA' => 'main', 'TABLE_NAME' => $name, 'TABLE_TYPE' => 'BASE TABLE', 'ENGINE' => 'InnoDB', 'TABLE_ROWS' => '3',
                            'DATA_LENGTH' => '1', 'INDEX_LENGTH' => '1', 'TABLE_COLLATION' => null, 'TABLE_COMMENT' => '',
                        ],
                        $this->readable,
                    );
                }
                if (str_contains($sql, 'information_schema.COLUMNS')) {
                    return array_map(
                        static fn (string $name): array => [
                            'TABLE_SCHEMA' => 'main', 'TABLE_NAME' => $name, 'COLUMN_NAME' => 'id', 'COLUMN_TYPE' => 'int(11)', 'IS_NULLABLE' => 'NO',
                            'COLUMN_DEFAULT' => null, 'COLUMN_COMMENT' => '', 'EXTRA' => '', 'GENERATION_EXPRESSION' => null, 'CHARACTER_SET_NAME' => null,
                            'COLLATION_NAME' => null,
                        ],
                        $this->readable,
                    );
                }

                return [];
            }
        };
    }
}
