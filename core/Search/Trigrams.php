<?php

declare(strict_types=1);

namespace Fasti\Core\Search;

/** Three-letter windows over a folded identifier, marked at both ends so that beginnings weigh a little more. */
final class Trigrams
{
    /** @return list<string> each once */
    public static function of(string $folded): array
    {
        $letters = mb_str_split('^'.$folded.'$');
        $found = [];
        for ($i = 0, $last = \count($letters) - 2; $i < $last; ++$i) {
            $found[$letters[$i].$letters[$i + 1].$letters[$i + 2]] = true;
        }

        return array_map(strval(...), array_keys($found));
    }
}
