<?php

declare(strict_types=1);

namespace Fasti\Core\Draft\Rule;

use Fasti\Core\Draft\Draft;
use Fasti\Core\Draft\English;
use Fasti\Core\Draft\Field;
use Fasti\Core\Draft\Rule;
use Fasti\Core\Join\NameWords;
use Fasti\Core\Wording\Noun;

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
        $range = $field->range() ?? ['', ''];
        $limited = '' !== $range[0] && '' !== $range[1];
        if (null !== $unit) {
            $limits = $limited ? ", {$range[0]} to {$range[1]}" : '';
            yield new Draft('meaning', English::sentence("The $phrase of the $noun, in ".$unit->plural.$limits), 0.88, ['the unit at the end of its name']);

            return;
        }
        if (!$field->type->family->isNumeric() || ['how', 'much'] === \array_slice($words, 0, 2)) {
            return;
        }
        $many = self::howMany($words, $noun);
        if (null !== $many) {
            yield new Draft('meaning', English::sentence($many[0]), $many[1], ['its name asks for a number']);
        } elseif ($limited) {
            yield new Draft('meaning', English::sentence("The $phrase of the $noun, {$range[0]} to {$range[1]}"), 0.72,
                ['a check of the database sets its ends']);
        } elseif (null !== $field->profile && 'code' === $field->profile->likely
            && ($field->profile->distinct ?? 99) <= 12 && null !== $field->profile->least) {
            yield new Draft('meaning', English::sentence("The $phrase of the $noun, {$field->profile->least} to {$field->profile->greatest}"), 0.66,
                ['the data goes from here to there']);
        }
    }

    /**
     * @param list<string> $words
     *
     * @return array{string, float}|null a sentence and how sure it is, where the name asks for a number
     */
    private static function howMany(array $words, string $noun): ?array
    {
        if (['how', 'many'] === \array_slice($words, 0, 2)) {
            $what = \array_slice($words, 2);

            return ['How many '.([] === $what ? "there were at the $noun" : implode(' ', $what)." the $noun has"), 0.75];
        }
        $last = $words[\count($words) - 1];
        $counted = \count($words) > 1 && \in_array($last, ['quantity', 'count'], true);
        if (!$counted && (\count($words) < 3 || ['number', 'of'] !== \array_slice($words, 0, 2))) {
            return null;
        }
        $what = ['number', 'of'] === \array_slice($words, 0, 2) ? \array_slice($words, 2) : \array_slice($words, 0, -1);
        $done = English::isParticiple($what[\count($what) - 1]);
        if (!$done) {
            $what[] = Noun::plural(NameWords::singular([(string) array_pop($what)])[0]);
        }

        return [$done ? 'How many were '.implode(' ', $what).", for the $noun" : 'How many '.implode(' ', $what)." the $noun has", 0.78];
    }
}
