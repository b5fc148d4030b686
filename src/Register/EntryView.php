<?php

declare(strict_types=1);

namespace Fasti\Register;

use Fasti\Core\Catalog\CheckConstraint;
use Fasti\Core\Catalog\Index;
use Fasti\Core\Catalog\IndexPart;
use Fasti\Core\Catalog\MemberPath;
use Fasti\Core\Catalog\Place;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Wording\Amount;

/** An entry with its fields and joins: what the register itself knows of it. What other rooms know stands in its Dossier. */
final readonly class EntryView
{
    /**
     * @param Table            $facts   what the survey read, without its columns
     * @param list<FieldView>  $fields  those in the source first, then those that are gone
     * @param list<JoinView>   $joins   the entry's own references first
     */
    public function __construct(
        public int $id,
        public int $sourceId,
        public string $sourceName,
        public string $schema,
        public string $name,
        public string $title,
        public string $businessName,
        public string $grain,
        public string $grainFields,
        public string $meaning,
        public string $standing,
        public ?string $goneAt,
        public ?string $changedAt,
        public ?string $surveyedAt,
        public Table $facts,
        public array $fields,
        public array $joins,
        public int $fieldCount,
        public int $describedCount,
    ) {
    }

    public function place(): Place
    {
        return new Place($this->schema, $this->name);
    }

    /** @return list<JoinView> those that are more than a proposal */
    public function countedJoins(): array
    {
        return array_values(array_filter($this->joins, static fn (JoinView $join): bool => $join->kind->counts()));
    }

    /** @return list<FieldView> those that the source has now */
    public function presentFields(): array
    {
        return array_values(array_filter($this->fields, static fn (FieldView $field): bool => !$field->gone));
    }

    public function percent(): int
    {
        return Amount::percent($this->describedCount, $this->fieldCount);
    }

    /** @return list<Index> those that a field is part of */
    public function indexesOf(string $field): array
    {
        return array_values(array_filter(
            $this->facts->indexes,
            static fn (Index $index): bool => \in_array($field, array_map(static fn (IndexPart $part): string => $part->column, $index->parts), true),
        ));
    }

    /** @return list<CheckConstraint> those that are about one field alone */
    public function checksOf(string $field): array
    {
        return array_values(array_filter($this->facts->checks, static fn (CheckConstraint $check): bool => $check->column === $field));
    }

    /** @return string the nearest object around a member of documents that is itself often missing; '' for none */
    public function oftenMissing(string $field): string
    {
        for ($around = MemberPath::of($field)->around(); null !== $around; $around = $around->around()) {
            $seen = $this->fieldNamed((string) $around)?->column->seen;
            if (null !== $seen && $seen->present < $seen->of) {
                return (string) $around;
            }
        }

        return '';
    }

    private function fieldNamed(string $name): ?FieldView
    {
        foreach ($this->fields as $field) {
            if ($field->name === $name) {
                return $field;
            }
        }

        return null;
    }

    /** @return list<array{string, string}> keys, checks and other rules of the table as label and sentence */
    public function rules(): array
    {
        $rules = [];
        foreach ($this->facts->uniqueKeys as $key) {
            $rules[] = ['unique', implode(' with ', $key->columns).' stands only once'];
        }
        foreach ($this->facts->checks as $check) {
            $rules[] = [str_starts_with($check->expression, 'EXCLUDE') ? 'excluded' : 'checked', $check->expression];
        }
        foreach ($this->facts->triggers as $trigger) {
            $rules[] = ['trigger', \sprintf('%s runs %s each %s', $trigger->name, strtolower($trigger->timing), strtolower($trigger->event))];
        }

        return $rules;
    }
}
