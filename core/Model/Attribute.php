<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

use Fasti\Core\Catalog\ListOf;
use Fasti\Core\Catalog\WhenSet;
use Fasti\Core\Catalog\With;

/** Something by which figures are split: a field of a role's entry, or an expression over its fields. */
final readonly class Attribute
{
    use With;

    /**
     * @param string $expression in SQL's own words; the name of a field, quoted where it needs it
     * @param string       $sorted     an expression by which its values stand in order; '' for the values themselves
     * @param string       $folder     a group in which people find it; '' for that of its role
     * @param bool         $hidden     it is not offered
     * @param list<string> $also       other words for it
     * @param string       $owner      who answers for it
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
        #[WhenSet]
        public string $folder = '',
        #[WhenSet]
        public bool $hidden = false,
        #[ListOf('string'), WhenSet]
        public array $also = [],
        #[WhenSet]
        public string $owner = '',
    ) {
        if ('' === trim($name)) {
            throw new \InvalidArgumentException('An attribute needs a name.');
        }
    }
}
