<?php

declare(strict_types=1);

namespace Fasti\Register\Property;

use Fasti\Register\Fields;
use Fasti\Register\GrainFields;
use Fasti\Text\BadText;
use Fasti\Text\Property;

final class EntryGrainFields extends Property
{
    public function __construct(private readonly Fields $fields)
    {
    }

    public function topic(): string
    {
        return 'entry';
    }

    public function name(): string
    {
        return 'grainFields';
    }

    public function label(): string
    {
        return 'fields that tell rows apart';
    }

    public function column(): string
    {
        return 'grain_fields';
    }

    public function most(): int
    {
        return 2000;
    }

    public function check(string $value, int $id): void
    {
        $unknown = array_diff(GrainFields::named($value), $this->fields->names($id));
        if ([] !== $unknown) {
            throw new BadText(\sprintf('The entry has no field %s. Name fields as the ledger does, with commas between.', implode(', ', $unknown)));
        }
    }
}
