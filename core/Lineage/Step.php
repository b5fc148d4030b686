<?php

declare(strict_types=1);

namespace Fasti\Core\Lineage;

use Fasti\Core\Catalog\ListOf;

/**
 * One step of how a query makes its rows.
 *
 * Steps stand in the order in which they are read, and each in a lane beside the others: the lanes are the branches that
 * are open at that step, so that they can be drawn as rails beside the sentences.
 */
final readonly class Step
{
    /**
     * @param string       $kind   take, values, make, join, filter, group, rank, distinct, union, intersect, subtract, order, limit, repeat or unread
     * @param string       $words  a sentence without its detail: `Join reach`
     * @param string       $detail the expression of the query that decides it, '' for none
     * @param string       $rows   of a join: how many rows stand at each end, in words
     * @param list<int>    $inputs numbers of the steps whose rows it takes, from 0
     * @param int          $lane   in which its rows go on
     * @param list<int>    $passing other lanes that are open when it is over
     * @param list<int>    $merging lanes that end in it
     * @param string       $schema of the table that it takes; '' and no table where it takes none
     * @param string       $named  the name that the query gives to what begins here
     */
    public function __construct(
        public string $kind,
        public string $words,
        public string $detail = '',
        public string $rows = '',
        #[ListOf('int')]
        public array $inputs = [],
        public int $lane = 0,
        #[ListOf('int')]
        public array $passing = [],
        #[ListOf('int')]
        public array $merging = [],
        public string $schema = '',
        public string $table = '',
        public string $named = '',
        public bool $many = false,
    ) {
    }
}
