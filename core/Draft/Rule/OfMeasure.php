<?php

declare(strict_types=1);

namespace Fasti\Core\Draft\Rule;

use Fasti\Core\Draft\Draft;
use Fasti\Core\Draft\English;
use Fasti\Core\Draft\Field;
use Fasti\Core\Draft\Rule;

/** The meaning of a number with a unit, or of one that counts. */
final class OfMeasure implements Rule
{
    public function name(): string
    {
        return 'of-measure';
    }

    public function of(Field $field): iterable
    {
        $noun = $field->noun();
        $unit = $field->name->unit;
        $words = $field->name->without($noun);
        if ([] === $words || null !== $field->lead() || $field->isFlag()) {
            return;
        }
        $phrase = implode(' ', $words);
        if (null !== $unit) {
            $range = $field->range();
            $limits = null === $range || '' === $range[0] || '' === $range[1] ? '' : ', '.$range[0].' to '.$range[1];
            yield new Draft('meaning', English::sentence("The $phrase of the $noun, in ".$unit->plural.$limits), 0.88, ['the unit at the end of its name']);

            return;
        }
        if (!$field->type->family->isNumeric()) {
            return;
        }
        if (['how', 'many'] === \array_slice($words, 0, 2)) {
            $what = \array_slice($words, 2);
            yield new Draft('meaning', English::sentence('How many '.([] === $what ? "there were at the $noun" : implode(' ', $what)." the $noun has")), 0.75,
                ['its name asks for a number']);

            return;
        }
        if (['how', 'much'] === \array_slice($words, 0, 2)) {
            return;
        }
        $last = $words[\count($words) - 1];
        if (\count($words) > 1 && \in_array($last, ['quantity', 'count'], true) || \count($words) > 2 && ['number', 'of'] === \array_slice($words, 0, 2)) {
            $what = 'number' === $words[0] ? \array_slice($words, 2) : \array_slice($words, 0, -1);
            $said = English::isParticiple($what[\count($what) - 1]) ? 'How many were '.implode(' ', $what).", for the $noun" : 'How many '.implode(' ',
                $what)." the $noun has";
            yield new Draft('meaning', English::sentence($said), 0.78, ['its name asks for a number']);

            return;
        }
        $range = $field->range() ?? ['', ''];
        if ('' !== $range[0] && '' !== $range[1]) {
            yield new Draft('meaning', English::sentence("The $phrase of the $noun, {$range[0]} to {$range[1]}"), 0.72,
                ['a check of the database sets its ends']);
        } elseif (null !== $field->profile && 'code' === $field->profile->likely
            && ($field->profile->distinct ?? 99) <= 12 && null !== $field->profile->least) {
            yield new Draft('meaning', English::sentence("The $phrase of the $noun, {$field->profile->least} to {$field->profile->greatest}"), 0.66,
                ['the data goes from here to there']);
        }
    }
}
