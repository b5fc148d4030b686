<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

use Fasti\Core\Wording\Listing;

/** A trial as one sentence. */
final class TrialWords
{
    public static function of(Trial $trial): string
    {
        $order = array_map(static fn (Sorting $one): string => $one->what.($one->descending ? ', the greatest first' : ''), $trial->order);

        return 'Show '.Listing::of($trial->measures)
            .([] === $trial->by ? '' : ' by '.Listing::of($trial->by))
            .([] === $trial->where ? '' : ' where '.Listing::of(array_map(ConditionText::of(...), $trial->where)))
            .([] === $order ? '' : ', in order of '.Listing::of($order))
            .(null === $trial->limit ? '' : ', the first '.number_format($trial->limit).' '.(1 === $trial->limit ? 'row' : 'rows'));
    }
}
