<?php

declare(strict_types=1);

namespace Fasti\Core\Sql\Tree;

/** Rows that functions make. */
final class Produced extends Source
{
    /**
     * @param list<Call>            $calls
     * @param list<string>          $columns  names given to the columns
     * @param array<string, string> $types    of columns that the query defines for the function: name and type
     * @param bool                  $numbered WITH ORDINALITY
     * @param array<string, string> $made     columns that the function itself lists (JSON_TABLE, XMLTABLE): name and type
     */
    public function __construct(
        public readonly array $calls,
        public readonly ?string $alias = null,
        public readonly array $columns = [],
        public readonly array $types = [],
        public readonly bool $numbered = false,
        public readonly array $made = [],
    ) {
    }
}
