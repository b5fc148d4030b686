<?php

declare(strict_types=1);

namespace Fasti\Core\Draft;

use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Join\NameWords;
use Fasti\Core\Profile\FieldProfile;
use Fasti\Core\Wording\Amount;
use Fasti\Core\Wording\Naming;
use Fasti\Core\Wording\Noun;

/** What speaks against saying of one field what is said of another: a thing that the text names, where they lead, types, values. */
final class Differences
{
    /** Of few different values it can be said whether they are the same. */
    private const FEW = 50;
    /** Texts up to this length are codes, whose length says what they are. */
    private const CODE = 8;
    /** What every row is called by: "a row of data" names no thing. */
    private const NO_THINGS = ['row', 'data', 'datum', 'information', 'metadata', 'record'];
    /** Of two letters, and in any sentence. */
    private const LITTLE = ['am', 'an', 'as', 'at', 'be', 'by', 'do', 'go', 'he', 'if', 'in', 'is', 'it', 'me', 'my', 'no', 'of', 'on', 'or', 'so', 'to', 'up',
        'us', 'we'];
    private const NUMBERED = '/\b(?:numbered|generated|automatic(?:ally)?|assigned|auto.?increment(?:ed)?|sequence|counter)\b/i';
    private const UNIQUE = '/\bno two\b|\bunique(?:ly)?\b|\btells? (?:one|an?|each|every|the)\b.*\b(?:apart|from)\b|\bidentif(?:y|ies|ier|ying)\b/i';
    private const ITS = ['it', 'its', 'itself', 'he', 'his', 'she', 'her', 'they', 'their'];

    /** @return list<string> each to be read after "there": "is char(3)"; none where the text is as true there */
    public static function of(Field $here, Field $there, string $text): array
    {
        $found = array_filter([self::named($here, $there, $text), self::led($here, $there), self::keyed($here, $there, $text), self::typed($here, $there)]);
        if ([] === $found && null === $here->lead() && !($here->isKey() && $there->isKey())) {
            $found = [self::valued($here, $there)];
        }

        return array_values(array_filter($found));
    }

    /** The thing that a row is here, where it is another there. */
    private static function named(Field $here, Field $there, string $text): string
    {
        $words = NameWords::singular(Naming::words($text));
        $mine = self::things($here);
        $noun = $here->noun();
        foreach (array_diff($mine, self::things($there)) as $thing) {
            if (\in_array($thing, $words, true)) {
                return \sprintf('is about %s, and the text speaks of %s', Noun::withArticle($there->noun()), Noun::withArticle($noun));
            }
        }
        foreach (array_diff(self::phrases($here), self::phrases($there)) as $phrase) {
            if (str_contains(' '.implode(' ', $words).' ', " $phrase ")) {
                return \sprintf('is about %s, and the text speaks of %s', Noun::withArticle($there->noun()), Noun::withArticle($noun));
            }
        }
        // Of numbers that the database gives, “it” is the database.
        if ($mine !== self::things($there) && !$here->column->autoNumbered && [] !== array_intersect(self::ITS, Naming::words($text))) {
            return \sprintf('is about %s, and the text says “it” of %s', Noun::withArticle($there->noun()), Noun::withArticle($noun));
        }

        return '';
    }

    /** @return list<string> the words that a row is called by, the last of each name */
    private static function things(Field $field): array
    {
        $words = [];
        foreach ([$field->noun(), implode(' ', NameWords::of($field->table->name))] as $name) {
            $of = NameWords::singular(Naming::words($name));
            $words[] = $of[\count($of) - 1] ?? '';
        }

        return array_values(array_unique(array_filter($words, static fn (string $word): bool => \strlen($word) > 1
            && !\in_array($word, [...self::NO_THINGS, ...self::LITTLE], true))));
    }

    /** @return list<string> what a row is called in several words, of which the last alone may be that of others too */
    private static function phrases(Field $field): array
    {
        $names = array_map(static fn (string $name): array => NameWords::singular(Naming::words($name)), [
            $field->noun(), implode(' ', NameWords::of($field->table->name)),
        ]);

        $several = array_values(array_filter($names, static fn (array $words): bool => \count($words) > 1));

        return array_map(static fn (array $words): string => implode(' ', $words), $several);
    }

    /** What is said of a key may be true of what leads to it, but not that it is a key. */
    private static function keyed(Field $here, Field $there, string $text): string
    {
        return match (true) {
            $here->column->autoNumbered && !$there->column->autoNumbered && 1 === preg_match(self::NUMBERED, $text) => 'is not numbered by the database',
            $here->isKey() && !$there->isKey() && 1 === preg_match(self::UNIQUE, $text) => 'may stand in several rows',
            default => '',
        };
    }

    private static function led(Field $here, Field $there): string
    {
        $mine = $here->lead()?->to;
        $theirs = $there->lead()?->to;

        return match (true) {
            $mine === $theirs, $theirs === $here->entry => '',
            $mine === $there->entry => 'is what this one leads to',
            null === $theirs => 'leads nowhere',
            default => \sprintf('leads to %s', $there->material->title($theirs)),
        };
    }

    private static function typed(Field $here, Field $there): string
    {
        $same = $here->type->family === $there->type->family || $here->type->family->isNumeric() && $there->type->family->isNumeric();
        $codes = TypeFamily::Text === $here->type->family && null !== $here->type->length && null !== $there->type->length
            && min($here->type->length, $there->type->length) <= self::CODE;

        return $same && (!$codes || $here->type->length === $there->type->length) ? '' : \sprintf('is %s', $there->column->type);
    }

    /** Whether the values are others, as far as both were looked at. */
    private static function valued(Field $here, Field $there): string
    {
        $a = $here->profile;
        $b = $there->profile;
        if (null === $a || null === $b || 0 === $a->filled() || 0 === $b->filled() || '' !== $a->personal || '' !== $b->personal) {
            // A name that many things have says nothing where no values do.
            $open = NameWords::isPlain($here->column->name) && TypeFamily::Time !== $here->type->family && !$here->column->autoNumbered;

            return $open && $here->material->shared($here->entry, $there->entry) < 0.7 ? 'has not been looked at' : '';
        }
        if (self::isFew($a) !== self::isFew($b)) {
            return \sprintf('has %s', null === $b->distinct ? 'many different values' : Amount::of($b->distinct, 'different value'));
        }
        if (self::isFew($a)) {
            $mine = array_map(strval(...), array_keys($a->frequent));
            $theirs = array_map(strval(...), array_keys($b->frequent));
            $shared = \count(array_intersect($mine, $theirs));

            return $shared >= 0.8 * min(\count($mine), \count($theirs)) ? '' : \sprintf('holds %s', self::some(array_values(array_diff($theirs, $mine))));
        }

        return $here->type->family->isNumeric() && !$here->isKey() && !self::areNear($a, $b)
            ? \sprintf('goes from %s to %s', $b->least, $b->greatest) : '';
    }

    private static function isFew(FieldProfile $profile): bool
    {
        return null !== $profile->distinct && $profile->distinct <= self::FEW && \count($profile->frequent) >= $profile->distinct;
    }

    /** Whether two ranges of numbers share a fair part of the narrower one, and are of about the same size. */
    private static function areNear(FieldProfile $a, FieldProfile $b): bool
    {
        if (!is_numeric($a->least) || !is_numeric($a->greatest) || !is_numeric($b->least) || !is_numeric($b->greatest)) {
            return true;
        }
        $shared = min((float) $a->greatest, (float) $b->greatest) - max((float) $a->least, (float) $b->least);
        $spans = [(float) $a->greatest - (float) $a->least, (float) $b->greatest - (float) $b->least];

        return $shared >= 0.3 * min($spans) && max($spans) <= 20 * max(1e-9, min($spans));
    }

    /** @param list<string> $values */
    private static function some(array $values): string
    {
        $shown = array_map(static fn (string $value): string => mb_strlen($value) > 20 ? mb_substr($value, 0, 19).'…' : $value, \array_slice($values, 0, 3));

        return implode(', ', $shown).(\count($values) > 3 ? \sprintf(' and %s more', Amount::count(\count($values) - 3)) : '');
    }
}
