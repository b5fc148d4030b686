<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Files;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Files\FilesReader;
use Fasti\Core\Survey\Choice;
use Fasti\Core\Survey\SilentProgress;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class MapsTest extends TestCase
{
    /** @return iterable<string, array{list<mixed>, bool}> values of the member `m` in one document each, and whether they are maps */
    public static function objects(): iterable
    {
        $each = static fn (callable $make, int $count = 20): array => array_map($make, range(0, $count - 1));
        $words = ['amber', 'birch', 'cedar', 'dune', 'elm', 'fern', 'glen', 'heath', 'iris',
            'juniper', 'kelp', 'larch', 'moss', 'nettle', 'oak', 'pine', 'quill',
            'reed', 'sage', 'thorn', 'umber', 'vetch', 'willow', 'yarrow'];
        yield 'texts in languages' => [[['en' => 'Mill', 'de' => 'Mühle'], ['en' => 'Weir']], true];
        yield 'texts in languages with regions' => [[['en-GB' => 'Mill', 'pt_BR' => 'Moinho', 'de' => 'Mühle']], true];
        yield 'objects for each language' => [[['en' => ['title' => 'a', 'body' => 'b'], 'fr' => ['title' => 'c', 'body' => 'd']]], true];
        yield 'sums in currencies' => [[['EUR' => 1.5, 'CHF' => 2], ['EUR' => 3]], true];
        yield 'figures of countries' => [[['DE' => 1, 'FR' => 2, 'IT' => 3], ['DE' => 2, 'PL' => 5]], true];
        yield 'what a package needs' => [[['lodash' => '^4.17.0', 'vue' => '~3.2', 'left-pad' => '*', 'plum' => '>=1.0 <2.0']], true];
        yield 'packages with their makers' => [[['arrow/mill' => '^1.0', 'arrow/weir' => 'dev-main']], true];
        yield 'releases' => [[['1.0.0' => ['date' => '2024-01-01', 'size' => 1], '1.1.0-beta.2' => ['date' => '2024-02-01', 'size' => 2]]], true];
        yield 'days' => [[['2024-01-01' => 5, '2024-01-02' => 6], ['2024-01-03' => 1]], true];
        yield 'numbers' => [[['1' => 'a', '17' => 'b'], ['23' => 'c']], true];
        yield 'UUIDs' => [$each(static fn (int $i): array => [\sprintf('%08x-0000-4000-8000-%012x', $i, $i) => $i], 3), true];
        yield 'paths' => [[['/stations/{id}' => ['get' => 'x'], '/readings' => ['get' => 'y']]], true];
        yield 'codes of stations' => [$each(static fn (int $i): array => ['ARR-0'.($i % 9) => 1, 'CAL-1'.($i % 7) => 2]), true];
        yield 'a series of sensors' => [$each(static fn (int $i): array => ['sensor'.$i => ['v' => 1.0], 'sensor'.($i + 1) => ['v' => 2.0]]), true];
        yield 'words that vary' => [$each(static fn (int $i): array => [$words[$i % 24] => $i, $words[(5 * $i + 1) % 24] => 2], 60), true];
        yield 'objects alike under many names' => [[array_map(static fn (): array => ['rows' => 1, 'size' => 2], array_flip($words))], true];
        yield 'maps of maps' => [[['2024-01' => ['EUR' => 1, 'CHF' => 2], '2024-02' => ['GBP' => 2, 'SEK' => 4, 'NOK' => 5]]], true];
        yield 'settings' => [[['host' => 'a', 'user' => 'b', 'port' => 1, 'debug' => true]], false];
        yield 'settings of texts' => [
            $each(static fn (int $i): array => ['host' => 'a', 'user' => 'b', 'database' => 'c', 'charset' => 'd', 'socket' => 'e'.$i]),
            false,
        ];
        yield 'settings with versions' => [$each(static fn (int $i): array => ['minimum' => '1.2.0', 'current' => '1.5.'.$i, 'maximum' => '2.0.0']), false];
        yield 'a range' => [[['from' => '2024-01-01', 'to' => '2024-02-01']], false];
        yield 'members of two letters' => [[['id' => 'a', 'no' => 'b', 'to' => 'c', 'is' => 'd'], ['id' => 'a', 'no' => 'b', 'to' => 'c', 'is' => 'd']], false];
        yield 'a position' => [$each(static fn (int $i): array => ['lat' => 1.5, 'lon' => 2.5, 'alt' => $i]), false];
        yield 'lines of an address' => [$each(static fn (int $i): array => ['line1' => 'a', 'line2' => 'b', 'line3' => 'c', 'line4' => 'd']), false];
        yield 'objects that differ' => [[['address' => ['street' => 'a', 'town' => 'b'], 'contact' => ['email' => 'c', 'phone' => 'd']]], false];
        yield 'sides of a box' => [[['top' => ['width' => 1, 'style' => 'a'], 'left' => ['width' => 2, 'style' => 'b']]], false];
        yield 'some members that are optional' => [
            $each(static fn (int $i): array => ['title' => 'a'] + (0 === $i % 2 ? ['note' => 'b'] : ['remark' => 'c'])),
            false,
        ];
        yield 'sums by name' => [[['net' => 1, 'vat' => 2, 'all' => 3], ['net' => 1, 'vat' => 2, 'all' => 3]], false];
    }

    /** @param list<mixed> $values */
    #[DataProvider('objects')]
    public function testMapsAreToldFromObjectsByWhatTheyLookLike(array $values, bool $map): void
    {
        $folder = new Folder(['m.jsonl' => implode('', array_map(static fn (mixed $value): string => json_encode(['n' => 'x', 'm' => $value])."\n", $values))]);
        $catalog = FilesReader::open($folder->path)->read(new Choice(), new SilentProgress());
        $names = array_map(static fn (Column $column): string => $column->name, $catalog->tables[0]->columns);

        self::assertSame($map, \in_array('m{}', $names, true), implode(', ', $names));
        self::assertSame(
            $map ? 1 : 0,
            \count(array_filter($catalog->notes, static fn (string $note): bool => str_contains($note, 'the object m is a map, for '))),
        );
    }

    public function testAMapWithinAMapIsFoundOnceTheOuterIsKnown(): void
    {
        $folder = new Folder(['m.json' => '{"t":{"2024-01-01":{"EUR":1,"CHF":2},"2024-01-02":{"GBP":3,"SEK":1,"NOK":2}}}']);
        $catalog = FilesReader::open($folder->path)->read(new Choice(), new SilentProgress());

        self::assertSame(['t', 't{}', 't{}{}'], array_map(static fn (Column $column): string => $column->name, $catalog->tables[0]->columns));
        self::assertCount(2, $catalog->notes);
    }
}
