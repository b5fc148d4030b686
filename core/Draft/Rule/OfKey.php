<?php

declare(strict_types=1);

namespace Fasti\Core\Draft\Rule;

use Fasti\Core\Draft\Draft;
use Fasti\Core\Draft\English;
use Fasti\Core\Draft\Field;
use Fasti\Core\Draft\Rule;
use Fasti\Core\Join\NameWords;

/** The meaning of a field that tells rows apart by itself. */
final class OfKey implements Rule
{
    public function name(): string
    {
        return 'of-key';
    }

    public function of(Field $field): iterable
    {
        if (!$field->isKey() || null !== $field->lead()) {
            return;
        }
        $noun = $field->noun();
        if ($field->column->autoNumbered || $field->isPrimary() && \in_array($field->name->words, [['ID'], ['uuid'], ['UUID']], true)) {
            yield new Draft('meaning', $field->column->autoNumbered
                ? 'Numbered by the database. Carries no meaning outside it.' : "Tells one $noun from another, and means nothing besides.", 0.88, [
                    $field->column->autoNumbered ? 'the database numbers it' : 'it is the key, and has no other name',
                ]);

            return;
        }
        $phrase = implode(' ', $field->name->without($noun));
        if ($phrase === $noun) {
            yield new Draft('meaning', English::sentence("Tells one $noun from another: no two share one"), 0.74, ['nothing stands in it twice']);
        } elseif ('' !== $phrase && 'name' !== $phrase) {
            $known = $field->isPrimary() && !$field->isTime() || NameWords::isKeyEnding(mb_strtolower($field->name->last()));
            yield new Draft('meaning', English::sentence("The $phrase of the $noun".($known ? ', by which it is known' : '').': no two share one'),
                $known ? 0.74 : 0.7, ['nothing stands in it twice']);
        }
    }
}
