<?php

declare(strict_types=1);

namespace Fasti\Core\Dialect;

/** What an expression of a table stands among: all that its names may mean. */
final readonly class Surroundings
{
    /**
     * @param array<string, string>                     $columns   name → type, as the catalog writes it
     * @param array<string, string>                     $types     name of a type of one's own → with its schema, as the catalog writes it
     * @param array<string, string>                     $bases     such a type → what it stands for: `enum(…)`, or the type of a domain
     * @param array<string, array{string, string}>      $functions name of one's own → schema and the type that it returns
     * @param array<string, string>                     $operators one's own → schema
     * @param array<string, string>                     $relations tables and sequences → schema
     */
    public function __construct(
        public array $columns = [],
        public array $types = [],
        public array $bases = [],
        public array $functions = [],
        public array $operators = [],
        public array $relations = [],
    ) {
    }
}
