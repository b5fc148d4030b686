<?php

declare(strict_types=1);

namespace Fasti\Core\Join;

use Fasti\Core\Catalog\ForeignKey;
use Fasti\Core\Catalog\Table;

/** The rows at each end of a join: `from` at the end that holds the reference, `to` at the end it points to. */
final readonly class Cardinality
{
    public function __construct(public End $from, public End $to)
    {
    }

    /**
     * What the constraints alone say of a declared join. A reference with any nullable column may be left open
     * (MATCH SIMPLE of SQL); when its columns hold a whole key of their table, at most one row refers to each.
     */
    public static function declared(Table $table, ForeignKey $key): self
    {
        $optional = false;
        foreach ($key->columns as $name) {
            $optional = $optional || (true === $table->column($name)?->nullable);
        }
        $single = false;
        foreach ([...(null === $table->primaryKey ? [] : [$table->primaryKey]), ...$table->uniqueKeys] as $candidate) {
            $single = $single || [] === array_diff($candidate->columns, $key->columns);
        }

        return new self(End::of(true, !$single), End::of($optional, false));
    }

    /** "n:1" or "1:1", read from the end that holds the reference */
    public function short(): string
    {
        return ($this->from->many() ? 'n' : '1').':1';
    }
}
