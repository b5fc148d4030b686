<?php

declare(strict_types=1);

namespace Fasti\Core\Draft\Rule;

use Fasti\Core\Draft\Draft;
use Fasti\Core\Draft\Field;
use Fasti\Core\Draft\Rule;

/** The unit that the database speaks of, or what people say it means. */
final class UnitInComment implements Rule
{
    public function name(): string
    {
        return 'unit-in-comment';
    }

    public function of(Field $field): iterable
    {
        if (!$field->type->family->isNumeric() || null !== $field->lead()) {
            return;
        }
        foreach (['the database says so' => $field->column->comment, 'its meaning says so' => $field->said->meaning] as $because => $text) {
            $unit = '' === $text ? null : \Fasti\Core\Wording\Units::inText($text);
            if (null !== $unit) {
                yield new Draft('unit', $unit->symbol, 0.88, [$because]);
            }
        }
    }
}
