<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Files;

use Fasti\Core\Files\FoundMaps;
use Fasti\Core\Files\JsonDocuments;
use Fasti\Core\Files\JsonSchema;
use Fasti\Core\Files\SchemaFile;
use Fasti\Core\Files\Structure;
use PHPUnit\Framework\TestCase;

final class JsonDocumentsTest extends TestCase
{
    /** The same documents, however they are laid out and wherever a chunk of the file ends. */
    public function testTheLayoutOfAFileMakesNoDifference(): void
    {
        mt_srand(7);
        $documents = [];
        for ($i = 0; $i < 900; ++$i) {
            $documents[] = ['id' => $i, 'text' => str_repeat('{"}\\[', mt_rand(0, 120)).'ü', 'in' => ['a' => [1, ['b' => '}']], 'c' => null]];
        }
        $lines = implode("\n", array_map(static fn (array $d): string => (string) json_encode($d, \JSON_UNESCAPED_UNICODE), $documents));
        $layouts = [
            $lines,
            (string) json_encode($documents),
            (string) json_encode($documents, \JSON_PRETTY_PRINT),
            implode("\n\n", array_map(static fn (array $d): string => (string) json_encode($d, \JSON_PRETTY_PRINT), $documents)),
        ];
        foreach ($layouts as $i => $content) {
            $folder = new Folder(['d.json' => $content]);
            $read = [];
            foreach (new JsonDocuments($folder->path.'/d.json') as [$value]) {
                $read[] = json_decode((string) json_encode($value), true);
            }
            self::assertSame($documents, $read, "layout $i");
        }
    }

    public function testADocumentDeeperThanPatternsReachIsFoundByCounting(): void
    {
        $deep = str_repeat('{"a":[', 240).'1'.str_repeat(']}', 240);
        $folder = new Folder(['d.json' => "[$deep,{\"b\":1}]"]);

        self::assertCount(2, iterator_to_array(new JsonDocuments($folder->path.'/d.json'), false));
    }

    public function testWhatIsNestedBeyondAllSenseIsSaid(): void
    {
        $folder = new Folder(['d.jsonl' => str_repeat('{"a":', 600).'1'.str_repeat('}', 600)."\n{\"b\":1}\n"]);
        $documents = new JsonDocuments($folder->path.'/d.jsonl');

        self::assertCount(1, iterator_to_array($documents, false));
        self::assertStringContainsString('nested more than 512 deep', $documents->faults[0]);
    }

    public function testDocumentsOfOneShapeHaveOneNumberInWhateverOrderTheirListsStand(): void
    {
        $structure = new Structure();
        foreach (['{"a":1,"l":[{"x":1},{"y":2}]}', '{"a":2,"l":[{"y":2},{"x":1},{"x":3}]}', '{"a":2}', '{"b":2}'] as $json) {
            $structure->add(json_decode($json), $json);
        }

        self::assertSame([2, 1, 1], array_column(array_values($structure->shapes), 'count'));
        self::assertSame(['a', 'l', 'l[].x', 'l[].y'], array_values($structure->shapes)[0]['paths']);
    }

    public function testAPlaceWithTooManyNamesAsksToBeginAgain(): void
    {
        $structure = new Structure();
        try {
            for ($i = 0; $i < 2000; ++$i) {
                $structure->add((object) ['k' => (object) ['n'.$i => 1]], '');
            }
            self::fail('It went on.');
        } catch (FoundMaps $e) {
            self::assertSame(['k'], array_keys($e->why));
            self::assertStringContainsString('more than 500 different names', $e->why['k']);
        }
        $structure = new Structure(['k' => true]);
        $structure->add((object) ['k' => (object) ['n1' => 1, 'n2' => 2]], '');
        self::assertSame([''], array_keys($structure->root->members['k']->node->members ?? []));
    }

    public function testAWideObjectWhoseMembersAreAlwaysThereIsNoMap(): void
    {
        $wide = array_fill_keys(array_map(static fn (int $i): string => 'column_'.$i, range(1, 800)), 1);
        $structure = new Structure();
        for ($i = 0; $i < 5; ++$i) {
            $structure->add((object) $wide, '');
        }

        self::assertCount(800, $structure->root->members);
    }

    public function testASchemaThatRefersToItselfEnds(): void
    {
        $table = (new SchemaFile([
            'type' => 'object',
            'properties' => ['child' => ['$ref' => '#'], 'odd' => ['$ref' => '#/$defs/none']],
        ]))->table('files', 'tree');

        self::assertLessThan(80, \count($table->columns));
        self::assertSame('child.child', $table->columns[1]->name);
    }

    public function testASchemaPutsTogetherWhatIsInherited(): void
    {
        $table = (new SchemaFile([
            'type' => 'array',
            'items' => ['allOf' => [['properties' => ['a' => ['type' => 'integer']], 'required' => ['a']], ['$ref' => '#/definitions/more']]],
            'definitions' => ['more' => ['properties' => ['b' => ['type' => ['string', 'null'], 'default' => 'x']]]],
        ]))->table('files', 'list');

        self::assertSame(
            [['a', 'integer', false, null], ['b', 'string', true, '"x"']],
            array_map(static fn ($column): array => [$column->name, $column->type, $column->nullable, $column->default], $table->columns),
        );
        self::assertTrue(SchemaFile::is(['$schema' => 'https://json-schema.org/draft/2020-12/schema']));
        self::assertFalse(SchemaFile::is(['type' => 'object', 'name' => 'a document that has a type']));
        self::assertFalse(SchemaFile::is([1, 2]));
    }

    public function testMeaningsStandInTheSchemaThatIsWritten(): void
    {
        $table = (new SchemaFile([
            'type' => 'object',
            'required' => ['a'],
            'properties' => [
                'a' => ['enum' => ['x', 'y']],
                'b' => ['type' => 'array', 'items' => ['type' => 'object', 'properties' => ['c' => ['type' => 'string', 'format' => 'date']]]],
            ],
        ]))->table('files', 't');
        $schema = JsonSchema::of($table, 'Title', 'About', ['b[].c' => 'The day']);

        self::assertSame(['Title', 'About', JsonSchema::DRAFT], [$schema['title'] ?? null, $schema['description'] ?? null, $schema['$schema'] ?? null]);
        self::assertSame(
            '{"a":{"type":"string","enum":["x","y"]},"b":{"type":"array","items":{"properties":{"c":{"type":"string","description":"The '
                .'day","format":"date"}}}}}',
            str_replace('"items":{"type":"object",', '"items":{', (string) json_encode($schema['properties'] ?? null)),
        );
    }
}
