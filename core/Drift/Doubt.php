<?php

declare(strict_types=1);

namespace Fasti\Core\Drift;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Type;
use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Dialect\Dialect;
use Fasti\Core\Wording\Amount;
use Fasti\Core\Wording\TypeWords;

/** Whether a change makes a sentence that people wrote doubtful, and why. */
final class Doubt
{
    /** Words that speak of what kind of values a field holds. */
    private const SPOKEN = [
        '/\b(?:number|digits?|integer|figure)\b/i' => [TypeFamily::Whole, TypeFamily::Number],
        '/\b(?:text|characters?|letters?)\b/i' => [TypeFamily::Text],
        '/\b(?:date|time|instant|day)\b/i' => [TypeFamily::Time],
    ];

    /** @return ?string the reason, or null where the text stands as it is */
    public static function about(string $text, Column $was, Column $is, Dialect $dialect): ?string
    {
        if ('' === trim($text)) {
            return null;
        }
        if ('' !== $was->comment && $was->comment !== $is->comment && trim($text) === trim($was->comment)) {
            return \sprintf('This was taken over from the database, which now says “%s”.', $is->comment);
        }
        $ofType = self::ofType($text, $was, $is, $dialect);
        if (null !== $ofType) {
            return $ofType;
        }
        if ($was->nullable !== $is->nullable
            && 1 === preg_match('/\b(?:always|never|required|mandatory|must|optional|empty|missing|unknown|may be|if any|null)\b/i', $text, $m)) {
            return \sprintf('The text says “%s”, and %s.', $m[0], $is->nullable ? 'the field may be empty now' : 'the field is required now');
        }
        if ($was->default === $is->default) {
            return null;
        }
        $value = trim($was->default ?? '', "'");
        $spoken = 1 === preg_match('/\bdefault|unless given\b/i', $text) || (\strlen($value) > 1 && self::mentions($text, $value));

        return $spoken ? \sprintf('The text may speak of the default, which was %s and is %s.', $was->default ?? 'none', $is->default ?? 'none') : null;
    }

    private static function ofType(string $text, Column $was, Column $is, Dialect $dialect): ?string
    {
        $old = $dialect->typeOf($was);
        $new = $dialect->typeOf($is);
        if ($old->written === $new->written) {
            return null;
        }
        foreach (array_diff(self::figures($old), self::figures($new)) as $figure) {
            if (1 === preg_match('/(?<![\d.,])'.preg_quote($figure, '/').'(?![\d]|[.,]\d)/', str_replace(["\u{202f}", "\u{a0}"], '', $text))) {
                return \sprintf('The text speaks of %s, as the type did: it was %s and is %s now.', $figure, $was->type, $is->type);
            }
        }
        $members = array_diff($new->members, $old->members);
        $spoken = array_filter($old->members, static fn (string $member): bool => self::mentions($text, $member));
        $unsaid = [] === $spoken ? [] : array_filter($members, static fn (string $member): bool => !self::mentions($text, $member));
        if ([] !== $unsaid) {
            return \sprintf('The text lists codes, and %s came in.', implode(', ', $unsaid));
        }
        foreach (self::SPOKEN as $pattern => $families) {
            if (\in_array($old->family, $families, true) && !\in_array($new->family, $families, true) && 1 === preg_match($pattern, $text)) {
                return \sprintf('The text speaks of the old type: it was %s and is %s now.', $was->type, $is->type);
            }
        }

        return null;
    }

    /** Whether a text names an identifier as a word of its own. */
    public static function mentions(string $text, string $word): bool
    {
        return '' !== $word && 1 === preg_match('/(?<![\w])'.preg_quote($word, '/').'(?![\w])/u', $text);
    }

    /**
     * A code list within a text: `G = good, S = suspect`, one a line or with commas between.
     *
     * @return list<string> the codes; empty where the text holds no list
     */
    public static function codes(string $text): array
    {
        preg_match_all(
            '/(?:^|[\s,;(*`“"\'-])(?|([A-Za-z0-9][\w.-]{0,15})[`”"\']*\s*(?:=|→|–|means\b)'
                .'|([A-Z0-9][A-Z0-9_.-]{0,7}|[A-Za-z0-9]{1,3})[`”"\']*\s*(?::|for\b))(?=\s*\S)/um',
            $text,
            $m,
        );

        if (\count($m[1]) >= 2) {
            return array_values(array_unique($m[1]));
        }
        // `G good, S suspect, B bad`
        preg_match_all('/(?:^|[\s,:;])([A-Z0-9]{1,3})\s+\p{Ll}+(?=[,.;]|\s*$)/um', $text, $m);

        return \count($m[1]) >= 3 ? array_values(array_unique($m[1])) : [];
    }

    /** @return list<string> the figures of a type that a sentence may speak of: its length, its bounds */
    private static function figures(Type $type): array
    {
        $figures = array_map(strval(...), array_filter([$type->length, $type->scale], static fn (?int $figure): bool => null !== $figure && $figure > 1));
        if (null !== $type->bits && $type->bits < 32) {
            foreach ([$type->bits - 1, $type->bits] as $bits) {
                array_push($figures, (string) (2 ** $bits - 1), Amount::count(2 ** $bits - 1));
            }
        }
        if (TypeFamily::Number === $type->family && null !== $type->length) {
            $figures[] = TypeWords::greatest($type->length, $type->scale ?? 0);
        }

        return array_values(array_unique($figures));
    }
}
