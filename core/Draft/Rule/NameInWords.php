<?php

declare(strict_types=1);

namespace Fasti\Core\Draft\Rule;

use Fasti\Core\Draft\Draft;
use Fasti\Core\Draft\Field;
use Fasti\Core\Draft\Rule;

/** The business name from the words of the name: short forms in full, without what only says that it is a key, a unit or a flag. */
final class NameInWords implements Rule
{
    public function name(): string
    {
        return 'name-in-words';
    }

    public function of(Field $field): iterable
    {
        $name = $field->name;
        $lead = $field->lead();
        $because = [] === $name->expanded ? [] : ['short forms in full: '.implode(', ', $name->expanded)];
        if (null === $lead && \in_array($name->words, [['ID'], ['code'], ['number'], ['key']], true)) {
            $word = $field->isPrimary() && ['ID'] === $name->words ? 'number' : $name->phrase();
            yield new Draft('businessName', self::capital($field->noun()).' '.$word, 0.75, ['what identifies '.$field->noun()]);

            return;
        }
        if (null !== $lead) {
            $target = $field->material->nameOf($lead->to)->words;
            $title = $field->material->title($lead->to);
            if ($name->words === $target || ['ID'] === $name->words || [] === $name->words || !$name->known) {
                yield new Draft('businessName', $title, 0.6 + 0.32 * $lead->certainty, ['it leads to '.$title, ...$because]);

                return;
            }
            $because[] = 'it leads to '.$title;
        }
        if ([] === $name->words) {
            return;
        }
        if (null !== $name->unit) {
            $because[] = 'without its unit, '.$name->unit->plural;
        }
        $sure = $name->known ? 0.84 : 0.25;
        yield new Draft('businessName', $name->title(), [] === $name->expanded ? $sure : $sure - 0.06, [] === $because ? ['the words of its name'] : $because);
    }

    private static function capital(string $text): string
    {
        return mb_strtoupper(mb_substr($text, 0, 1)).mb_substr($text, 1);
    }
}
