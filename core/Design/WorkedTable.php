<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

use Fasti\Core\Catalog\Trigger;

/** A table that follows from a design, still in general words. Columns are known by keys, so that they may be renamed. */
final class WorkedTable
{
    public ?Why $why = null;
    public ?Thing $thing = null;
    public ?DesignJoin $join = null;
    public ?ValueList $list = null;
    public ?string $table = null;
    public string $schema = '';
    public string $grain = '';
    public string $meaning = '';
    public ?string $stored = null;
    public ?string $sorted = null;
    /** @var array<string, WorkedColumn> */
    public array $columns = [];
    /** @var array<string, true> what columns are called */
    private array $names = [];
    /** @var list<string> keys of columns */
    public array $primary = [];
    public ?string $primaryName = null;
    /** @var list<array{columns: list<string>, name: ?string, why: ?Why}> */
    public array $unique = [];
    /** @var list<WorkedReference> */
    public array $references = [];
    /**
     * @var list<array{sql: string, name: ?string, of: ?string, columns: array<string, string>, texts: array<string, string>}>
     *      columns: mark within the SQL → key of a column; texts: mark → a text
     */
    public array $conditions = [];
    /** @var list<array{lookup: Lookup, columns: list<?string>, why: ?Why}> columns: keys, null for an expression */
    public array $lookups = [];
    /** @var list<Trigger> */
    public array $triggers = [];
    /** @var list<list<string>> */
    public array $rows = [];

    /** @param string $kind thing, link, list, several or history */
    public function __construct(public string $key, public string $kind, public string $name)
    {
    }

    /** Additivity a column under a key, and under a name that no other has. */
    public function add(string $key, WorkedColumn $column): string
    {
        if (\count($this->names) !== \count($this->columns)) {
            $this->names = [];
            foreach ($this->columns as $each) {
                $this->names[Names::key($each->name)] = true;
            }
        }
        for ($name = $column->name, $n = 2; isset($this->names[Names::key($column->name)]); ++$n) {
            $column->name = $name.' '.$n;
        }
        $this->names[Names::key($column->name)] = true;
        for ($unique = $key, $n = 2; isset($this->columns[$unique]); ++$n) {
            $unique = $key.'#'.$n;
        }
        $this->columns[$unique] = $column;

        return $unique;
    }
}
