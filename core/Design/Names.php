<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

use Fasti\Core\Wording\Naming;
use Fasti\Core\Wording\Noun;

/** When two names mean the same: in any case, any style, singular or plural. */
final class Names
{
    /** What would be read as said of an attribute when it stands alone on a line: nobody means a name by it, unless it is quoted. */
    public const SAYS_OF_ANOTHER = '/^(?:not before|not after|at least|at most|more than|less than|measured in|(?:one|any) of) '
        .'|^(?:required|unique|personal|may be empty|numbered by the database|set when the row (?:is made|changes))$| unless given$| for rows that are '
        .'there$/u';
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
