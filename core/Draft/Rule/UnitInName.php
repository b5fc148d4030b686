<?php

declare(strict_types=1);

namespace Fasti\Core\Draft\Rule;

use Fasti\Core\Draft\Draft;
use Fasti\Core\Draft\Field;
use Fasti\Core\Draft\Rule;

/** The unit that a name ends in. */
final class UnitInName implements Rule
{
    public function name(): string
    {
        return 'unit-in-name';
    }

    public function of(Field $field): iterable
    {
        if (null !== $field->name->unit && null === $field->lead()
            && ($field->type->family->isNumeric() || 'number kept as text' === $field->profile?->likely)) {
            yield new Draft('unit', $field->name->unit->symbol, 0.9, ['its name ends in it']);
        }
    }
}
