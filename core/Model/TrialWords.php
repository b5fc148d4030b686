<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

use Fasti\Core\Wording\Enumeration;

/** A trial as one sentence. */
final class TrialWords
{
    public static function of(Trial $trial): string
    {
        $trial = Parameters::shown($trial);
        $order = array_map(static fn (Sorting $one): string => $one->what.($one->descending ? ', the greatest first' : ''), $trial->order);

        return 'Show '.Enumeration::of($trial->shown())
            .([] === $trial->by ? '' : ' by '.Enumeration::of($trial->by))
            .([] === $trial->where ? '' : ' where '.Enumeration::of(array_map(ConditionText::of(...), $trial->where)))
            .([] === $order ? '' : ', in order of '.Enumeration::of($order))
            .(null === $trial->limit ? '' : ', the first '.self::rows($trial)).($trial->subtotals ? ', with subtotals' : '');
    }

    /** How many rows are shown, and of what. */
    public static function rows(Trial $trial): string
    {
        $limit = $trial->limit ?? 0;
        $rows = match (true) {
            [] !== $trial->each => ' of each '.Enumeration::of($trial->each),
            $trial->others => '',
            default => 1 === $limit ? ' row' : ' rows',
        };

        return number_format($limit).$rows.($trial->others ? ' and the others' : '');
    }
}
