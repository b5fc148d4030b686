<?php

declare(strict_types=1);

namespace Fasti\Core\Draft;

use Fasti\Core\Join\NameWords;
use Fasti\Core\Wording\Naming;
use Fasti\Core\Wording\Noun;

/** How much what is said of one field is likely to hold of another of the same words, 0 to 1. */
final class Sameness
{
    public static function of(Field $field, int $entry, string $name, string $property, string $text): float
    {
        $material = $field->material;
        $other = $material->tables[$entry]->column($name);
        if (null === $other) {
            return 0.0;
        }
        if ('meaning' === $property && $other->autoNumbered && $field->column->autoNumbered) {
            // Numbers that the database gives mean the same everywhere, unless the text speaks of the row itself.
            return [] === array_intersect(Naming::words($text), [$material->noun($entry), Noun::plural($material->noun($entry))]) ? 0.9 : 0.3;
        }
        $theirs = $material->dialect($entry)->typeOf($other)->family;
        $typed = $theirs === $field->type->family || $theirs->isNumeric() && $field->type->family->isNumeric();
        $copy = $entry !== $field->entry && $material->shared($field->entry, $entry) >= 0.7 && \count($field->table->columns) > 2;
        $alike = ($typed ? 1.0 : 0.4) * self::leading($field, $entry, $name, $property, $copy);
        if ('meaning' === $property && !$copy && self::isAboutIts($material->noun($entry), $field->noun(), $text)) {
            $alike *= 0.25;
        }

        return min(1.0, $copy ? $alike * 1.15 : $alike);
    }

    /** How much it says for them where they lead. */
    private static function leading(Field $field, int $entry, string $name, string $property, bool $copy): float
    {
        $mine = $field->lead()?->to;
        $yours = ($field->material->leadsOf($entry, $name)[0] ?? null)?->to;
        if (null !== $mine || null !== $yours) {
            // Both lead to the same place, or one is what the other leads to.
            return $mine === $yours || $mine === $entry || $yours === $field->entry ? 1.0 : 0.35;
        }
        if ($copy || !NameWords::isPlain($field->column->name)) {
            return 1.0;
        }

        return 'businessName' === $property ? 0.85 : 0.45;
    }

    /** A sentence that speaks of its own kind of row is not true of another kind. */
    private static function isAboutIts(string $theirs, string $mine, string $text): bool
    {
        if ($theirs === $mine) {
            return false;
        }
        $words = Naming::words($text);
        $theirWords = explode(' ', $theirs);
        $noun = end($theirWords);

        return [] !== array_intersect($words, [$noun, Noun::plural($noun)]) || [] !== array_intersect($words, ['it', 'its', 'he', 'she', 'they']);
    }
}
