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
}
