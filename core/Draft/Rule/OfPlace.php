<?php

declare(strict_types=1);

namespace Fasti\Core\Draft\Rule;

use Fasti\Core\Draft\Draft;
use Fasti\Core\Draft\Field;
use Fasti\Core\Draft\Rule;

/** The meaning of a field that holds a place. */
final class OfPlace implements Rule
{
    public function name(): string
    {
        return 'of-place';
    }

    public function of(Field $field): iterable
    {
        $noun = $field->noun();
        $words = $field->name->words;
        if (\Fasti\Core\Catalog\TypeFamily::Spatial === $field->type->family) {
            $form = match (true) {
                str_contains($field->type->name, 'point') => ', as a point',
                str_contains($field->type->name, 'polygon') => ', as an area',
                default => '',
            };
            yield new Draft('meaning', "Where the $noun is$form.", 0.86, ['it holds a place']);
        }
        foreach (['latitude' => 'how far north or south', 'longitude' => 'how far east or west', 'easting' => 'how far east',
            'northing' => 'how far north'] as $word => $said) {
            if ([$word] === $words && $field->type->family->isNumeric()) {
                $unit = \in_array($word, ['latitude', 'longitude'], true) ? ', in degrees' : '';
                yield new Draft('meaning', "Where the $noun is: $said$unit.", 0.85, ['its name is that of a coordinate']);
            }
        }
    }
}
