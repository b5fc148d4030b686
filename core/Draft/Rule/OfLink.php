<?php

declare(strict_types=1);

namespace Fasti\Core\Draft\Rule;

use Fasti\Core\Draft\Draft;
use Fasti\Core\Draft\English;
use Fasti\Core\Draft\Entry;
use Fasti\Core\Draft\EntryRule;

/** The meaning of a table that does nothing but link others. */
final class OfLink implements EntryRule
{
    public function name(): string
    {
        return 'of-link';
    }

    public function of(Entry $entry): iterable
    {
        $leads = array_values(array_filter($entry->leads(), static fn ($lead): bool => 1 === \count($lead->pairs)));
        $key = $entry->table->primaryKey->columns ?? [];
        if (2 !== \count($leads) || $leads[0]->to === $leads[1]->to || \count($entry->table->columns) > 5) {
            return;
        }
        $fields = [$leads[0]->pairs[0][0], $leads[1]->pairs[0][0]];
        $own = \count($entry->table->columns) - 2;
        // A key of more than the two tells instants or parts apart: that is no mere link.
        if ([] !== array_diff($fields, $key) && $own > 1 || [] === array_diff($fields, $key) && \count($key) > 2) {
            return;
        }
        $plural = static fn (int $to): string => \Fasti\Core\Wording\Noun::plural($entry->material->noun($to));
        yield new Draft('meaning', English::sentence("Which {$plural($leads[1]->to)} go with which {$plural($leads[0]->to)}"), 0.8, ['it links the two']);
    }
}
