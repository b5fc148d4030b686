<?php

declare(strict_types=1);

namespace Fasti\Register;

use Fasti\Core\Catalog\Table;
use Fasti\Core\Wording\Amount;

/** Everything about one entry, as the entry page and an edition show it. */
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
        public string $jsonSchema = '',
    ) {
    }

    public function percent(): int
    {
        return Amount::percent($this->describedCount, $this->fieldCount);
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
