<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

use Fasti\Core\Wording\Enumeration;

/** A trial as one sentence. */
final class TrialWords
{
    public static function of(Trial $trial): string
    {
        $order = array_map(static fn (Sorting $one): string => $one->what.($one->descending ? ', the greatest first' : ''), $trial->order);

        return 'Show '.Enumeration::of($trial->measures)
            .([] === $trial->by ? '' : ' by '.Enumeration::of($trial->by))
            .([] === $trial->where ? '' : ' where '.Enumeration::of(array_map(ConditionText::of(...), $trial->where)))
            .([] === $order ? '' : ', in order of '.Enumeration::of($order))
            .(null === $trial->limit ? '' : ', the first '.number_format($trial->limit).' '.(1 === $trial->limit ? 'row' : 'rows'));
    }
}
