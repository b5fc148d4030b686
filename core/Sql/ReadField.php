<?php

declare(strict_types=1);

namespace Fasti\Core\Sql;

use Fasti\Core\Catalog\FieldPlace;

/** A field that a query gives. */
final readonly class ReadField
{
    /**
     * @param ?string          $type       as the catalog of its engine writes it; null where it does not follow
     * @param ?bool            $nullable   whether it may be empty; null where it does not follow
     * @param string           $expression as it is written; `t.a` for each field of a star
     * @param list<FieldPlace> $values     fields that it is computed from
     * @param list<FieldPlace> $conditions fields that decide about it alone
     * @param bool             $unchanged  it is the one field that it comes from
     */
    public function __construct(
        public string $name,
        public ?string $type,
        public ?bool $nullable,
        public string $expression,
        public array $values,
        public array $conditions,
        public bool $unchanged = false,
    ) {
    }
}
