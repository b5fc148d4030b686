<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

/** What no sentence says, as SQL that travels unchanged: a view, a routine, a type. */
final readonly class SqlBlock
{
    /**
     * @param string $kind   view, materialized view, routine, type or statement
     * @param string $engine the dialect that it is written for; '' for whichever
     * @param list<string> $shows names that a view gives to what its query shows; empty where the query names it
     * @param bool   $first  it is needed before tables are made
     */
    public function __construct(
        public string $kind,
        public string $name,
        public string $sql,
        public string $schema = '',
        public string $engine = '',
        public bool $first = false,
        public string $meaning = '',
        public array $shows = [],
        public int $line = 0,
    ) {
    }
}
