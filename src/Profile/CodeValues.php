<?php

declare(strict_types=1);

namespace Fasti\Profile;

use Fasti\CodeList\FieldValues;
use Fasti\CodeList\Values;
use Fasti\Register\Fields;

/** What profiles say of the values of fields. */
final readonly class CodeValues implements FieldValues
{
    public function __construct(private Profiles $profiles, private Fields $fields)
    {
    }

    public function of(array $fields): array
    {
        $placed = $this->fields->placed($fields);
        $profiled = $this->profiles->all(array_values(array_unique(array_map(static fn ($at): int => $at->entry, $placed))));
        $values = [];
        foreach ($placed as $id => $at) {
            $of = $profiled[$at->entry] ?? null;
            $known = $of?->field($at->place->column);
            if (null !== $of && null !== $known) {
                $complete = null !== $known->distinct && $known->distinct <= \count($known->frequent) && $known->frequentOf >= $known->filled();
                $values[$id] = new Values($known->frequent + $known->breaking, $complete, $of->at, '' !== $known->personal);
            }
        }

        return $values;
    }
}
