<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

/**
 * Works out the logical depth of a design: which tables there are, what their keys are and where they go. Each part that nobody wrote
 * says by which rule it came about.
 */
final class Working
{
    public const ACTIONS = [
        'refused' => 'RESTRICT', 'in the end' => 'NO ACTION', 'deletes' => 'CASCADE', 'follows' => 'CASCADE', 'empties' => 'SET NULL',
    ];

    /** @var array<string, WorkedTable> */
    public array $tables = [];
    /** @var list<DesignFinding> */
    private array $findings = [];
    /** @var array<string, true> tables whose keys are being worked out */
    public array $open = [];
    /** @var array<string, true> */
    public array $keyed = [];
    /** @var array<string, string> key of a thing → key of the table that stands for it */
    public array $stand = [];
    /** @var array<string, list<string>> key of a thing → tables of its kinds, where the whole has none */
    private array $spread = [];
    /** @var array<string, list<DesignJoin>> by key of the table that is the child */
    public array $parents = [];
    /** @var array<int, array<string, WorkedReference>> by number of the join (spl_object_id), then child table */
    public array $led = [];

    public readonly WorkedKeys $keys;
    public readonly WorkedIdentifiers $identifying;
    public readonly WorkedLinks $linking;
    public readonly WorkedRest $rest;

    private function __construct(public readonly Design $design)
    {
        $this->keys = new WorkedKeys($this);
        $this->identifying = new WorkedIdentifiers($this);
        $this->linking = new WorkedLinks($this);
        $this->rest = new WorkedRest($this);
    }

    public static function of(Design $design): Worked
    {
        $self = new self($design);
        $self->things();
        $self->joins();
        foreach (array_keys($self->tables) as $key) {
            $self->keys->key((string) $key);
        }
        $self->linking->links();
        $self->identifying->identifiers();
        $self->rest->lists();
        foreach ($self->tables as $table) {
            $self->rest->audit($table);
        }
        $self->rest->histories();
        $self->rest->indexes();

        return new Worked($design, $self->tables, $self->findings);
    }

    // ---- things ----

    private function things(): void
    {
        $rules = $this->design->rules;
        $kinds = [];
        foreach ($this->design->things as $thing) {
            if (null !== $thing->kindOf) {
                if (null === $this->design->thing($thing->kindOf)) {
                    $this->finding(
                        'unknown kind',
                        $thing->line,
                        \sprintf('%s is a kind of “%s”, which no thing is called.', $thing->name, $thing->kindOf),
                        'Write a block for it, or take the words away.',
                        $thing->name,
                        serious: true,
                    );
                } else {
                    $kinds[Names::key($thing->kindOf)][] = $thing;
                }
            }
        }
        foreach ($this->design->things as $thing) {
            $key = Names::key($thing->name);
            $root = $this->root($thing);
            if ($root !== $thing && $rules->is('kinds', 'one')) {
                continue;
            }
            if ($rules->is('kinds', 'each') && isset($kinds[$key])) {
                continue;
            }
            $table = new WorkedTable('t:'.$key, 'thing', $thing->name);
            $table->thing = $thing;
            $table->grain = $thing->grain;
            $table->meaning = $thing->meaning;
            $table->table = $thing->table;
            $table->schema = $thing->schema;
            $table->stored = $thing->stored;
            $table->sorted = $thing->sorted;
            $table->triggers = $thing->triggers;
            $this->tables[$table->key] = $table;
            $this->stand[$key] = $table->key;
        }
        foreach ($this->design->things as $thing) {
            $key = Names::key($thing->name);
            if ($rules->is('kinds', 'one') && $this->root($thing) !== $thing) {
                $this->stand[$key] = $this->stand[Names::key($this->root($thing)->name)] ?? '';
            }
            if ($rules->is('kinds', 'each')) {
                for ($up = $thing; null !== $up->kindOf && null !== ($whole = $this->design->thing($up->kindOf)) && $whole !== $thing; $up = $whole) {
                    if (isset($this->stand[$key])) {
                        $this->spread[Names::key($whole->name)][] = $this->stand[$key];
                    }
                }
            }
        }
    }

    public function root(Thing $thing): Thing
    {
        for ($seen = [$thing->name => true]; null !== $thing->kindOf; $seen[$thing->name] = true) {
            $up = $this->design->thing($thing->kindOf);
            if (null === $up || isset($seen[$up->name])) {
                break;
            }
            $thing = $up;
        }

        return $thing;
    }

    /** @return list<string> keys of the tables that stand for a thing */
    public function tablesOf(string $name): array
    {
        $key = Names::key($name);

        return isset($this->stand[$key]) ? [$this->stand[$key]] : ($this->spread[$key] ?? []);
    }

    private function joins(): void
    {
        foreach ($this->design->joins as $join) {
            if ($join->isLink()) {
                continue;
            }
            foreach ($this->tablesOf($join->child()) as $child) {
                $this->parents[$child][] = $join;
            }
        }
    }

    // ---- keys, and what leads to them ----

    // ---- many at both ends ----

    // ---- lists, history, who and when, indexes ----

    public function finding(string $check, int $line, string $words, string $todo, string $about = '', bool $serious = false): void
    {
        $this->findings[] = new DesignFinding($check, $line, $words, $todo, $about, '', $serious);
    }
}
