<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Dialect;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Generated;
use Fasti\Core\Catalog\Seen;
use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Wording\ColumnWords;
use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;

final class TypesTest extends TestCase
{
    #[TestWith(['varchar(12)', 'text, up to 12 characters'])]
    #[TestWith(['varchar(1)', 'text, up to 1 character'])]
    #[TestWith(['char(1)', '1 character'])]
    #[TestWith(['char(3)', 'text of 3 characters'])]
    #[TestWith(['decimal(6,2)', 'number, −9,999.99 to 9,999.99'])]
    #[TestWith(['decimal(6,2) unsigned', 'number, 0 to 9,999.99'])]
    #[TestWith(['decimal(2,2)', 'number, −0.99 to 0.99'])]
    #[TestWith(['decimal(10,0)', 'whole number, −9,999,999,999 to 9,999,999,999'])]
    #[TestWith(['decimal(38,10)', 'number, 28 digits and 10 decimals'])]
    #[TestWith(['tinyint(1)', 'yes or no (0 or 1)'])]
    #[TestWith(['tinyint(4)', 'whole number, −128 to 127'])]
    #[TestWith(['tinyint(3) unsigned', 'whole number, 0 to 255'])]
    #[TestWith(['smallint(6)', 'whole number, −32,768 to 32,767'])]
    #[TestWith(['mediumint unsigned', 'whole number, 0 to 16,777,215'])]
    #[TestWith(['int(10) unsigned zerofill', 'whole number, up to 4.29 billion'])]
    #[TestWith(['bigint(20)', 'whole number'])]
    #[TestWith(['datetime(3)', 'date and time, to the millisecond'])]
    #[TestWith(['timestamp', 'instant'])]
    #[TestWith(['time(2)', 'time of day or duration, to 2 decimals of a second'])]
    #[TestWith(["enum('open','shut')", 'one of open, shut'])]
    #[TestWith(["enum('a','b','c','d','e','f','g','h')", 'one of a, b, c, d, e, f and 2 more'])]
    #[TestWith(["set('x','y')", 'any of x, y'])]
    #[TestWith(['longtext', 'long text, up to 4 GB'])]
    #[TestWith(['varbinary(16)', 'bytes, up to 16'])]
    #[TestWith(['bit(1)', 'one bit (0 or 1)'])]
    #[TestWith(['double unsigned', 'number, approximate (15 digits), not negative'])]
    #[TestWith(['point', 'point on a map'])]
    #[TestWith(['my_own_type', 'my_own_type'])]
    #[TestWith(['', ''])]
    public function testTypesInWords(string $type, string $words): void
    {
        self::assertSame($words, Dialects::of('mariadb')->typeInWords(new Column('x', $type)));
    }

    #[TestWith(['text', 'postgresql', 'long text'])]
    #[TestWith(['character varying(12)', 'postgresql', 'text, up to 12 characters'])]
    #[TestWith(['character varying', 'postgresql', 'text'])]
    #[TestWith(['timestamp(3) with time zone', 'postgresql', 'instant, to the millisecond'])]
    #[TestWith(['numeric(6,2)', 'postgresql', 'number, −9,999.99 to 9,999.99'])]
    #[TestWith(['integer[]', 'postgresql', 'list of whole number, to ±2.14 billion'])]
    #[TestWith(['INTEGER', 'sqlite', 'whole number'])]
    #[TestWith(['VARCHAR(20)', 'sqlite', 'text (20 is meant, not enforced)'])]
    #[TestWith(['', 'sqlite', 'anything'])]
    #[TestWith(['DECIMAL(6, 2)', 'sqlite', 'number (6,2 is meant, not enforced)'])]
    #[TestWith(['text', 'mariadb', 'long text, up to 64 KB'])]
    public function testTheSameTypeMeansWhatItsEngineMakesOfIt(string $type, string $engine, string $words): void
    {
        self::assertSame($words, Dialects::of($engine)->typeInWords(new Column('x', $type)));
    }

    public function testADomainIsSaidByWhatItStandsForAndAMemberByWhatItWasSeenToBe(): void
    {
        self::assertSame('one of G, S', Dialects::of('postgresql')->typeInWords(new Column('x', 'field.flag', base: "enum('G','S')")));
        self::assertSame(
            'whole number (90 %) or text (10 %)',
            Dialects::of('files')->typeInWords(new Column('x', 'integer | string', seen: new Seen(100, 100, ['integer' => 90, 'string' => 10]))),
        );
        self::assertSame(
            'date and time, as text',
            Dialects::of('files')->typeInWords(new Column('x', 'string (date-time)', seen: new Seen(1, 1, ['string' => 1]))),
        );
    }

    #[TestWith(['int(10) unsigned', 'mariadb', 'whole'])]
    #[TestWith(['bigint', 'postgresql', 'whole'])]
    #[TestWith(['decimal(6,2)', 'mysql', 'number'])]
    #[TestWith(['double precision', 'postgresql', 'number'])]
    #[TestWith(['character varying(12)', 'postgresql', 'text'])]
    #[TestWith(["enum('open','maintenance')", 'mariadb', 'text'])]
    #[TestWith(["set('point','int')", 'mysql', 'text'])]
    #[TestWith(['timestamp with time zone', 'postgresql', 'time'])]
    #[TestWith(['date', 'mariadb', 'time'])]
    #[TestWith(['point', 'mariadb', 'spatial'])]
    #[TestWith(['interval', 'postgresql', 'other'])]
    #[TestWith(['jsonb', 'postgresql', 'document'])]
    #[TestWith(['tinyblob', 'mariadb', 'bytes'])]
    #[TestWith(['FLOATING POINT', 'sqlite', 'whole'])]
    #[TestWith(['', 'sqlite', 'text'])]
    #[TestWith(['VARCHAR2(20)', 'sheets', 'text'])]
    #[TestWith(['NUMBER(8,2)', 'sql', 'number'])]
    public function testTypesFallIntoFamilies(string $type, string $engine, string $family): void
    {
        self::assertSame($family, Dialects::of($engine)->typeOf(new Column('x', $type))->family->value);
    }

    public function testATypeIsReadIntoItsParts(): void
    {
        $type = static fn (string $engine, string $written): \Fasti\Core\Catalog\Type => Dialects::of($engine)->typeOf(new Column('x', $written));

        self::assertSame(
            ['decimal', 6, 2, true],
            [
                $type('mariadb', 'decimal(6,2) unsigned')->name,
                $type('mariadb', 'decimal(6,2) unsigned')->length,
                $type('mariadb', 'decimal(6,2)')->scale,
                $type('mariadb', 'decimal(6,2) unsigned')->unsigned,
            ],
        );
        self::assertSame(
            ['timestamp with time zone', 3],
            [$type('postgresql', 'timestamp(3) with time zone')->name, $type('postgresql', 'timestamp(3) with time zone')->scale],
        );
        self::assertSame(
            [true, 9, TypeFamily::Text],
            [
                $type('postgresql', 'character varying(9)[]')->array,
                $type('postgresql', 'character varying(9)[]')->length,
                $type('postgresql', 'character varying(9)[]')->family,
            ],
        );
        self::assertSame([['a', 'b'], true], [$type('mysql', "set('a','b')")->members, $type('mysql', "set('a','b')")->several]);
        self::assertSame(TypeFamily::Number, Dialects::of('postgresql')->typeOf(new Column('x', 'field.amount', base: 'numeric(6,2)'))->family);
    }

    public function testMembersOfDocumentsFallIntoFamiliesByWhatTheyHold(): void
    {
        $family = static fn (string $type): string => Dialects::of('mariadb')->typeOf(new Column('x', $type, seen: new Seen(1, 1, [])))->family->value;

        self::assertSame(
            ['whole', 'number', 'text', 'time', 'text', 'other'],
            array_map($family, ['integer', 'number', 'string', 'string (date-time)', 'integer | string', 'object']),
        );
    }

    public function testAnEngineIsOneFolderAndIsFoundByItsNames(): void
    {
        self::assertSame(
            ['mariadb', 'mysql', 'postgresql', 'sqlite', 'sql', 'oracle', 'sqlserver', 'files', 'db2', 'snowflake', 'teradata'],
            array_keys(Dialects::all()),
        );
        self::assertSame('PostgreSQL', Dialects::named('postgres')?->label());
        self::assertSame('sql', Dialects::of('an engine that nobody knows')->name());
        self::assertNull(Dialects::named('cobol'));
        self::assertSame('postgresql', Dialects::usual()->name());
        self::assertSame(['mariadb', 'mysql', 'postgresql', 'sqlite', 'sql', 'oracle', 'sqlserver'], array_keys(Dialects::written()));
    }

    public function testNamesAreQuotedByTheirDialect(): void
    {
        self::assertSame('`a``b`.`c.d`', Dialects::of('mariadb')->placed(new \Fasti\Core\Catalog\Place('a`b', 'c.d')));
        self::assertSame('"a""b"', Dialects::of('sqlite')->placed(new \Fasti\Core\Catalog\Place('', 'a"b')));
    }

    public function testMembersOfAnEnumAreUnquoted(): void
    {
        self::assertSame(["it's", 'a,b', '', 'ü)'], Dialects::of('mariadb')->typeOf(new Column('x', "enum('it''s','a,b','','ü)')"))->members);
        self::assertSame([], Dialects::of('mariadb')->typeOf(new Column('x', 'varchar(3)'))->members);
    }

    public function testWhatElseThereIsToSay(): void
    {
        self::assertSame(['required', 'unique', 'numbered by the database'], ColumnWords::of(new Column('id', 'int', false, null, '', true), true));
        self::assertSame(
            ['set when the row is made', 'set when the row changes'],
            ColumnWords::of(new Column('at', 'timestamp', true, 'current_timestamp()', '', false, null, 'current_timestamp()')),
        );
        self::assertSame(['computed as a + b when read'], ColumnWords::of(new Column('c', 'int', generated: new Generated('a + b', false))));
        self::assertSame(["it's unless given"], ColumnWords::of(new Column('c', 'text', default: "'it''s'")));
        self::assertSame(['empty text unless given'], ColumnWords::of(new Column('c', 'text', default: "''")));
        self::assertSame(['0 unless given', 'sorted as latin1_bin'], ColumnWords::of(new Column('c', 'int', default: '0', collation: 'latin1_bin')));
    }
}
