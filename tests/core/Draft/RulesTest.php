<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Draft;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\ForeignKey;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Catalog\Reference;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Draft\Draft;
use Fasti\Core\Draft\Drafts;
use Fasti\Core\Draft\Material;
use Fasti\Core\Draft\Rule\OfVerb;
use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;

/** Rule by rule, what is drafted of a field or of what one row stands for, how sure, and because of what. */
final class RulesTest extends TestCase
{
    #[TestWith([new Column('shape', 'polygon'), 'meaning', 'Where the sample is, as an area.', 0.86])]
    #[TestWith([new Column('spot', 'point'), 'meaning', 'Where the sample is, as a point.', 0.86])]
    #[TestWith([new Column('way', 'linestring'), 'meaning', 'Where the sample is.', 0.86])]
    #[TestWith([new Column('latitude', 'double'), 'meaning', 'Where the sample is: how far north or south, in degrees.', 0.85])]
    #[TestWith([new Column('easting', 'double'), 'meaning', 'Where the sample is: how far east.', 0.85])]
    #[TestWith([new Column('position', 'int'), 'meaning', 'The place of the sample among others of its list.', 0.66])]
    #[TestWith([new Column('taken_on', 'date'), 'meaning', 'The day on which the sample was taken. Empty while it has not been.', 0.86])]
    #[TestWith([new Column('newly_taken_on', 'date'), 'meaning', 'The day on which the sample was newly taken. Empty while it has not been.', 0.86])]
    #[TestWith([new Column('bottle_taken_on', 'date'), 'meaning', 'The day on which the bottle was taken. Empty while it has not been.', 0.72])]
    #[TestWith([new Column('fade_in_s', 'int'), 'businessName', 'Fade', 0.84])]
    #[TestWith([new Column('depth_cm', 'int'), 'unit', 'cm', null])]
    #[TestWith([new Column('depth', 'int', comment: 'how deep, in cm'), 'unit', 'cm', 0.88])]
    #[TestWith([new Column('depth', 'varchar(9)', comment: 'how deep, in cm'), 'unit', null, null])]
    public function testWhatAFieldIsDraftedToBe(Column $column, string $property, ?string $text, ?float $sure): void
    {
        $draft = self::drafts([new Column('id', 'int', false), $column])[$property][0] ?? null;

        self::assertSame($text, $draft?->text);
        if (null !== $sure) {
            self::assertEqualsWithDelta($sure, $draft?->confidence, 0.001);
        }
    }

    public function testAListOfCodesIsTheOneThatHasExactlyThese(): void
    {
        $lists = ['near' => ['G', 'S', 'X'], 'flags' => ['S', 'G'], 'less' => ['G']];
        $allowed = static fn (string $type): ?string => (self::drafts([new Column('flag', $type)], $lists)['allowed'][0] ?? null)?->text;

        self::assertSame('code list flags', $allowed("enum('G','S')"));
        self::assertSame('code list flags', $allowed("enum('S','G')"), 'in whatever order');
        self::assertSame('one of G, T', $allowed("enum('G','T')"));
    }

    /** @param non-empty-list<string> $key */
    #[TestWith([['station_id', 'taken_on'], 'station and day', 0.84])]
    #[TestWith([['station_id', 'other_station_id'], 'station and other station', 0.84])]
    #[TestWith([['station_id', 'gone'], null, null])]
    #[TestWith([['station_id', 'taken_at'], 'station and instant', 0.84])]
    #[TestWith([['id'], 'sample', 0.6])]
    public function testWhatOneRowStandsForFollowsFromItsKey(array $key, ?string $grain, ?float $sure): void
    {
        $lead = static fn (string $field): ForeignKey => new ForeignKey(null, [$field], new Reference('', 'station', ['id']));
        $sample = new Table('', 'sample', TableType::Table, columns: [
            new Column('id', 'int', false), new Column('station_id', 'int', false), new Column('other_station_id', 'int', false),
            new Column('taken_on', 'date', false), new Column('taken_at', 'timestamp', false),
        ], primaryKey: new Key(null, $key), foreignKeys: [$lead('station_id'), $lead('other_station_id')]);
        $station = new Table('', 'station', TableType::Table, columns: [new Column('id', 'int', false)], primaryKey: new Key(null, ['id']));
        $drafts = (new Drafts())->ofEntry(Material::ofCatalog(new Catalog('mariadb', '', [$sample, $station]))->entry(0))['grain'] ?? [];
        $draft = $drafts[0] ?? null;

        self::assertSame([$grain, $sure], [$draft?->text, $draft?->confidence]);
    }

    public function testWhatAFieldSaysOfAJoinIsSurerThanWhatItsTableSays(): void
    {
        [$own, $back] = OfVerb::of('sample', ['taken_by'], 'person', ['id']);
        [$read] = OfVerb::of('bottle', ['sample_id'], 'sample', ['sample_id', 'no']);

        self::assertSame([0.8, ['the words of taken_by'], 0.75], [$own->confidence, $own->because, $back->confidence]);
        self::assertSame([0.66, ['what sample is called, and the key']], [$read->confidence, $read->because]);
    }

    /**
     * @param list<Column>                $columns
     * @param array<string, list<string>> $lists
     *
     * @return array<string, non-empty-list<Draft>>
     */
    private static function drafts(array $columns, array $lists = []): array
    {
        $table = new Table('main', 'sample', TableType::Table, columns: $columns, primaryKey: new Key(null, ['id']));
        $material = Material::ofCatalog(new Catalog('mariadb', '', [$table]), lists: $lists);

        return (new Drafts())->ofField($material->field(0, $columns[\count($columns) - 1]));
    }
}
