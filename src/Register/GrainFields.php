<?php

declare(strict_types=1);

namespace Fasti\Register;

use Fasti\Core\Catalog\Quotes;

/** The fields that tell rows apart, as people write them: names with commas between. A name that holds a comma is quoted. */
final class GrainFields
{
    /** @return list<string> */
    public static function named(string $text): array
    {
        preg_match_all('/\s*("(?:[^"]|"")*"|[^,"][^,]*|)\s*(?:,|$)/u', $text, $m);
        $names = array_map(static fn (string $name): string => str_starts_with($name, '"') ? str_replace('""', '"', substr($name, 1, -1)) : trim($name), $m[1]);

        return array_values(array_filter($names, static fn (string $name): bool => '' !== $name));
    }

    /** @param list<string> $names */
    public static function written(array $names): string
    {
        return implode(
            ', ',
            array_map(static fn (string $name): string => 1 === preg_match('/[",]/', $name) ? Quotes::around($name) : $name, $names),
        );
    }
}
