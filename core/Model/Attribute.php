<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

use Fasti\Core\Catalog\WhenSet;

/** Something by which figures are split: a field of a role's entry, or an expression over its fields. */
final readonly class Attribute
{
    /**
     * @param string $expression in SQL's own words; the name of a field, quoted where it needs it
     * @param string $sorted     an expression by which its values stand in order; '' for the values themselves
     */
    public function __construct(
        public string $name,
        public string $expression,
        #[WhenSet]
        public string $meaning = '',
        #[WhenSet]
        public string $unit = '',
        #[WhenSet]
        public string $sorted = '',
    ) {
        if ('' === trim($name)) {
            throw new \InvalidArgumentException('An attribute needs a name.');
        }
    }
}
