<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

use Fasti\Core\Catalog\IndexPart;

/** By what rows are looked up: an index later. The columns of its parts are names of attributes, roles or things, or SQL where `sql` says so. */
final readonly class Lookup
{
    /**
     * @param list<IndexPart> $parts
     * @param list<int>       $sql   numbers of the parts that are expressions
     */
    public function __construct(
        public array $parts,
        public array $sql = [],
        public ?string $name = null,
        public bool $unique = false,
        public string $method = '',
        public ?string $where = null,
        public string $comment = '',
        public int $line = 0,
    ) {
    }
}
