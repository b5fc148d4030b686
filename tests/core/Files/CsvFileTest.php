<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Files;

use Fasti\Core\Files\CsvFile;
use Fasti\Core\Files\CsvTable;
use Fasti\Core\Survey\SilentProgress;
use Fasti\Core\Survey\SourceError;
use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;

final class CsvFileTest extends TestCase
{
    #[TestWith(["a,b\n1,2\n", ','])]
    #[TestWith(["a;b\n1,5;2,5\n3,5;4,5\n", ';'])]
    #[TestWith(["a\tb\n1\t2\n", "\t"])]
    #[TestWith(["a|b|c\n1|2|3\n", '|'])]
    #[TestWith(["\"a;b\",c\n\"x;y;z\",2\n", ','])]
    #[TestWith(["only\none\n", ','])]
    public function testTheSeparatorIsTheOneThatStandsInEveryLineEquallyOften(string $content, string $separator): void
    {
        self::assertSame($separator, self::file($content)[0]->separator);
    }

    public function testQuotedValuesMayHoldAnything(): void
    {
        [$file, $rows] = self::file("name,note\n\"Brook, Ada\",\"two\nlines and \"\"quotes\"\"\"\nx,\n");

        self::assertSame(['name', 'note'], $file->header);
        self::assertSame([['Brook, Ada', "two\nlines and \"quotes\""], ['x', '']], $rows);
        self::assertSame([], $file->notes());
    }

    public function testNamesThatStandTwiceAreToldApart(): void
    {
        self::assertSame(['a', 'b', 'a 2', 'a 3'], self::file("a,b,a,a\n1,2,3,4\n")[0]->header);
    }

    public function testNamesThatAreMissingOrStandTwiceAreSaid(): void
    {
        $file = self::file(",a,a,a 2,\n1,2,3,4,5\n")[0];

        self::assertSame(['column 1', 'a', 'a 3', 'a 2', 'column 5'], $file->header);
        self::assertSame([
            'f.csv: column 1 has no name and is called “column 1”.',
            'f.csv: column 3 is called “a” as another one is; it is told apart as “a 3”.',
            'f.csv: column 5 has no name and is called “column 5”.',
        ], $file->notes());
    }

    public function testLinesMayEndWithCarriageReturnsAlone(): void
    {
        [$file, $rows] = self::file("a;b\r1;\"x;\ry\"\r2;z\r");

        self::assertSame([';', ['a', 'b']], [$file->separator, $file->header]);
        self::assertSame([['1', "x;\ny"], ['2', 'z']], $rows);
        self::assertSame([], $file->notes());
    }

    #[TestWith(["sep=;\r\na,x;b\r\n1;2\r\n", ';'])]
    #[TestWith(["\xEF\xBB\xBFSEP=,\na\tx,b\n1,2\n", ','])]
    #[TestWith(["\"sep=|\"\na;x|b\n1|2\n", '|'])]
    #[TestWith(["sep=\t\ra;x\tb\r1\t2\r", "\t"])]
    public function testAFirstLineMaySayWhatSeparates(string $content, string $separator): void
    {
        [$file, $rows] = self::file($content);

        self::assertSame([$separator, 'b', [['1', '2']]], [$file->separator, $file->header[1], $rows]);
    }

    #[TestWith(["station,day,level\nARR,2024-01-01,5\n", true])]
    #[TestWith(["ARR,2024-01-01,5\nMER,2024-01-02,6\n", false])]
    #[TestWith(["ARR-01,low\nARR-02,high\nMER-03,low\nARR-04,high\n", false])]
    #[TestWith(["code,state\nARR-01,low\nARR-02,high\nMER-03,low\n", true])]
    #[TestWith(["low,wet\nhigh,dry\nlow,dry\nhigh,wet\n", false])]
    #[TestWith(["station,2021,2022,2023\nARR,5,6,7\n", true])]
    #[TestWith(["2021,2022,2023\n5,6,7\n", true])]
    #[TestWith(["1,2,3\n4,5,6\n", false])]
    #[TestWith(["0,1,2,3,4\n4,5,6,7,7\n", true])]
    #[TestWith(["4,7,1\n4,5,6\n", false])]
    #[TestWith(["station\nARR\n", true])]
    #[TestWith(["station,note\n", true])]
    #[TestWith(["station,,level\nARR,x,5\n", true])]
    #[TestWith(["name,5.5\nother,7.5\n", false])]
    #[TestWith(["01.02.2024;1,5\n02.02.2024;2,5\n", false])]
    #[TestWith(["Datum;Wert\n01.02.2024;1,5\n", true])]
    public function testWhetherTheFirstRowNamesTheColumnsIsTold(string $content, bool $named): void
    {
        [$file, $rows] = self::file($content);

        self::assertSame($named, $file->named, implode(' ', $file->notes()));
        self::assertCount(substr_count($content, "\n") - ($named ? 1 : 0), $rows);
        self::assertCount($named ? 0 : 1, array_filter($file->notes(), static fn (string $note): bool => str_contains($note, 'does not look like names, for')));
    }

    public function testAQuotationMarkThatIsNotClosedIsSaid(): void
    {
        self::assertStringContainsString('is not closed', implode('', self::file("a,b\n1,\"x\n2,y\n3,z\n")[0]->notes()));
        self::assertSame([], self::file("a,b\n1,\"x\ny\"\n")[0]->notes());
    }

    public function testEmptyLinesAndAByteOrderMarkAreNoRows(): void
    {
        [$file, $rows] = self::file("\xEF\xBB\xBFa,b\r\n1,2\r\n\r\n3,4\r\n");

        self::assertSame(['a', 'b'], $file->header);
        self::assertSame([['1', '2'], ['3', '4']], $rows);
    }

    /** @param list<string> $values */
    #[TestWith([['1', '22', '-3'], 'integer'])]
    #[TestWith([['1', '99999999999'], 'bigint'])]
    #[TestWith([['999999999'], 'integer'])]
    #[TestWith([['1000000000'], 'bigint'])]
    #[TestWith([['-12.5', '3'], 'decimal(3,1)'])]
    #[TestWith([['', '4'], 'integer'])]
    #[TestWith([['1', '2.25', '-10.5'], 'decimal(4,2)'])]
    #[TestWith([['1.5', '2e10'], 'double'])]
    #[TestWith([['2024-01-01', '2024-12-31'], 'date'])]
    #[TestWith([['2024-01-01', '2024-12-31T10:00:00Z'], 'timestamp'])]
    #[TestWith([['yes', 'no', 'YES'], 'boolean'])]
    #[TestWith([['007', '8'], 'varchar(3)'])]
    #[TestWith([['2024-13-01', '2024-01-01'], 'varchar(10)'])]
    #[TestWith([['', ''], 'text'])]
    #[TestWith([['größe', 'x'], 'varchar(5)'])]
    public function testATypeIsTheNarrowestThatAllValuesFit(array $values, string $type): void
    {
        $folder = new Folder(['t.csv' => "k,v\n".implode("\n", array_map(static fn (string $value): string => 'x,'.$value, $values))."\n"]);
        $table = (new CsvTable('files', 't', new CsvFile($folder->path.'/t.csv')))->read(new SilentProgress());

        $column = $table->column('v') ?? self::fail('There is no v.');
        self::assertSame($type, $column->type);
        self::assertSame(\count($values), $table->rowEstimate);
        self::assertSame(\in_array('', $values, true), $column->nullable);
    }

    public function testAFileThatIsNotThereIsSaidNotToBe(): void
    {
        $this->expectException(SourceError::class);
        $this->expectExceptionMessage('“nothing.csv” could not be opened');
        new CsvFile('/not/there/nothing.csv');
    }

    /** @return array{CsvFile, list<list<string>>} */
    private static function file(string $content): array
    {
        $folder = new Folder(['f.csv' => $content]);
        $file = new CsvFile($folder->path.'/f.csv');

        return [$file, iterator_to_array($file, false)];
    }
}
