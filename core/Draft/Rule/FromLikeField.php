<?php

declare(strict_types=1);

namespace Fasti\Core\Draft\Rule;

use Fasti\Core\Draft\Draft;
use Fasti\Core\Draft\Field;
use Fasti\Core\Draft\Rule;
use Fasti\Core\Draft\Sameness;
use Fasti\Core\Join\NameWords;

/** What is said of fields of the same words elsewhere, weighed by how often such fields agree in this register. */
final class FromLikeField implements Rule
{
    public function name(): string
    {
        return 'from-like-field';
    }

    public function of(Field $field): iterable
    {
        foreach (['businessName', 'meaning', 'unit', 'allowed'] as $property) {
            if ('' !== $field->said->of($property)) {
                continue;
            }
            $all = $field->material->countSaid($property, $field->name->folded);
            foreach ($field->material->sayings($property, $field->name->folded) as [$text, $where, $count]) {
                $fit = 0.0;
                foreach ($where as [$entry, $name]) {
                    if ($fit >= 1.0) {
                        break;
                    }
                    $fit = max($fit, Sameness::of($field, $entry, $name, $property, $text));
                }
                $agree = $field->material->agreement($property);
                if (!NameWords::isPlain($field->column->name) && $fit >= 0.9) {
                    // A name of its own, of the same type, is seldom given to two things.
                    $agree = (1 + $agree) / 2;
                }
                $sure = $fit * ($count / $all) * (1 - (1 - $agree) / sqrt($count));
                $said = array_map(static fn (array $at): string => $field->material->tables[$at[0]]->name.'.'.$at[1], \array_slice($where, 0, 2));
                $more = $count - \count($said);
                yield new Draft($property, $text, min(0.95, $sure), [
                    'said of '.implode(' and ', $said).($more > 0 ? " and $more more" : ''),
                    \sprintf('fields of one name agree in %d of 100 cases here', round(100 * $agree)),
                ]);
            }
        }
    }
}
