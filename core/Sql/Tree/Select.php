<?php

declare(strict_types=1);

namespace Fasti\Core\Sql\Tree;

/** SELECT with its clauses. */
final class Select extends Body
{
    /**
     * @param list<Item>            $items
     * @param list<Source>          $from
     * @param list<Expression>      $group
     * @param string                $grouping '' or ROLLUP, CUBE, SETS
     * @param array<string, Window> $windows
     * @param list<Expression>      $on       of DISTINCT ON
     * @param list<Expression>      $repeat   START WITH and CONNECT BY
     * @param ?Expression           $top      how many rows, where it stands before them
     */
    public function __construct(
        public readonly array $items,
        public readonly array $from = [],
        public readonly ?Expression $where = null,
        public readonly array $group = [],
        public readonly string $grouping = '',
        public readonly ?Expression $having = null,
        public readonly array $windows = [],
        public readonly bool $distinct = false,
        public readonly array $on = [],
        public readonly ?Expression $qualify = null,
        public readonly array $repeat = [],
        public readonly ?Expression $top = null,
    ) {
    }
}
