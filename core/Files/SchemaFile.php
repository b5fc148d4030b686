<?php

declare(strict_types=1);

namespace Fasti\Core\Files;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\MemberPath;
use Fasti\Core\Catalog\Quotes;
use Fasti\Core\Catalog\Seen;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;

/**
 * A JSON Schema (draft 2020-12, and what earlier drafts have in common with it) as a planned collection: documented before
 * a single document exists.
 */
final class SchemaFile
{
    private const DEEPEST = 24;

    /** @var array<string, mixed> */
    private array $root;

    /** @param array<string, mixed> $schema decoded to arrays */
    public function __construct(array $schema)
    {
        $this->root = $schema;
    }

    /** Whether a JSON file is a schema rather than a document. */
    public static function is(mixed $value): bool
    {
        return \is_array($value)
            && ((\is_string($value['$schema'] ?? null) && str_contains($value['$schema'], 'json-schema.org')) || (\in_array(
                $value['type'] ?? null,
                ['object', 'array'],
                true,
            ) && (\is_array($value['properties'] ?? null) || \is_array($value['items'] ?? null))));
    }

    public function table(string $schema, string $name): Table
    {
        $root = $this->resolved($this->root);
        if ('array' === ($root['type'] ?? null) && \is_array($root['items'] ?? null)) {
            $root = $this->resolved($root['items']);
        }
        $columns = [];
        $this->members($root, '', 0, $columns);
        $comment = $root['description'] ?? $root['title'] ?? '';

        return new Table($schema, $name, TableType::Collection, \is_string($comment) ? $comment : '', $columns, storage: 'JSON Schema', planned: true);
    }

    /**
     * @param array<mixed> $object
     * @param list<Column> $columns
     */
    private function members(array $object, string $path, int $depth, array &$columns): void
    {
        if ($depth > self::DEEPEST) {
            return;
        }
        $required = \is_array($object['required'] ?? null) ? $object['required'] : [];
        foreach (\is_array($object['properties'] ?? null) ? $object['properties'] : [] as $name => $member) {
            if (\is_array($member)) {
                $this->member(
                    $this->resolved($member), MemberPath::member($path, (string) $name), !\in_array((string) $name, $required, true), $depth, $columns,
                );
            }
        }
        if (\is_array($object['additionalProperties'] ?? null)) {
            $this->member($this->resolved($object['additionalProperties']), MemberPath::values($path), true, $depth, $columns);
        }
    }

    /**
     * @param array<mixed> $member
     * @param list<Column> $columns
     */
    private function member(array $member, string $path, bool $optional, int $depth, array &$columns): void
    {
        $types = array_filter((array) ($member['type'] ?? (match (true) {
            isset($member['properties']) => 'object',
            isset($member['enum']) => 'string',
            default => [],
        })), is_string(...));
        $format = \is_string($member['format'] ?? null) ? ' ('.$member['format'].')' : '';
        $words = array_map(static fn (string $type): string => 'string' === $type ? $type.$format : $type, array_diff($types, ['null']));
        sort($words);
        $quoted = static fn (mixed $value): string => Quotes::around(
            \is_scalar($value) && !\is_bool($value) ? (string) $value : (string) json_encode($value),
            "'",
        );
        $members = \is_array($member['enum'] ?? null) ? $member['enum'] : null;
        $enum = null === $members ? null : 'enum('.implode(',', array_map($quoted, array_filter($members, static fn (mixed $one): bool => null !== $one))).')';
        $description = $member['description'] ?? $member['title'] ?? '';
        $list = \in_array('array', $types, true) && \is_array($member['items'] ?? null) ? $this->resolved($member['items']) : null;
        $columns[] = new Column(
            $path, [] === $words ? 'any' : implode(' | ', $words), $optional || \in_array('null', $types, true) || \in_array(null, $members ?? [], true),
            isset($member['default']) ? (string) json_encode($member['default'], \JSON_UNESCAPED_UNICODE) : null,
            \is_string($description) ? $description : '', base: $enum, seen: new Seen(0, 0, array_fill_keys(array_values($types), 0)),
        );
        $this->members($member, $path, $depth + 1, $columns);
        if (null !== $list) {
            // A list of objects alone needs no line of its own, as where documents are read.
            if (isset($list['properties']) && ['object'] === array_values((array) ($list['type'] ?? 'object'))) {
                $this->members($list, MemberPath::items($path), $depth + 1, $columns);
            } else {
                $this->member($list, MemberPath::items($path), false, $depth + 1, $columns);
            }
        }
    }

    /**
     * Follows `$ref` within the file, and puts together what `allOf` lists.
     *
     * @param array<mixed> $member
     *
     * @return array<mixed>
     */
    private function resolved(array $member): array
    {
        for ($i = 0; $i < 20 && \is_string($member['$ref'] ?? null); ++$i) {
            $target = $this->root;
            foreach (array_filter(explode('/', ltrim($member['$ref'], '#')), static fn (string $part): bool => '' !== $part) as $part) {
                $target = \is_array($target) ? $target[str_replace(['~1', '~0'], ['/', '~'], rawurldecode($part))] ?? null : null;
            }
            $rest = array_diff_key($member, ['$ref' => 1]);
            $member = $rest + (\is_array($target) ? $target : []);
        }
        foreach (\is_array($member['allOf'] ?? null) ? $member['allOf'] : [] as $part) {
            $part = \is_array($part) ? $this->resolved($part) : [];
            foreach (['properties', 'required'] as $key) {
                if (\is_array($part[$key] ?? null)) {
                    $member[$key] = array_merge(\is_array($member[$key] ?? null) ? $member[$key] : [], $part[$key]);
                }
            }
        }

        return $member;
    }
}
