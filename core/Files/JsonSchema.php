<?php

declare(strict_types=1);

namespace Fasti\Core\Files;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\MemberPath;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Dialect\TypeText;

/**
 * Writes the structure of a collection as a JSON Schema (draft 2020-12) that all of its documents satisfy: it demands only
 * what was true of every one of them.
 */
final class JsonSchema
{
    public const DRAFT = 'https://json-schema.org/draft/2020-12/schema';

    /**
     * @param array<string, string> $meanings path → what people wrote about the member
     *
     * @return array<string, mixed>
     */
    public static function of(Table $table, string $title = '', string $description = '', array $meanings = []): array
    {
        $root = new SchemaNode();
        foreach ($table->columns as $column) {
            $place = $root->at(MemberPath::of($column->name));
            $place->column = $column;
            $place->text = $meanings[$column->name] ?? $column->comment;
        }

        return array_filter(['$schema' => self::DRAFT, 'title' => $title, 'description' => $description]) + self::written($root, true);
    }

    /** @return array<string, mixed> */
    private static function written(SchemaNode $node, bool $root = false): array
    {
        $column = $node->column;
        $schema = [];
        $types = $root ? ['object'] : self::types($column, $node);
        if ([] !== $types) {
            $schema['type'] = 1 === \count($types) ? $types[0] : $types;
        }
        if ('' !== $node->text) {
            $schema['description'] = $node->text;
        }
        if (null !== $column) {
            if (1 === preg_match('/\(([a-z-]+)\)/', $column->type, $m)) {
                $schema['format'] = $m[1];
            }
            $members = null === $column->base ? [] : TypeText::of($column->base)->members();
            if ([] !== $members) {
                $schema['enum'] = self::enumerated($members, $types, $column->nullable);
            }
        }
        $required = [];
        $properties = [];
        foreach ($node->members as $name => $member) {
            $properties[$name] = self::written($member);
            $inner = $member->column;
            if (null !== $inner && (null === $inner->seen || 0 === $inner->seen->of ? !$inner->nullable : $inner->seen->present >= $inner->seen->of)) {
                $required[] = (string) $name;
            }
        }
        if ([] !== $properties) {
            // As an object: names that are digits would otherwise make a list of it.
            $schema['properties'] = (object) $properties;
        }
        if ([] !== $required) {
            $schema['required'] = $required;
        }
        if (null !== $node->values) {
            $schema['additionalProperties'] = self::written($node->values);
        }
        if (null !== $node->items) {
            $schema['items'] = self::written($node->items);
        }

        return $schema;
    }

    /**
     * @param list<string> $members as they are written
     * @param list<string> $types
     *
     * @return list<mixed> each once, as a value of its type
     */
    private static function enumerated(array $members, array $types, bool $nullable): array
    {
        $values = [];
        foreach ($members as $member) {
            $value = json_decode($member);
            $plain = match (true) {
                \is_int($value) || \is_float($value) => 'number',
                \is_bool($value) => 'boolean',
                default => 'string',
            };
            $fits = 'number' === $plain ? [] !== array_intersect(['integer', 'number'], $types) : \in_array($plain, $types, true);
            if ('string' !== $plain && ($fits || [] === $types)) {
                $values[] = $value;
            }
            if ('string' === $plain || !$fits || [] === $types || \in_array('string', $types, true)) {
                $values[] = $member;
            }
        }
        if ($nullable) {
            $values[] = null;
        }

        return array_values(array_intersect_key($values, array_unique(array_map(static fn (mixed $value): string => (string) json_encode($value), $values))));
    }

    /** @return list<string> */
    private static function types(?Column $column, SchemaNode $node): array
    {
        if (null === $column) {
            return [] !== $node->members || null !== $node->values ? ['object'] : [];
        }
        if (null !== $column->seen) {
            $types = array_map(strval(...), array_keys($column->seen->types));
        } else {
            $types = 'any' === $column->type
                ? []
                : array_map(static fn (string $word): string => (string) preg_replace('/ .*$/', '', $word), explode(' | ', $column->type));
            if ([] !== $types && $column->nullable && str_contains($column->type, 'null')) {
                $types[] = 'null';
            }
        }
        if (\in_array('number', $types, true)) {
            $types = array_diff($types, ['integer']);
        }
        sort($types);

        return $types;
    }
}
