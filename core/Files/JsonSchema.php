<?php

declare(strict_types=1);

namespace Fasti\Core\Files;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Wording\TypeWords;

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
        $root = self::blank();
        foreach ($table->columns as $column) {
            self::put($root, self::steps($column->name), $column, $meanings[$column->name] ?? $column->comment);
        }

        return array_filter(['$schema' => self::DRAFT, 'title' => $title, 'description' => $description]) + self::written($root, true);
    }

    /** @return list<string> `a.b[].c{}` → a, b, [], c, {} */
    private static function steps(string $path): array
    {
        preg_match_all('/\[\]|\{\}|(?:(?!\[\]|\{\})[^.])+/', $path, $m);

        return $m[0];
    }

    /** @return array{column: ?Column, text: string, members: array<string, array<mixed>>, items: ?array<mixed>, values: ?array<mixed>} */
    private static function blank(): array
    {
        return ['column' => null, 'text' => '', 'members' => [], 'items' => null, 'values' => null];
    }

    /**
     * @param array<mixed> $node
     * @param list<string> $steps
     */
    private static function put(array &$node, array $steps, Column $column, string $text): void
    {
        $place = &$node;
        foreach ($steps as $step) {
            if ('[]' === $step) {
                $place['items'] ??= self::blank();
                $place = &$place['items'];
            } elseif ('{}' === $step) {
                $place['values'] ??= self::blank();
                $place = &$place['values'];
            } else {
                $place['members'][$step] ??= self::blank();
                $place = &$place['members'][$step];
            }
        }
        [$place['column'], $place['text']] = [$column, $text];
    }

    /**
     * @param array<mixed> $node
     *
     * @return array<string, mixed>
     */
    private static function written(array $node, bool $root = false): array
    {
        /** @var ?Column $column */
        $column = $node['column'];
        $schema = [];
        $types = $root ? ['object'] : self::types($column, $node);
        if ([] !== $types) {
            $schema['type'] = 1 === \count($types) ? $types[0] : $types;
        }
        if ('' !== $node['text']) {
            $schema['description'] = $node['text'];
        }
        if (null !== $column) {
            if (1 === preg_match('/\(([a-z-]+)\)/', $column->type, $m)) {
                $schema['format'] = $m[1];
            }
            $members = null === $column->base ? [] : TypeWords::memberList($column->base);
            if ([] !== $members) {
                $schema['enum'] = $column->nullable ? [...$members, null] : $members;
            }
        }
        $required = [];
        $properties = [];
        foreach ($node['members'] as $name => $member) {
            $properties[$name] = self::written($member);
            $inner = $member['column'];
            $always = null === $inner ? true : (null === $inner->seen || 0 === $inner->seen->of ? !$inner->nullable : $inner->seen->present >= $inner->seen->of);
            if ($always && null !== $inner) {
                $required[] = (string) $name;
            }
        }
        if ([] !== $properties) {
            $schema['properties'] = $properties;
        }
        if ([] !== $required) {
            $schema['required'] = $required;
        }
        if (null !== $node['values']) {
            $schema['additionalProperties'] = self::written($node['values']);
        }
        if (null !== $node['items']) {
            $schema['items'] = self::written($node['items']);
        }

        return $schema;
    }

    /**
     * @param array<mixed> $node
     *
     * @return list<string>
     */
    private static function types(?Column $column, array $node): array
    {
        if (null === $column) {
            return [] !== $node['members'] || null !== $node['values'] ? ['object'] : [];
        }
        if (null !== $column->seen) {
            $types = array_map(strval(...), array_keys($column->seen->types));
        } else {
            $types = 'any' === $column->type ? [] : array_map(static fn (string $word): string => (string) preg_replace('/ .*$/', '', $word), explode(' | ', $column->type));
            if ([] !== $types && $column->nullable && str_contains($column->type, 'null')) {
                $types[] = 'null';
            }
        }
        if (\in_array('number', $types, true)) {
            $types = array_diff($types, ['integer']);
        }
        sort($types);

        return array_values($types);
    }
}
