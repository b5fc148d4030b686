<?php

declare(strict_types=1);

namespace Fasti\Core\Wording;

/** Identifiers in any naming style, taken apart into words and put into a form that people read. */
final class Naming
{
    private const MOST_KNOWN = 4096;
    private const LONGEST_KNOWN = 500;

    /** @var array<string, list<string>> */
    private static array $known = [];

    /**
     * `opened_on`, `openedOn`, `OpenedOn`, `OPENED-ON` and `Opened on` all give ["opened", "on"]; runs of capitals and
     * of digits stay whole (`HTTPPort2` → ["http", "port", "2"]), and so do those of several (`VOs` → ["vos"]).
     *
     * @return list<string> in lower case
     */
    public static function words(string $identifier): array
    {
        // The same few texts are taken apart again and again; long ones would fill the memory.
        if (\strlen($identifier) > self::LONGEST_KNOWN) {
            return self::apart($identifier);
        }
        if (\count(self::$known) >= self::MOST_KNOWN) {
            self::$known = [];
        }

        return self::$known[$identifier] ??= self::apart($identifier);
    }

    /** @return list<string> */
    private static function apart(string $identifier): array
    {
        $spaced = preg_replace(
            ['/(\p{Ll}|\d)(\p{Lu})/u', '/(\p{Lu})(?!\p{Lu}s(?:[^\p{Ll}]|$))(\p{Lu}\p{Ll})/u', '/(\p{L})(\d)/u', '/(\d)(\p{L})/u'],
            '$1 $2',
            $identifier,
        ) ?? $identifier;
        $parts = preg_split('/[^\p{L}\p{M}\p{N}]+/u', $spaced, -1, \PREG_SPLIT_NO_EMPTY);

        return array_map(mb_strtolower(...), false === $parts ? [] : $parts);
    }

    /** Letters and digits only, in lower case: equal for the same words in any naming style. */
    public static function folded(string $identifier): string
    {
        return mb_strtolower(preg_replace('/[^\p{L}\p{M}\p{N}]+/u', '', $identifier) ?? $identifier);
    }

    /** `barrier_survey` → "Barrier survey". What cannot be taken apart is returned as it is. */
    public static function asName(string $identifier): string
    {
        $words = implode(' ', self::words($identifier));

        return '' === $words ? $identifier : mb_strtoupper(mb_substr($words, 0, 1)).mb_substr($words, 1);
    }
}
