<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Draft;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Draft\Abbreviations;
use Fasti\Core\Draft\Checks;
use Fasti\Core\Draft\Draft;
use Fasti\Core\Draft\Drafts;
use Fasti\Core\Draft\FieldName;
use Fasti\Core\Draft\Material;
use Fasti\Core\Draft\Said;
use Fasti\Core\Profile\FieldProfile;
use Fasti\Core\Profile\TableProfile;
use Fasti\Tests\Core\Join\Base;
use Fasti\Tests\Core\Made;
use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;

/** What is read of conditions, of names and of short forms, at the edges of each form. */
final class EdgesTest extends TestCase
{
    /** @param list<string>|null $values */
    #[TestWith(["flag IN ('G', 'S')", ['G', 'S']])]
    #[TestWith(["(flag in ('G','S'))", ['G', 'S']])]
    #[TestWith(["`flag` in ('G','it''s')", ['G', "it's"]])]
    #[TestWith(['"flag" IN (1, 2, -3)', ['1', '2', '-3']])]
    #[TestWith(['flag IN (7)', ['7']])]
    #[TestWith(["(flag = ANY (ARRAY['G'::text, 'S'::text]))", ['G', 'S']])]
    #[TestWith(["((flag)::text = ANY ((ARRAY['G'::character varying, 'S'::character varying])::text[]))", ['G', 'S']])]
    #[TestWith(['(flag = ANY (ARRAY[1, 2]))', ['1', '2']])]
    #[TestWith(["flag = 'G' OR flag = 'S'", ['G', 'S']])]
    #[TestWith(["((flag = 'G'::text) OR (flag = 'S'::text))", ['G', 'S']])]
    #[TestWith(["flag = 'G'", null])]
    #[TestWith(["other IN ('G', 'S')", null])]
    #[TestWith(["flag NOT IN ('G', 'S')", null])]
    #[TestWith(["flag IN ('G', 'S') AND other > 0", null])]
    #[TestWith(["flag IN ('G', 1)", null])]
    #[TestWith(["flag = 'G' OR other = 'S'", null])]
    #[TestWith(['flag > 0', null])]
    #[TestWith(['', null])]
    public function testTheOnlyValuesThatAConditionAllows(string $expression, ?array $values): void
    {
        self::assertSame($values, Checks::values($expression, 'flag'));
    }

    /** @param array{string, string}|null $range */
    #[TestWith(['depth BETWEEN 0 AND 100', ['0', '100']])]
    #[TestWith(['(`depth` between -5.5 and 10)', ['-5.5', '10']])]
    #[TestWith(['depth >= 0 AND depth <= 9', ['0', '9']])]
    #[TestWith(['((depth >= (0)::numeric) AND (depth <= (9)::numeric))', ['0', '9']])]
    #[TestWith(['depth >= 0', ['0', '']])]
    #[TestWith(['(depth <= 9)', ['', '9']])]
    #[TestWith(["depth >= '0'::numeric", ['0', '']])]
    #[TestWith(['depth > 0', null])]
    #[TestWith(['depth < 9', null])]
    #[TestWith(['other >= 0', null])]
    #[TestWith(['depth >= 0 OR depth <= 9', null])]
    #[TestWith(['depth >= other', null])]
    #[TestWith(['depth >= 0 AND other <= 9', null])]
    public function testTheRangeThatAConditionAllows(string $expression, ?array $range): void
    {
        self::assertSame($range, Checks::range($expression, 'depth'));
    }

    #[TestWith(['tbl_station', 'Station'])]
    #[TestWith(['dim_day', 'Day'])]
    #[TestWith(['stg_x_reading', 'Reading'])]
    #[TestWith(['tbl', 'Tbl'])]
    #[TestWith(['barrier_survey', 'Barrier survey'])]
    #[TestWith(['g_barrier', 'Barrier'])]
    #[TestWith(['fk_barrier', 'Barrier'])]
    #[TestWith(['e_barrier', 'E barrier'])]
    #[TestWith(['barrier_v11', 'Barrier'])]
    #[TestWith(['barrier_2023', 'Barrier 2023'])]
    #[TestWith(['barrier_barrier', 'Barrier'])]
    #[TestWith(['WLCGVOs', 'Wlcgvos'])]
    public function testTheNameOfATable(string $name, string $title): void
    {
        self::assertSame($title, FieldName::ofTable($name, self::abbreviations())->title());
    }

    /** @param array{string, string, string, string} $read title, unit, ending, what it asks */
    #[TestWith(['depth_cm', TypeFamily::Number, false, ['Depth', 'cm', '', '']])]
    #[TestWith(['depth_cm', TypeFamily::Time, false, ['Depth cm', '', '', '']])]
    #[TestWith(['fade_in_s', TypeFamily::Whole, false, ['Fade', 's', '', '']])]
    #[TestWith(['is_valid', TypeFamily::Flag, false, ['Valid', '', '', 'is']])]
    #[TestWith(['has_gauge', TypeFamily::Whole, false, ['Gauge', '', '', 'has']])]
    #[TestWith(['was_on', TypeFamily::Time, false, ['Was on', '', '', '']])]
    #[TestWith(['valid_flag', TypeFamily::Flag, false, ['Valid', '', '', 'is']])]
    #[TestWith(['valid_flag', TypeFamily::Text, false, ['Valid flag', '', '', '']])]
    #[TestWith(['valid_yn', TypeFamily::Text, false, ['Valid', '', '', 'is']])]
    #[TestWith(['valid_yn', TypeFamily::Time, false, ['Valid yn', '', '', '']])]
    #[TestWith(['valid_yn', TypeFamily::Text, true, ['Valid yn', '', '', '']])]
    #[TestWith(['station_id', TypeFamily::Whole, true, ['Station', '', 'id', '']])]
    #[TestWith(['station_fk', TypeFamily::Whole, false, ['Station', '', 'fk', '']])]
    #[TestWith(['is', TypeFamily::Flag, false, ['Is', '', '', '']])]
    #[TestWith(['readings[].value_cm', TypeFamily::Number, false, ['Value', 'cm', '', '']])]
    public function testTheNameOfAField(string $name, TypeFamily $family, bool $leads, array $read): void
    {
        $table = new Table('main', 'reading', TableType::Table, columns: [new Column($name, 'int')]);
        $field = FieldName::ofColumn($name, $table, self::abbreviations(), $family, $leads);

        self::assertSame($read, [$field->title(), $field->unit->symbol ?? '', $field->ending, $field->asks]);
    }

    /** What a field of a table of samples is drafted to mean, by its name and what is known of it. */
    #[TestWith([new Column('number_count', 'int'), 'How many numbers the sample has.'])]
    #[TestWith([new Column('number_of_bottles', 'int'), 'How many bottles the sample has.'])]
    #[TestWith([new Column('number_of', 'int'), null])]
    #[TestWith([new Column('bottle_count', 'int'), 'How many bottles the sample has.'])]
    #[TestWith([new Column('bottle_count', 'varchar(9)'), null])]
    #[TestWith([new Column('bottle_qty', 'int'), 'How many bottles the sample has.'])]
    #[TestWith([new Column('how_much_water', 'int'), null])]
    #[TestWith([new Column('note', 'text', comment: 'what was seen at the bank'), 'What was seen at the bank.'])]
    #[TestWith([new Column('note', 'text', comment: 'seen'), 'What else there is to note about the sample, in words.'])]
    #[TestWith([new Column('valid_from', 'date'), 'The first day on which the sample is valid. Empty where it always was.'])]
    #[TestWith([new Column('valid_to', 'date'), 'The last day on which the sample is valid. Empty while no end is set.'])]
    #[TestWith([new Column('starting', 'date'), 'The first day of the sample.'])]
    #[TestWith([new Column('end_date', 'date', false), 'The last day of the sample.'])]
    #[TestWith([new Column('birth_date', 'date', false), 'The day on which the sample was born.'])]
    #[TestWith([new Column('due_date', 'date', false), 'The day on which the sample is due.'])]
    #[TestWith([new Column('taken_at', 'timestamp', false), 'The instant at which the sample was taken.'])]
    #[TestWith([new Column('updated_at', 'timestamp', onUpdate: 'now()'), 'When the row was last changed; the database sets it.'])]
    #[TestWith([new Column('modified', 'timestamp'), 'When the row was last changed.'])]
    #[TestWith([new Column('ts', 'timestamp', false, 'now()'), 'When the row was made; the database sets it.'])]
    #[TestWith([new Column('inserted', 'timestamp'), 'When the row was made.'])]
    #[TestWith([new Column('create_date', 'timestamp'), 'When the row was made.'])]
    #[TestWith([new Column('write_date', 'timestamp'), 'When the row was last changed.'])]
    #[TestWith([new Column('invoice_date', 'date'), null])]
    #[TestWith([new Column('date', 'date'), null])]
    #[TestWith([new Column('photo', 'blob'), null])]
    #[TestWith([new Column('version', 'varchar(9)'), null])]
    #[TestWith([new Column('start_pos', 'int'), null])]
    #[TestWith([new Column('symbol', 'varchar(9)'), null])]
    #[TestWith([new Column('file_name', 'varchar(90)'), 'What the file is called.'])]
    #[TestWith([new Column('latin_name', 'varchar(90)'), 'What the sample is called: its latin name.'])]
    #[TestWith([new Column('address', 'varchar(90)'), null])]
    #[TestWith([new Column('spent_amount', 'decimal(9,2)'), 'The amount of money that was spent, for the sample.'])]
    #[TestWith([new Column('carry_over', 'tinyint(1)'), 'Whether the sample carries over: 1 for yes, 0 for no.'])]
    #[TestWith([new Column('allow_reading', 'boolean'), 'Whether the sample allows reading.'])]
    #[TestWith([new Column('status', 'tinyint(1)'), null])]
    public function testWhatAFieldIsDraftedToMean(Column $column, ?string $text): void
    {
        $table = new Table('main', 'sample', TableType::Table, columns: [new Column('id', 'int', false), $column], primaryKey: new Key(null, ['id']));
        $material = Material::ofCatalog(new Catalog('mariadb', '', [$table]));

        self::assertSame($text, ((new Drafts())->ofField($material->field(0, $column))['meaning'][0] ?? null)?->text);
    }

    /** @param array<string, array{string, string}> $figures field → the least and the greatest of its values */
    #[TestWith(['int', 'core_start', 'core_end', 'Where the core of the sample starts, as a number; “core_end” says where it ends.'])]
    #[TestWith(['int', 'core_end', 'core_start', 'Where the core of the sample ends, as a number; “core_start” says where it starts.'])]
    #[TestWith(['decimal(9,2)', 'depth_from', 'depth_to', 'Where the depth of the sample starts, as a number; “depth_to” says where it ends.'])]
    #[TestWith(['int', 'start_position', 'end_position', 'Where the position of the sample starts, as a number; “end_position” says where it ends.'])]
    #[TestWith(['int', 'sample_start', 'sample_end', 'Where the sample starts, as a number; “sample_end” says where it ends.'])]
    #[TestWith(['int', 'min_weight', 'max_weight', 'The least that the weight of the sample may be or is; “max_weight” has the greatest.'])]
    #[TestWith(['int', 'max_weight', 'min_weight', 'The greatest that the weight of the sample may be or is; “min_weight” has the least.'])]
    #[TestWith(['int', 'core_start', 'depth_end', null])]
    #[TestWith(['varchar(9)', 'core_start', 'core_end', null])]
    #[TestWith(['int', 'core_start', 'core_end', 0.84, ['core_start' => ['1', '7'], 'core_end' => ['1', '9']]])]
    #[TestWith(['int', 'core_start', 'core_end', null, ['core_start' => ['2', '7'], 'core_end' => ['1', '9']]])]
    #[TestWith(['int', 'core_end', 'core_start', null, ['core_start' => ['1', '11'], 'core_end' => ['1', '9']]])]
    #[TestWith(['int', 'core_end', 'core_start', 0.76, ['core_end' => ['1', '9']]])]
    public function testTwoNumbersOfARowThatSomethingLiesBetween(string $type, string $name, string $beside, string|float|null $text, array $figures = []): void
    {
        $columns = [new Column('id', 'int', false), new Column($name, $type), new Column($beside, $type)];
        $table = new Table('main', 'sample', TableType::Table, columns: $columns, primaryKey: new Key(null, ['id']));
        $fields = array_map(static fn (array $ends): FieldProfile => new FieldProfile(9, 9, least: $ends[0], greatest: $ends[1]), $figures);
        $profiles = [] === $fields ? [] : [new TableProfile(9, 9, '', $fields)];
        $material = Material::ofCatalog(new Catalog('mariadb', '', [$table]), profiles: $profiles);
        $draft = (new Drafts())->ofField($material->field(0, $columns[1]))['meaning'][0] ?? null;

        self::assertSame($text, \is_float($text) ? $draft?->confidence : $draft?->text);
    }

    public function testWhatAllFieldsBeginWithSaysNothingOfOne(): void
    {
        self::assertSame([
            'gso_id' => 'Numbered by the database. Carries no meaning outside it.', 'gso_enabled' => 'Whether the token is enabled.',
            'gso_name' => 'What the token is called.', 'gso_expires_at' => 'The instant at which the token expires. Empty while that is not known.',
            'gsp_id' => null,
        ], self::drafted('CREATE TABLE g_token (gso_id integer PRIMARY KEY, gso_enabled boolean, gso_name varchar(20), gso_expires_at timestamp,
            gsp_id integer)', 'g_token'));
    }

    public function testAFieldThatLeadsElsewhereIsToldByWhereItLeads(): void
    {
        $said = self::drafted('CREATE TABLE symbol (id integer PRIMARY KEY, name varchar(20)); CREATE TABLE user_data (id integer PRIMARY KEY,
            weight_kg integer);
            CREATE TABLE heritage (heritage_no integer PRIMARY KEY, symbol_id_derived integer REFERENCES symbol (id), user_data_id integer NOT NULL
            REFERENCES user_data (id), id integer NOT NULL REFERENCES symbol (id))', 'heritage');

        self::assertSame('The derived symbol of the heritage. Empty where there is none.', $said['symbol_id_derived']);
        self::assertSame('The user data row that the heritage refers to.', $said['user_data_id']);
        self::assertSame('The symbol that the heritage refers to.', $said['id']);
    }

    public function testANameOfATableIsShortForNoOther(): void
    {
        $said = self::drafted('CREATE TABLE konto (id integer PRIMARY KEY, bic varchar(9)); CREATE TABLE kontoauszug (id integer PRIMARY KEY,
            konto_id integer NOT NULL REFERENCES konto (id), comment varchar(90))', 'kontoauszug');

        self::assertSame('The konto that the kontoauszug refers to.', $said['konto_id']);
    }

    /** @return array<string, ?string> field of a table → its meaning; null where nothing is drafted */
    private static function drafted(string $sql, string $name): array
    {
        $catalog = (new Base($sql))->catalog();
        $material = Material::ofCatalog($catalog);
        $said = [];
        foreach ($catalog->tables as $i => $table) {
            foreach ($table->name === $name ? $table->columns : [] as $column) {
                $said[$column->name] = ((new Drafts())->ofField($material->field($i, $column))['meaning'][0] ?? null)?->text;
            }
        }

        return $said;
    }

    public function testWhatIsSaidIsGivenByItsName(): void
    {
        $said = new Said('name', 'meaning', 'grain', 'unit', 'allowed', 'personal');
        foreach (['meaning', 'grain', 'unit', 'allowed', 'personal'] as $property) {
            self::assertSame($property, $said->of($property));
        }
        self::assertSame(['name', '', ''], [$said->of('businessName'), $said->of('verb'), $said->of('')]);
    }

    public function testADraftMayBeLessSure(): void
    {
        $draft = new Draft('meaning', 'A day.', 0.8, ['its name'], 'OfTime');

        self::assertSame([0.4, 'A day.', 'OfTime'], [$draft->with(0.4)->confidence, $draft->with(0.4)->text, $draft->with(0.4)->rule]);
        self::assertSame(['Other', 0.8], [$draft->by('Other')->rule, $draft->by('Other')->confidence]);
    }

    private static function abbreviations(): Abbreviations
    {
        return Material::ofCatalog(Made::catalog(Made::table('station'), Made::table('reading')))->abbreviations;
    }
}
