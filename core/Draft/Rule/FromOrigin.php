<?php

declare(strict_types=1);

namespace Fasti\Core\Draft\Rule;

use Fasti\Core\Draft\Draft;
use Fasti\Core\Draft\Field;
use Fasti\Core\Draft\Rule;

/** What is said of the field that a view takes this one from, as it is. */
final class FromOrigin implements Rule
{
    public function name(): string
    {
        return 'from-origin';
    }

    public function of(Field $field): iterable
    {
        $at = $field->material->origins[$field->entry][$field->column->name] ?? null;
        if (null === $at) {
            return;
        }
        [$entry, $name] = $at;
        $said = $field->material->of($entry, $name);
        $table = $field->material->tables[$entry]->name;
        foreach (['businessName' => 0.9, 'meaning' => 0.85, 'unit' => 0.97, 'allowed' => 0.97] as $property => $sure) {
            if ('' !== $said->of($property)) {
                yield new Draft($property, $said->of($property), $sure, ["the view takes it from $table.$name as it is"]);
            }
        }
    }
}
