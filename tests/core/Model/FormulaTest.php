<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Model;

use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Model\Formula;
use Fasti\Core\Model\FormulaFault;
use Fasti\Core\Model\FormulaNames;
use Fasti\Core\Model\FormulaSql;
use Fasti\Core\Sql\Tree\Ref;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class FormulaTest extends TestCase
{
    private static function read(string $text, string $role = 'sighting'): Formula
    {
        return River::ground(units: ["\0sighting\0weight_g" => 'g', "\0reading\0value" => '°C', "\0sighting\0individuals" => ''])->formula($role, $text);
    }

    /** @return iterable<string, array{string, TypeFamily, string}> */
    public static function understood(): iterable
    {
        yield 'a field' => ['individuals', TypeFamily::Whole, ''];
        yield 'a field with a unit' => ['weight_g', TypeFamily::Whole, 'g'];
        yield 'a field in other letters' => ['"WEIGHT_G"', TypeFamily::Whole, 'g'];
        yield 'a product' => ['weight_g * individuals', TypeFamily::Whole, 'g'];
        yield 'a quotient' => ['weight_g / individuals', TypeFamily::Number, 'g'];
        yield 'of the same unit' => ['weight_g / weight_g', TypeFamily::Number, ''];
        yield 'a field of another role' => ['species.kind', TypeFamily::Text, ''];
        yield 'a role with a blank' => ['"day confirmed".day_date', TypeFamily::Time, ''];
        yield 'a condition' => ["individuals > 3 AND note LIKE 'a%' OR species.kind IN ('fish', 'eel')", TypeFamily::Flag, ''];
        yield 'a part of a date' => ['EXTRACT(MONTH FROM day.day_date)', TypeFamily::Whole, ''];
        yield 'a choice' => ["CASE WHEN individuals BETWEEN 1 AND 3 THEN 'few' ELSE 'many' END", TypeFamily::Text, ''];
        yield 'a choice of numbers' => ['CASE individuals WHEN 1 THEN 0 ELSE 0.5 END', TypeFamily::Number, ''];
        yield 'instead of nothing' => ['COALESCE(weight_g, 0)', TypeFamily::Whole, 'g'];
        yield 'a cast' => ['CAST(individuals AS varchar(4)) || note', TypeFamily::Text, ''];
        yield 'a part of a text' => ['UPPER(SUBSTRING(TRIM(note) FROM 1 FOR 2))', TypeFamily::Text, ''];
        yield 'a date' => ["day.day_date > DATE '2026-01-31'", TypeFamily::Flag, ''];
        yield 'a whole one' => ['FLOOR(weight_g / 3)', TypeFamily::Whole, 'g'];
        yield 'what is left of whole numbers' => ['MOD(weight_g, 7)', TypeFamily::Whole, 'g'];
        yield 'what is left of others' => ['MOD(weight_g / 3, 7)', TypeFamily::Number, 'g'];
        yield 'a power' => ['POWER(weight_g, 2)', TypeFamily::Number, ''];
        yield 'a length' => ['CHAR_LENGTH(note)', TypeFamily::Whole, ''];
        yield 'nothing in place of one' => ['NULLIF(weight_g, 0)', TypeFamily::Whole, 'g'];
        yield 'rounded' => ['ROUND(weight_g / 1000, 1)', TypeFamily::Number, 'g'];
    }

    #[DataProvider('understood')]
    public function testTypeAndUnitAreWorkedOut(string $text, TypeFamily $family, string $unit): void
    {
        $formula = self::read($text);

        self::assertSame([], array_map(static fn (FormulaFault $fault): string => $fault->inWords($text), $formula->faults));
        self::assertSame([$family, $unit], [$formula->family, $formula->unit]);
    }

    /** @return iterable<string, array{string, string}> */
    public static function faulty(): iterable
    {
        yield 'no date' => ["day.day_date > DATE '2026-02-30'", '“2026-02-30” is no date, at character 16'];
        yield 'nothing' => ['  ', 'The expression is empty, at character 1 (the end). Expected: a field'];
        yield 'no end' => ['individuals +', 'at character 14 (the end)'];
        yield 'more' => ['individuals weight_g', 'The expression was over, but something follows, at character 13 (“weight_g”)'];
        yield 'no such field' => [
            'individuals + individulas',
            'sighting has no field “individulas”, at character 15 (“individulas”). Do you mean individuals?',
        ];
        yield 'no such role' => ['specis.kind', 'The model has no role “specis”, at character 1 (“specis.kind”). Do you mean species?'];
        yield 'an aggregate' => ['SUM(individuals)', 'SUM is taken over many rows, at character 1'];
        yield 'a strange function' => ['ülrich(individuals)', 'The function ÜLRICH is not understood here'];
        yield 'a text in a sum' => ['individuals + note', '+ computes with numbers, and this is a text, at character 15 (“note”). Expected: a number.'];
        yield 'compared with another kind' => ["individuals = 'three'", 'A number is compared with a text, at character 15'];
        yield 'too few arguments' => ['MOD(individuals)', 'MOD has 1 arguments, at character 1 (“MOD(individuals)”). Expected: two numbers.'];
        yield 'no part of a date' => ['EXTRACT(CENTURY FROM day.day_date)', 'This part of a date is not understood'];
        yield 'a part of no date' => ['EXTRACT(YEAR FROM note)', 'EXTRACT takes something of a date, and this is a text, at character 19'];
        yield 'too many arguments' => ['UPPER(note, note)', 'UPPER has 2 arguments'];
        yield 'different ones' => ['COALESCE(DISTINCT note, note)', 'COALESCE has 2 arguments'];
        yield 'a number of a text' => ['ABS(note)', 'ABS takes a number here, and this is a text, at character 5'];
        yield 'a text of a number' => ['LOWER(individuals)', 'LOWER takes a text here, and this is a number'];
        yield 'a place in a text that is a text' => ["SUBSTRING(note FROM 'a')", 'SUBSTRING takes a number here, and this is a text, at character 21'];
        yield 'a function of a schema' => ['x.upper(note)', 'The function UPPER is not understood here'];
        yield 'over other rows' => ['ABS(individuals) OVER ()', 'ABS is taken over many rows'];
        yield 'a query' => ['(SELECT 1)', 'This kind of expression is not understood here'];
        yield 'no condition' => ['individuals AND note', 'AND joins conditions, and this is none, at character 1'];
        yield 'an odd cast' => ['CAST(individuals AS money)', 'A cast to money is not understood here'];
        yield 'numbers put together as texts' => ['individuals || note', '|| puts texts together, and this is a number'];
        yield 'an operator of one engine' => ['individuals <=> 3', 'The operator <=> is not understood here'];
    }

    #[DataProvider('faulty')]
    public function testWhatIsWrongIsSaidWithItsPlaceAndWhatWasExpected(string $text, string $words): void
    {
        $formula = self::read($text);

        self::assertNull($formula->tree);
        self::assertStringContainsString($words, $formula->faults[0]->inWords($text));
    }

    public function testDifferentUnitsPutTogetherAreADoubtAndNoFault(): void
    {
        $formula = River::ground(units: ["\0sighting\0weight_g" => 'g', "\0sighting\0individuals" => 'pieces'])->formula('sighting', 'weight_g + individuals');

        self::assertSame([], $formula->faults);
        self::assertSame(
            'g and pieces are put together, at character 12 (“individuals”). Bring both to one unit first.',
            $formula->doubts[0]->inWords($formula->text),
        );
    }

    private static function sql(string $text, string $engine): string
    {
        $asking = Dialects::of($engine)->asking() ?? throw new \LogicException();

        return (new FormulaSql($asking, static fn (Ref $ref): string => implode('.', $ref->names)))->of(
            self::read($text)->tree ?? throw new \LogicException($text),
        );
    }

    /** @return iterable<string, array{string, string, string, string}> */
    public static function written(): iterable
    {
        yield 'a quotient' => [
            'weight_g / individuals',
            '(weight_g) * 1.000000000000 / NULLIF(individuals, 0)',
            'CAST(weight_g AS numeric) / NULLIF(individuals, 0)',
            '(weight_g) * 1.0 / NULLIF(individuals, 0)',
        ];
        yield 'texts' => ["note || 'it''s'", "CONCAT(note, 'it''s')", "note || 'it''s'", "note || 'it''s'"];
        yield 'a backslash' => ["note = 'a\\b'", "note = 'a\\\\b'", "note = E'a\\\\b'", "note = 'a\\b'"];
        yield 'a part of a date' => [
            'EXTRACT(YEAR FROM day.day_date)',
            'EXTRACT(YEAR FROM day.day_date)',
            'EXTRACT(YEAR FROM day.day_date)',
            "CAST(strftime('%Y', day.day_date) AS integer)",
        ];
        yield 'a date' => [
            "day.day_date = DATE '2026-01-31'",
            "day.day_date = DATE '2026-01-31'",
            "day.day_date = DATE '2026-01-31'",
            "day.day_date = '2026-01-31'",
        ];
        yield 'a pattern' => ["note LIKE 'a%'", "note LIKE 'a%' ESCAPE ''", "note LIKE 'a%' ESCAPE ''", "note LIKE 'a%'"];
        yield 'a cast' => ['CAST(note AS varchar(3))', 'CAST(note AS char(3))', 'CAST(note AS varchar(3))', 'SUBSTR(CAST(note AS text), 1, 3)'];
        yield 'minus a minus' => ['-(-individuals)', '-(-individuals)', '-(-individuals)', '-(-individuals)'];
        yield 'how things bind' => ['(individuals + 1) * 2', '(individuals + 1) * 2', '(individuals + 1) * 2', '(individuals + 1) * 2'];
        yield 'not in' => ['individuals NOT IN (1, 2)', 'individuals NOT IN (1, 2)', 'individuals NOT IN (1, 2)', 'individuals NOT IN (1, 2)'];
    }

    #[DataProvider('written')]
    public function testItIsWrittenInTheWordsOfEachEngine(string $text, string $mariadb, string $postgresql, string $sqlite): void
    {
        self::assertSame([$mariadb, $postgresql, $sqlite], [self::sql($text, 'mariadb'), self::sql($text, 'postgresql'), self::sql($text, 'sqlite')]);
    }

    public function testWhatMayMakeAValueOfNothingIsToldFromWhatMayNot(): void
    {
        self::assertTrue(self::read('weight_g * 2 + individuals')->isStrict());
        self::assertTrue(self::read('UPPER(note)')->isStrict());
        self::assertFalse(self::read('COALESCE(weight_g, 1)')->isStrict());
        self::assertFalse(self::read('CASE WHEN note IS NULL THEN 1 END')->isStrict());
        self::assertFalse(self::read('individuals > 1 OR weight_g > 1')->isStrict());
    }

    public function testNamesAreReplacedAndEverythingElseStands(): void
    {
        $new = FormulaNames::replaced("note  = 'note' AND species.kind = note /* note */", static fn (?string $role, string $field): ?array => match ($field) {
            'note' => [$role, 'remark of it'],
            'kind' => ['a kind', 'kind'],
            default => null,
        });

        self::assertSame("\"remark of it\"  = 'note' AND \"a kind\".kind = \"remark of it\" /* note */", $new);
        self::assertSame('not ( understood', FormulaNames::replaced('not ( understood', static fn (): array => [null, 'x']));
    }
}
