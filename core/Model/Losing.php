<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

/** Rows of a fact that lead to nothing at one step of a trial's routes, and so count under none. */
final readonly class Losing
{
    /** @param string $rows SQL that shows some of them */
    public function __construct(public string $fact, public Way $way, public string $rows)
    {
    }

    /**
     * @param int $lost rows that lead to nothing
     * @param int $held of them, those that refer to what is not there
     */
    public function inWords(int $lost, int $held): string
    {
        $n = static fn (int $rows): string => number_format($rows).' row'.(1 === $rows ? '' : 's');
        $one = 1 === $lost;
        $what = $held === $lost ? ($one ? 'refers' : 'refer').' to a row of '.$this->way->to().' that is not there'
            : ($one ? 'belongs' : 'belong').' to no '.$this->way->to().($held > 0 ? ' ('.$n($held).' refer to what is not there)' : '');

        return \sprintf('%s of %s %s; %s under none.', $n($lost), $this->fact, $what, $one ? 'it counts' : 'they count');
    }
}
