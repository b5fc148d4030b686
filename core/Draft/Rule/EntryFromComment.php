<?php

declare(strict_types=1);

namespace Fasti\Core\Draft\Rule;

use Fasti\Core\Draft\Draft;
use Fasti\Core\Draft\English;
use Fasti\Core\Draft\Entry;
use Fasti\Core\Draft\EntryRule;

/** What the database says of an entry. */
final class EntryFromComment implements EntryRule
{
    public function name(): string
    {
        return 'entry-from-comment';
    }

    public function of(Entry $entry): iterable
    {
        $comment = trim($entry->table->comment);
        if (preg_match_all("/\p{L}{3,}/u", $comment) >= 2) {
            yield new Draft('meaning', mb_strlen($comment) > 400 ? $comment : English::sentence($comment), 0.78, ['the database says so']);
        }
        if (1 === preg_match("/\bone row (?:per|for each|an?|each)\s+([^.;]{3,120})/iu", $comment, $m)) {
            yield new Draft('grain', trim($m[1]), 0.82, ['the database says it']);
        }
    }
}
