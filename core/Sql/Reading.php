<?php

declare(strict_types=1);

namespace Fasti\Core\Sql;

use Fasti\Core\Catalog\FieldPlace;
use Fasti\Core\Catalog\Place;

/** What was read of a query. */
final readonly class Reading
{
    /**
     * @param bool               $read       false where the text is no query at all
     * @param list<ReadField>    $fields     that it gives, in their order
     * @param list<FieldPlace>   $conditions fields that decide which rows there are, and in which order
     * @param list<FieldPlace>   $references all fields of tables and views that it names
     * @param list<Place>        $tables     all tables and views that it names
     * @param list<ReadJoin>     $joins
     * @param list<Unknown>      $unknown    in the order of the text
     * @param array<int, FieldPlace> $fieldAt by the place of a name in the text
     * @param array<int, Place>      $tableAt
     * @param bool               $open       it gives fields that are not known
     */
    public function __construct(
        public string $text,
        public bool $read,
        public array $fields = [],
        public array $conditions = [],
        public array $references = [],
        public array $tables = [],
        public array $joins = [],
        public array $unknown = [],
        public array $fieldAt = [],
        public array $tableAt = [],
        public bool $open = false,
    ) {
    }
}
