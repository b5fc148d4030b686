<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

use Fasti\Core\Catalog\FieldPlace;

/** Which fields the parts of a model are made from. */
final readonly class Uses
{
    public function __construct(private Ground $ground)
    {
    }

    /**
     * @param array<string, Trial> $trials kept with the model, by name
     *
     * @return list<PartUse>
     */
    public function all(array $trials = []): array
    {
        $uses = [];
        $model = $this->ground->model;
        foreach ($model->roles as $role) {
            foreach ($role->key as $field) {
                $uses[] = $this->use($role->name, $field, 'key', $role->name);
            }
        }
        foreach ($model->joins as $join) {
            foreach ([[$join->from, $join->fields], [$join->to, $join->keys]] as [$role, $fields]) {
                foreach ($fields as $field) {
                    $uses[] = $this->use($role, $field, 'join', $join->from.' → '.$join->to);
                }
            }
        }
        foreach ($model->measures as $measure) {
            $uses = [...$uses, ...$this->made($this->ofMeasure($measure, 0), 'measure', $measure->name)];
        }
        foreach ($model->roles as $role) {
            foreach ($model->attributesOf($role) as $attribute) {
                $level = new Level($role->name, $attribute->name);
                $uses = [...$uses, ...$this->made($this->ofAttribute($level), 'attribute', $this->ground->names()->of($level))];
            }
        }
        foreach ($trials as $name => $trial) {
            $uses = [...$uses, ...$this->made($this->ofTrial($trial), 'trial', (string) $name)];
        }

        return array_values(array_filter($uses, static fn (?PartUse $use): bool => null !== $use));
    }

    private function use(string $role, string $field, string $kind, string $part): ?PartUse
    {
        $entry = $this->ground->model->role($role)?->entry;

        return null === $entry ? null : new PartUse(new FieldPlace($entry->schema, $entry->name, $field), $kind, $part);
    }

    /**
     * @param list<FieldUse> $fields
     *
     * @return list<PartUse|null>
     */
    private function made(array $fields, string $kind, string $part): array
    {
        return array_map(fn (FieldUse $use): ?PartUse => $this->use($use->role, $use->column, $kind, $part), $fields);
    }

    /** @return list<FieldUse> with those of its filter, of what a ratio is made of, and the key of the fact where rows are counted */
    public function ofMeasure(Measure $measure, int $depth = 0): array
    {
        if ($measure->aggregation->isOfMeasures()) {
            $fields = [];
            foreach ($depth > 8 ? [] : $this->ground->model->partsOf($measure) as $part) {
                $of = $this->ground->model->measure($part);
                $fields = null === $of ? $fields : [...$fields, ...$this->ofMeasure($of, $depth + 1)];
            }

            return $fields;
        }
        if (null === $this->ground->roleNamed($measure->fact)) {
            return [];
        }
        $fields = [];
        foreach ([$measure->expression, $measure->filter] as $text) {
            $fields = [...$fields, ...'' === trim($text) ? [] : $this->ground->formula($measure->fact, $text)->fields];
        }
        if ('' === trim($measure->expression)) {
            $fields = [
                ...$fields,
                ...array_map(static fn (string $field): FieldUse => new FieldUse($measure->fact, $field), $this->ground->role($measure->fact)->key),
            ];
        }

        return [...$fields, ...null === $measure->instant ? [] : $this->ofAttribute($measure->instant)];
    }

    /** @return list<FieldUse> */
    public function ofAttribute(Level $level): array
    {
        $attribute = $this->ground->model->attribute($level);
        $fields = [];
        foreach (null === $attribute ? [] : [$attribute->expression, $attribute->sorted] as $text) {
            $fields = [...$fields, ...'' === trim($text) ? [] : $this->ground->formula($level->role, $text)->fields];
        }

        return $fields;
    }

    /** @return list<FieldUse> of what it shows, is split by, and is narrowed by, and of the joins on the way */
    public function ofTrial(Trial $trial): array
    {
        try {
            $question = new Question($this->ground, $trial);
        } catch (ModelError) {
            return [];
        }
        $fields = [];
        foreach ($question->base as $measure) {
            $fields = [...$fields, ...$this->ofMeasure($measure)];
        }
        $levels = [...$question->by];
        foreach ($question->facts() as $fact) {
            $levels = [...$levels, ...$question->limitedBy($fact)];
        }
        foreach ($levels as $level) {
            $fields = [...$fields, ...$this->ofAttribute($level)];
            foreach ($question->facts() as $fact) {
                $fields = [...$fields, ...$this->onTheWay($fact, $level->role)];
            }
        }
        foreach ($question->facts() as $fact) {
            foreach ($question->conditionsOf($fact) as $condition) {
                $fields = [...$fields, ...$this->elsewhere($condition, $fact, $question)];
            }
        }

        return $fields;
    }

    /** @return list<FieldUse> of what stands elsewhere, of which a condition says that it is there */
    private function elsewhere(Condition $condition, string $from, Question $question): array
    {
        $fields = [];
        $there = $condition->test->isElsewhere() ? new Elsewhere($this->ground, $condition) : null;
        if (null !== $there && '' === $there->why($from)) {
            $fields = [...$this->onTheWay($from, $there->of()), ...$this->onTheWay($there->from(), $there->of()),
                ...$this->onTheWay($there->from(), $there->sought())];
            $from = $there->from();
        }
        foreach ($condition->of as $part) {
            if (null !== $there && !$part->test->isOfOthers() && !$part->test->isElsewhere()) {
                $level = $question->level($part);
                $fields = [...$fields, ...$this->ofAttribute($level), ...$this->onTheWay($from, $level->role)];
            }
            $fields = [...$fields, ...$this->elsewhere($part, $from, $question)];
        }

        return $fields;
    }

    /** @return list<FieldUse> */
    private function onTheWay(string $fact, string $role): array
    {
        $fields = [];
        foreach (null === $this->ground->roleNamed($fact) ? [] : ($this->ground->ways()->between($fact, $role)[0]
            ?? $this->ground->ways()->shared($fact, $role)[0] ?? []) as $way) {
            foreach ($way->pairs() as [$here, $there]) {
                $fields[] = new FieldUse($way->from(), $here);
                $fields[] = new FieldUse($way->to(), $there);
            }
        }

        return $fields;
    }
}
