<?php

declare(strict_types=1);

namespace Fasti\Bench\Real;

use Fasti\Bench\Joins\Fit;
use Fasti\Core\Catalog\Catalog;

/** A reference that a schema declares: fields, and all places to which they are declared to lead. */
final class References implements \Stringable
{
    /** @var array<string, true> see Fit::join() */
    private array $joins = [];
    private string $words = '';

    /** @param list<string> $columns in the order of their names */
    private function __construct(public readonly string $from, public readonly array $columns)
    {
    }

    /** @return list<self> */
    public static function of(Catalog $catalog): array
    {
        $all = [];
        foreach ($catalog->tables as $table) {
            foreach ($table->foreignKeys as $key) {
                $columns = $key->columns;
                sort($columns);
                $place = $table->place()->key();
                $one = $all[$place."\0".implode("\0", $columns)] ??= new self($place, $columns);
                $one->joins[Fit::join($place, $key->columns, $key->references->place()->key(), $key->references->columns)] = true;
                $one->words .= ('' === $one->words ? $table->name.'.'.implode(',', $key->columns).' → ' : ' and ')
                    .$key->references->table.'.'.implode(',', $key->references->columns);
            }
        }

        return array_values($all);
    }

    public function isThat(string $join): bool
    {
        return isset($this->joins[$join]);
    }

    public function __toString(): string
    {
        return $this->words;
    }
}
