<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Files;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Files\FilesReader;
use Fasti\Core\Files\JsonSchema;
use Fasti\Core\Files\SchemaFile;
use Fasti\Core\Survey\Choice;
use Fasti\Core\Survey\SilentProgress;
use Opis\JsonSchema\Errors\ErrorFormatter;
use Opis\JsonSchema\Validator;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;

/** A JSON Schema that Fasti gives is valid, all documents that were read satisfy it, and it has the same members when read. */
final class GivenSchemaTest extends TestCase
{
    /** What the draft demands of the words that Fasti writes. */
    private const DRAFT = <<<'JSON'
        {"$schema": "https://json-schema.org/draft/2020-12/schema", "type": "object", "additionalProperties": false, "properties": {
            "$schema": {"type": "string"}, "title": {"type": "string"}, "description": {"type": "string"}, "format": {"type": "string"},
            "type": {"anyOf": [{"$ref": "#/$defs/type"}, {"type": "array", "minItems": 1, "uniqueItems": true, "items": {"$ref": "#/$defs/type"}}]},
            "enum": {"type": "array", "minItems": 1, "uniqueItems": true}, "required": {"type": "array", "uniqueItems": true, "items": {"type": "string"}},
            "properties": {"type": "object", "additionalProperties": {"$ref": "#"}}, "additionalProperties": {"$ref": "#"}, "items": {"$ref": "#"}
        }, "$defs": {"type": {"enum": ["array", "boolean", "integer", "null", "number", "object", "string"]}}}
        JSON;

    /** @return iterable<string, array{list<string>}> */
    public static function documents(): iterable
    {
        yield 'names that are numbers' => [['{"0":"a","1":{"0":1},"7":[{"0":null}]}', '{"0":"b","1":{"0":2}}']];
        yield 'names with dots, slashes and brackets' => [['{"a.b":1,"c/d":{"e[]":2,"f{}":[{"~1":true}]},"g\"h":"x"}', '{"a.b":2.5,"c/d":{"e[]":null}}']];
        yield 'a name that is a member of a member' => [['{"a.b":"text","a":{"b":1}}', '{"a":{"b":2},"a.b":"more"}']];
        yield 'an empty name and a blank one' => [['{"":1," ":{"":"x"}}', '{"":2," ":{"":"y"}}']];
        yield 'names of the schema itself' => [['{"$ref":"x","type":"y","properties":{"required":[1],"items":{"$id":2}},"enum":1}']];
        yield 'dates that are none' => [['{"d":"2024-02-30","t":"2024-02-30T10:00:00Z"}', '{"d":"2024-02-01","t":"2024-02-01T10:00:00Z"}']];
        yield 'instants that a standard does not know' => [['{"t":"2024-02-01T25:00:00Z","u":"2024-01-01 10:00:00Z","v":"2024-01-01T00:00:00+99:00"}']];
        yield 'addresses that are none' => [['{"m":"a..b@c.example","u":"https://exa mple/","w":"http://x/%zz","e":"é@c.example"}']];
        yield 'addresses' => [['{"m":"a.b@c.example","u":"https://arrow.example/a?b=1#c"}', '{"m":"x@d.example","u":"http://arrow.example:80"}']];
        yield 'empty lists and objects' => [['{"a":[],"b":{},"c":[[]],"d":[{}]}', '{"a":[],"b":{},"c":[],"d":[]}']];
        yield 'numbers of two kinds' => [['{"a":1,"b":1.5,"c":12345678901234567890,"d":1.0,"e":-0.0}', '{"a":1.5,"b":2,"c":1,"d":1,"e":0}']];
        yield 'values of all kinds' => [['{"a":1}', '{"a":"x"}', '{"a":null}', '{"a":[1,"x",null,{"b":1},[2]]}', '{"a":{"b":"c"}}', '{"a":true}']];
        yield 'lists in lists' => [['{"a":[[[[[[[[[[[1]]]]]]]]]]]}', '{"a":[1]}']];
        yield 'a format that only the first have' => [['{"a":['.implode(',', array_fill(0, 50, '"2024-01-01"')).',"later"]}']];
        yield 'members that are sometimes null' => [['{"a":null,"b":{"c":null}}', '{"a":null}', '{"b":null}']];
        yield 'a map' => [['{"t":{"en":"a","de":"b"}}', '{"t":{"fr":"c"}}', '{"t":{}}', '{}']];
        yield 'a map at the top' => [['{"2024-01-01":{"v":1},"2024-01-02":{"v":null}}']];
    }

    /** @param list<string> $documents */
    #[DataProvider('documents')]
    public function testEveryDocumentSatisfiesTheSchema(array $documents): void
    {
        $this->holds($documents);
    }

    public function testDocumentsOfAnyStructureSatisfyTheirSchema(): void
    {
        for ($seed = 0; $seed < 120; ++$seed) {
            mt_srand($seed);
            $this->holds(array_map(static fn (): string => (string) json_encode(self::made(0), \JSON_PRESERVE_ZERO_FRACTION), range(1, mt_rand(1, 12))));
        }
    }

    public function testAPlannedEnumerationIsGivenInItsTypes(): void
    {
        $table = (new SchemaFile(['type' => 'object', 'required' => ['n'], 'properties' => [
            'n' => ['type' => 'integer', 'enum' => [1, 2, 3]], 's' => ['enum' => ['1', 'x']], 'm' => ['type' => ['string', 'integer'], 'enum' => [1, 'a']],
        ]]))->table('files', 't');
        $schema = (object) json_decode((string) json_encode(JsonSchema::of($table)));

        self::assertTrue((new Validator())->validate(json_decode('{"n":2,"s":"1","m":1}'), $schema)->isValid());
        self::assertFalse((new Validator())->validate(json_decode('{"n":4}'), $schema)->isValid());
    }

    /** @param list<mixed> $members */
    #[TestWith(['string', ['1', 'x'], '["1","x"]'])]
    #[TestWith(['integer', [1, 2], '[1,2]'])]
    #[TestWith(['number', [1.5], '[1.5]'])]
    #[TestWith(['boolean', [true, false], '[true,false]'])]
    #[TestWith([['integer', 'string', 'null'], [1, '1', 'x', null], '[1,"1","x",null]'])]
    public function testMembersOfAnEnumerationAreOfTheTypesThatAreSaid(mixed $type, array $members, string $given): void
    {
        $schema = ['type' => 'object', 'required' => ['a'], 'properties' => ['a' => ['type' => $type, 'enum' => $members]]];

        self::assertStringContainsString('"enum":'.$given, (string) json_encode(JsonSchema::of((new SchemaFile($schema))->table('files', 't'))));
    }

    /** @param list<string> $documents */
    private function holds(array $documents): void
    {
        $folder = new Folder(['m.jsonl' => implode("\n", $documents)."\n"]);
        $table = FilesReader::open($folder->path)->read(new Choice(), new SilentProgress())->tables[0];
        $text = (string) json_encode(JsonSchema::of($table), \JSON_PRETTY_PRINT | \JSON_UNESCAPED_SLASHES);
        $schema = (object) json_decode($text);
        $validator = new Validator();
        $draft = (object) json_decode(self::DRAFT);
        self::assertNull($validator->validate($schema, $draft)->error()?->message(), "The schema is not valid:\n$text");
        foreach ($documents as $document) {
            $error = $validator->validate(json_decode($document), $schema)->error();
            self::assertNull($error, "$document does not satisfy\n$text\n".(null === $error ? '' : json_encode((new ErrorFormatter())->format($error))));
        }
        if ([] !== $table->columns) {
            /** @var array<string, mixed> $decoded */
            $decoded = json_decode($text, true);
            $again = (new SchemaFile($decoded))->table('files', 'm');
            $names = array_map(static fn (Column $column): string => $column->name, $again->columns);
            self::assertSame([], array_values(array_diff(array_map(static fn (Column $column): string => $column->name, $table->columns), $names)), $text);
        }
    }

    private static function made(int $depth): mixed
    {
        $kind = 0 === $depth ? 0 : mt_rand(0, $depth > 3 ? 7 : 9);
        if (0 === $kind || 8 === $kind) {
            $object = new \stdClass();
            for ($i = mt_rand(0, 5); $i > 0; --$i) {
                $object->{[
                    'a', 'b', 'a.b', '0', '1', 'x[]', '', 'y{}', '"', 'type', 'en', 'de', '2024-01-01', '$ref',
                ][mt_rand(0, 13)]} = self::made($depth + 1);
            }

            return $object;
        }
        if (9 === $kind) {
            return array_map(static fn (): mixed => self::made($depth + 1), mt_rand(0, 1) ? range(1, mt_rand(1, 4)) : []);
        }

        return [1 => 'x', 2 => mt_rand(-5, 5), 3 => mt_rand(-5, 5) / 2, 4 => true, 5 => null, 6 => '2024-02-'.mt_rand(10, 31), 7 => 'a@b.example'][$kind];
    }
}
