<?php

declare(strict_types=1);

namespace Fasti\Core\Draft\Rule;

use Fasti\Core\Draft\Draft;
use Fasti\Core\Draft\Entry;
use Fasti\Core\Draft\EntryRule;

/** The business name of an entry from the words of its name, as one of its rows is called. */
final class EntryNameInWords implements EntryRule
{
    public function name(): string
    {
        return 'entry-name-in-words';
    }

    public function of(Entry $entry): iterable
    {
        $name = $entry->material->nameOf($entry->entry);
        if ([] !== $name->words) {
            $words = \Fasti\Core\Join\NameWords::singular($name->words);
            $said = implode(' ', $words);
            yield new Draft(
                'businessName',
                mb_strtoupper(mb_substr($said, 0, 1)).mb_substr($said, 1),
                $name->known ? 0.85 : 0.3,
                [] === $name->expanded ? ['the words of its name'] : ['short forms in full: '.implode(', ', $name->expanded)],
            );
        }
    }
}
