<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

/** A trial as one sentence. */
final class TrialWords
{
    public static function of(Trial $trial): string
    {
        $order = array_map(static fn (Sorting $one): string => $one->what.($one->descending ? ', the greatest first' : ''), $trial->order);

        return 'Show '.self::list($trial->measures)
            .([] === $trial->by ? '' : ' by '.self::list($trial->by))
            .([] === $trial->where ? '' : ' where '.self::list(array_map(ConditionText::of(...), $trial->where)))
            .([] === $order ? '' : ', in order of '.self::list($order))
            .(null === $trial->limit ? '' : ', the first '.number_format($trial->limit).' '.(1 === $trial->limit ? 'row' : 'rows'));
    }

    /** @param list<string> $parts */
    private static function list(array $parts): string
    {
        $last = array_pop($parts);

        return [] === $parts ? (string) $last : implode(', ', $parts).' and '.$last;
    }
}
