<?php

declare(strict_types=1);

namespace Fasti\Finding;

use Fasti\Core\Finding\Severity;
use Fasti\Core\Wording\Amount;
use Fasti\Core\Wording\Naming;
use Fasti\Core\Wording\Noun;
use Fasti\Register\Dossier;

/** A meaning that says no more than the name. */
final readonly class MeaningRepeatsName implements DossierCheck
{
    private const LITTLE = ['the', 'a', 'an', 'of', 'its', 'this', 'is', 'are', 'was', 'in', 'for', 'to', 'it', 'that', 'and', 'with', 'which', 'on', 'at',
        'by', 'or',
        'field', 'column', 'value', 'holds', 'contains', 'row', 'table', 'entry', 'record'];

    public function name(): string
    {
        return 'meaning-repeats-name';
    }

    public function severity(): Severity
    {
        return Severity::Doubt;
    }

    public function why(): string
    {
        return 'It counts as described, and tells nobody anything.';
    }

    public function mend(): string
    {
        return 'Say what it stands for, where it comes from, or what may be in it.';
    }

    public function title(string $group, string $one, int $count): string
    {
        return 1 === $count ? $one : Amount::of($count, 'meaning').' only repeat the name';
    }

    public function about(): array
    {
        return ['meaning', 'businessName'];
    }

    public function of(Dossier $dossier): iterable
    {
        $entry = $dossier->entry;
        if (self::repeats($entry->meaning, [$entry->name, $entry->businessName])) {
            yield new Noticed($entry->id, null, 'The meaning only repeats the name', '', 'meaning');
        }
        foreach ($entry->presentFields() as $field) {
            if (self::repeats($field->meaning, [$field->name, $field->businessName, $entry->name, $entry->title])) {
                yield new Noticed($entry->id, $field->id, \sprintf('The meaning of %s only repeats the name', $field->name), '', 'meaning');
            }
        }
    }

    /** @param list<string> $names */
    private static function repeats(string $meaning, array $names): bool
    {
        if ('' === $meaning || mb_strlen($meaning) > 120) {
            return false;
        }
        $words = static fn (string $text): array => array_map(Noun::singular(...), Naming::words($text));

        return [] === array_diff($words($meaning), array_map(Noun::singular(...), self::LITTLE), ...array_map($words, $names));
    }
}
