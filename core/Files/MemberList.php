<?php

declare(strict_types=1);

namespace Fasti\Core\Files;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\MemberPath;
use Fasti\Core\Catalog\Seen;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Survey\SourceError;

/**
 * A planned collection from what a steward types: a JSON Schema, or a member a line, as in `readings[].value number
 * required`. Types are those of JSON Schema, with a format in parentheses if wanted.
 */
final class MemberList
{
    private const TYPES = ['string', 'integer', 'number', 'boolean', 'object', 'array'];

    /** @throws SourceError */
    public static function table(string $schema, string $name, string $about, string $text): Table
    {
        $decoded = json_decode($text, true, JsonDocuments::DEPTH);
        if (\is_array($decoded)) {
            /** @var array<string, mixed> $decoded */
            $table = (new SchemaFile($decoded))->table($schema, $name);

            return '' === $about ? $table : $table->with(comment: $about);
        }
        $columns = [];
        foreach (preg_split('/\r?\n/', $text) ?: [] as $i => $line) {
            if ('' === trim($line)) {
                continue;
            }
            if (1 !== preg_match('/^\s*((?:"(?:[^"]|"")*"|[^\s"])+)\s+(\w+)(?:\s*\(([a-z-]+)\))?(\s+required)?\s*$/i', $line, $m)
                || !\in_array(strtolower($m[2]), self::TYPES, true)) {
                throw new SourceError(
                    \sprintf('Line %d, “%s”, could not be read.', $i + 1, mb_strimwidth(trim($line), 0, 60, '…')),
                    'A line has a path, a type ('.implode(', ', self::TYPES)
                        .') and, if the member must be there, the word “required”: readings[].value number required. Or paste a JSON Schema.',
                );
            }
            $type = strtolower($m[2]);
            $m[1] = (string) MemberPath::of($m[1]);
            if (isset($columns[$m[1]])) {
                throw new SourceError(\sprintf('Line %d names %s a second time.', $i + 1, $m[1]), 'Each member has one line.');
            }
            $columns[$m[1]] = new Column(
                $m[1],
                $type.('' === ($m[3] ?? '') ? '' : ' ('.strtolower($m[3]).')'),
                '' === ($m[4] ?? ''),
                seen: new Seen(0, 0, [$type => 0]),
            );
        }
        if ([] === $columns) {
            throw new SourceError('The collection has no member yet.', 'Write one a line: its path, and its type.');
        }

        return new Table($schema, $name, TableType::Collection, $about, array_values($columns), storage: 'JSON Schema', planned: true);
    }
}
