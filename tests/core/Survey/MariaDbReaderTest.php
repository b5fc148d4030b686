<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Survey;

use Fasti\Core\Survey\Choice;
use Fasti\Core\Survey\MariaDbReader;
use Fasti\Core\Survey\Progress;
use Fasti\Core\Survey\Rows;
use Fasti\Core\Survey\SourceError;
use Fasti\Core\Survey\Stopped;
use Fasti\Core\Survey\Unheard;
use PHPUnit\Framework\TestCase;

/** What the reader makes of answers that a real server gives only at an unlucky moment; the rest is tested against one. */
final class MariaDbReaderTest extends TestCase
{
    public function testATableDroppedBetweenListingAndReadingIsLeftOutAndSaid(): void
    {
        $catalog = (new MariaDbReader(self::server(['kept', 'dropped'], ['kept'])))->read(new Choice(), new Unheard());

        self::assertSame(['kept'], array_map(static fn ($table): string => $table->name, $catalog->tables));
        self::assertStringContainsString('main.dropped was listed but could not be read', $catalog->notes[0]);
    }

    public function testAnEmptyChoiceReadsNothingAndSaysSo(): void
    {
        $catalog = (new MariaDbReader(self::server(['kept'], ['kept'])))->read(new Choice([], ['nothing*']), new Unheard());

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

    public function testAServerOfAnotherKindIsRefusedInWords(): void
    {
        $this->expectException(SourceError::class);
        $this->expectExceptionMessage('This server is not MariaDB but says “8.0.36”.');
        (new MariaDbReader(self::server(['kept'], ['kept'], '8.0.36')))->inventory();
    }

    public function testNamesOfDigitsAloneStayNames(): void
    {
        $catalog = (new MariaDbReader(self::server(['2024'], ['2024'])))->read(new Choice(), new Unheard());

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
                    return array_map(static fn (string $name): array => ['TABLE_SCHEMA' => 'main', 'TABLE_NAME' => $name, 'TABLE_TYPE' => 'BASE TABLE', 'ENGINE' => 'InnoDB', 'TABLE_ROWS' => '3', 'DATA_LENGTH' => '1', 'INDEX_LENGTH' => '1', 'TABLE_COLLATION' => null, 'TABLE_COMMENT' => ''], $this->readable);
                }
                if (str_contains($sql, 'information_schema.COLUMNS')) {
                    return array_map(static fn (string $name): array => ['TABLE_SCHEMA' => 'main', 'TABLE_NAME' => $name, 'COLUMN_NAME' => 'id', 'COLUMN_TYPE' => 'int(11)', 'IS_NULLABLE' => 'NO', 'COLUMN_DEFAULT' => null, 'COLUMN_COMMENT' => '', 'EXTRA' => '', 'GENERATION_EXPRESSION' => null, 'CHARACTER_SET_NAME' => null, 'COLLATION_NAME' => null], $this->readable);
                }

                return [];
            }
        };
    }
}
