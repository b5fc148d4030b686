<?php

declare(strict_types=1);

namespace Fasti\Core\Draft\Rule;

use Fasti\Core\Draft\Draft;
use Fasti\Core\Join\Verbs;

/** Verbs of a join, from the names of its fields and of what it leads to. */
final class OfVerb
{
    public const NAME = 'of-verb';

    /**
     * @param list<string> $columns that hold the reference
     * @param list<string> $primary of the referring table
     *
     * @return list<Draft> in both directions, none where names say nothing
     */
    public static function of(string $from, array $columns, string $to, array $primary): array
    {
        [$verb, $back] = Verbs::of($from, $columns, $to, $primary);
        if ('' === $verb) {
            return [];
        }
        // What the field itself says is seldom wrong; kinds and places are read off the table it leads to.
        $own = !\in_array($verb, ['belongs to', 'is of', 'is at'], true);
        $because = [$own ? 'the words of '.implode(', ', $columns) : "what $to is called, and the key"];

        return [new Draft('verb', $verb, $own ? 0.8 : 0.66, $because, self::NAME), new Draft('verbBack', $back, $own ? 0.75 : 0.62, $because, self::NAME)];
    }
}
