<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

use Fasti\Core\Wording\Naming;
use Fasti\Core\Wording\Noun;

/** When two names mean the same: in any case, any style, singular or plural. */
final class Names
{
    /** @var array<string, string> */
    private static array $keys = [];

    public static function key(string $name): string
    {
        if (\count(self::$keys) > 20000) {
            self::$keys = [];
        }

        return self::$keys[$name] ??= self::made($name);
    }

    private static function made(string $name): string
    {
        $words = Naming::words($name);

        // Names of signs alone are told apart by their signs.
        return [] === $words ? $name : Noun::singular(implode(' ', $words));
    }

    /** A name within a sentence; abbreviations keep their capitals. */
    public static function small(string $name): string
    {
        return 1 === preg_match('/^\p{Lu}(?:\p{Ll}|\s|$)/u', $name) ? mb_strtolower(mb_substr($name, 0, 1)).mb_substr($name, 1) : $name;
    }

    /** At the beginning of a sentence. */
    public static function big(string $words): string
    {
        return mb_strtoupper(mb_substr($words, 0, 1)).mb_substr($words, 1);
    }
}
