<?php

declare(strict_types=1);

namespace Fasti\Core\Sql;

use Fasti\Core\Catalog\Table;

/** A table, a view or a query as it stands in one place of a query, under the name by which it is known there. */
final class Relation
{
    private static int $count = 0;
    /** @var \WeakMap<Table, array<int, array<string, int>>>|null numbers of columns by name, with and without regard to case */
    private static ?\WeakMap $numbers = null;

    public readonly int $instance;
    /** Rows of it may be missing in what is joined. */
    public bool $outer = false;
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

        return array_map($this->at(...), array_keys($this->table->columns));
    }

    /** The column of a table by its number. */
    private function at(int $i): Meaning
    {
        \assert(null !== $this->table);
        $column = $this->table->columns[$i];
        $key = $this->table->schema."\0".$this->table->name."\0".$column->name;

        return new Meaning(
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

    /** @param string $name folded */
    public function column(string $name): ?Meaning
    {
        if (null !== $this->table && [] === $this->columns) {
            // Most columns of a table are not named: only those that are get made.
            if (!isset($this->byName[$name])) {
                $i = self::numbers($this->table, $this->anyCase)[$name] ?? null;
                if (null === $i) {
                    return null;
                }
                $this->byName[$name] = $this->at($i);
            }

            return $this->seen($this->byName[$name]);
        }
        if (null === $this->byName) {
            $this->byName = [];
            foreach ($this->all() as $column) {
                $this->byName[$this->anyCase ? mb_strtolower($column->name) : $column->name] ??= $column;
            }
        }
        $found = $this->byName[$name] ?? null;

        return null === $found ? null : $this->seen($found);
    }

    /** @return array<string, int> name of each column, folded → its number */
    private static function numbers(Table $table, bool $anyCase): array
    {
        self::$numbers ??= new \WeakMap();
        $known = self::$numbers[$table] ?? [];
        if (!isset($known[(int) $anyCase])) {
            $known[(int) $anyCase] = [];
            foreach ($table->columns as $i => $column) {
                $known[(int) $anyCase][$anyCase ? mb_strtolower($column->name) : $column->name] ??= $i;
            }
            self::$numbers[$table] = $known;
        }

        return $known[(int) $anyCase];
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
