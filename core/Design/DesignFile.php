<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

/** A design as JSON, by docs/design.schema.json: what was said, and with the logical depth what was worked out. */
final class DesignFile
{
    public static function json(Design $design, ?Worked $worked = null): string
    {
        return json_encode(self::open($design, $worked), \JSON_THROW_ON_ERROR | \JSON_PRETTY_PRINT | \JSON_UNESCAPED_UNICODE | \JSON_UNESCAPED_SLASHES);
    }

    /** @return array<string, mixed> */
    public static function open(Design $design, ?Worked $worked = null): array
    {
        $rules = [];
        foreach (array_keys(Rules::ALL) as $rule) {
            $rules[$rule] = [
                'setting' => $design->rules->of($rule),
                'words' => Rules::sentence($rule, $design->rules->of($rule)),
                'decided' => isset($design->rules->set[$rule]),
            ];
        }
        $open = [
            'name' => $design->name, 'purpose' => $design->purpose, 'depth' => null === $worked ? 'conceptual' : 'logical',
            'engine' => $design->engine, 'begunFrom' => $design->begun, 'rules' => $rules,
            'things' => array_map(static fn (Thing $thing): array => [
                'name' => $thing->name, 'grain' => $thing->grain, 'meaning' => $thing->meaning, 'kindOf' => $thing->kindOf, 'takenFrom' => $thing->from,
                'attributes' => array_map(self::attribute(...), $thing->attributes),
                'toldApartBy' => array_map(static fn (Identifier $key): array => $key->parts, $thing->keys),
            ], $design->things),
            'sentences' => array_map(static fn (DesignJoin $join): array => [
                'words' => OutlineWriter::join($join)[0], 'from' => $join->from, 'verb' => $join->verb, 'count' => self::count($join->count), 'to' => $join->to,
                'verbBack' => $join->verbBack, 'countBack' => self::count($join->countBack), 'role' => $join->role,
                'attributes' => array_map(self::attribute(...), $join->attributes),
            ], $design->joins),
            'lists' => array_map(static fn (ValueList $list): array => ['name' => $list->name, 'values' => array_map(
                static fn (int|string $value, string $meaning): array => ['value' => (string) $value, 'meaning' => $meaning],
                array_keys($list->values),
                $list->values,
            )], $design->lists),
            'questions' => array_map(static fn (OpenQuestion $question): array => [
                'question' => $question->text, 'of' => $question->of, 'answer' => $question->answer, 'by' => $question->by,
            ], $design->questions),
        ];

        return null === $worked ? $open : $open + [
            'tables' => array_values(array_map(static fn (WorkedTable $table): array => self::table($table, $worked), $worked->tables)),
        ];
    }

    /** @return array<string, mixed> */
    private static function attribute(Attribute $attribute): array
    {
        return [
            'name' => $attribute->name, 'said' => Ledger::said($attribute), 'type' => $attribute->type->inWords(), 'required' => $attribute->required,
            'unique' => $attribute->unique, 'personal' => $attribute->personal, 'unit' => $attribute->unit, 'meaning' => $attribute->meaning,
        ];
    }

    /** @return array{least: int, most: ?int} */
    private static function count(Count $count): array
    {
        return ['least' => $count->least, 'most' => $count->most];
    }

    /** @return array<string, mixed> */
    private static function table(WorkedTable $table, Worked $worked): array
    {
        $named = static fn (array $keys): array => array_map(static fn (string $key): string => $table->columns[$key]->name, array_filter(
            $keys,
            static fn (mixed $key): bool => \is_string($key) && isset($table->columns[$key]),
        ));

        return [
            'name' => $table->name, 'kind' => $table->kind, 'grain' => $table->grain, 'why' => $table->why->words ?? null,
            'attributes' => array_values(array_map(static fn (WorkedColumn $column): array => [
                'name' => $column->name, 'type' => $column->type->inWords(), 'required' => $column->required, 'why' => $column->why->words ?? null,
            ], $table->columns)),
            'key' => array_values($named($table->primary)),
            'unique' => array_map(static fn (array $unique): array => array_values($named($unique['columns'])), $table->unique),
            'leadsTo' => array_map(static fn (WorkedReference $reference): array => [
                'by' => array_values($named($reference->columns)), 'table' => $worked->tables[$reference->to]->name, 'role' => $reference->role,
                'onDelete' => $reference->onDelete, 'why' => $reference->why->words ?? null,
            ], $table->references),
        ];
    }
}
