<?php

declare(strict_types=1);

namespace Fasti\Core\Sql;

use Fasti\Core\Catalog\Table;

/** A table, a view or a query as it stands in one place of a query, under the name by which it is known there. */
final class Relation
{
    private static int $count = 0;

    public readonly int $instance;
    /** Rows of it may be missing in what is joined. */
    public bool $outer = false;
    /** Another name covers it: only that one reaches its columns. */
    public bool $hidden = false;
    /** @var array<string, Meaning>|null by folded name */
    private ?array $byName = null;

    /**
     * @param string                  $name       by which it is known, folded; '' for none
     * @param list<string>            $columns    names given to its columns; the others keep theirs
     * @param list<Meaning>           $shown      its columns, where it is no table
     * @param bool                    $open       what columns it has is not known
     * @param array<string, true>     $conditions that decide about its rows
     */
    public function __construct(
        public readonly string $name,
        public readonly ?Table $table = null,
        private readonly array $columns = [],
        private readonly array $shown = [],
        public readonly bool $open = false,
        public readonly array $conditions = [],
        public readonly bool $aliased = false,
        public readonly bool $anyCase = false,
    ) {
        $this->instance = ++self::$count;
    }

    /** @return list<Meaning> in their order */
    public function all(): array
    {
        if (null === $this->table) {
            $all = [];
            foreach ($this->shown as $i => $column) {
                $all[] = $this->seen(isset($this->columns[$i]) ? $column->named($this->columns[$i]) : $column);
            }

            return $all;
        }
        $all = [];
        foreach ($this->table->columns as $i => $column) {
            $key = $this->table->schema."\0".$this->table->name."\0".$column->name;
            $all[] = new Meaning(
                $this->columns[$i] ?? $column->name,
                '' === $column->type ? null : $column->type,
                $column->nullable || $this->outer,
                [$key => true],
                [],
                $key,
                $this->instance,
                $key,
            );
        }

        return $all;
    }

    /** @param string $name folded */
    public function column(string $name): ?Meaning
    {
        if (null === $this->byName) {
            $this->byName = [];
            foreach ($this->all() as $column) {
                $this->byName[$this->anyCase ? mb_strtolower($column->name) : $column->name] ??= $column;
            }
        }
        $found = $this->byName[$name] ?? null;

        return null === $found ? null : $this->seen($found);
    }

    private function seen(Meaning $column): Meaning
    {
        if (!$this->outer || true === $column->nullable) {
            return $column;
        }
        $copy = clone $column;
        $copy->nullable = true;

        return $copy;
    }
}
