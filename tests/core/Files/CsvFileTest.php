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

    public function testEmptyLinesAndAByteOrderMarkAreNoRows(): void
    {
        [$file, $rows] = self::file("\xEF\xBB\xBFa,b\r\n1,2\r\n\r\n3,4\r\n");

        self::assertSame(['a', 'b'], $file->header);
        self::assertSame([['1', '2'], ['3', '4']], $rows);
    }

    /** @param list<string> $values */
    #[TestWith([['1', '22', '-3'], 'integer'])]
    #[TestWith([['1', '99999999999'], 'bigint'])]
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
