<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

use Fasti\Core\Dialect\GeneralType;

/** What is known of a thing, or of a join: a field later. */
final readonly class Attribute
{
    use \Fasti\Core\Catalog\With;

    /**
     * @param ?string     $given     what it holds unless something is given; a text, or SQL where `givenSql` says so
     * @param ?string     $computed  the SQL it is computed by; `whenRead` where it is not stored
     * @param list<Limit> $limits
     * @param bool        $mayBeEmpty it was said that it may be empty, even where a key would have it otherwise
     * @param bool        $several   a row may have any number of it
     * @param ?string     $column    its name in tables, where that is not worked out
     * @param ?string     $formerly  the name of the field that it was, where that has another
     * @param ?string     $filled    what rows get that are there already; a text, or SQL where `filledSql` says so
     * @param int         $line      of the outline, from 1; 0 for one that stands in none
     */
    public function __construct(
        public string $name,
        public GeneralType $type = new GeneralType(''),
        public bool $required = false,
        public bool $unique = false,
        public bool $mayBeEmpty = false,
        public ?string $given = null,
        public bool $givenSql = false,
        public bool $whenMade = false,
        public bool $whenChanged = false,
        public bool $numbered = false,
        public ?string $computed = null,
        public bool $whenRead = false,
        public array $limits = [],
        public string $meaning = '',
        public string $unit = '',
        public bool $personal = false,
        public bool $several = false,
        public ?string $column = null,
        public ?string $charset = null,
        public ?string $sorted = null,
        public ?string $formerly = null,
        public ?string $filled = null,
        public bool $filledSql = false,
        public int $line = 0,
    ) {
    }
}
