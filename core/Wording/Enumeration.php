<?php

declare(strict_types=1);

namespace Fasti\Core\Wording;

/** Several things in one sentence: `a, b and c`. */
final class Enumeration
{
    /** @param array<string> $words */
    public static function of(array $words, string $joint = 'and'): string
    {
        $last = array_pop($words);

        return [] === $words ? (string) $last : implode(', ', $words).' '.$joint.' '.$last;
    }
}
