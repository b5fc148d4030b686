<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\CheckConstraint;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\ForeignKey;
use Fasti\Core\Catalog\Generated;
use Fasti\Core\Catalog\Index;
use Fasti\Core\Catalog\IndexPart;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Catalog\Reference;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Dialect\Dialect;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Dialect\Manners;
use Fasti\Core\Dialect\Native;
use Fasti\Core\Dialect\Reserved;
use Fasti\Core\Dialect\ScriptStatement;
use Fasti\Core\Wording\Noun;

/** The physical depth of a design: tables of an engine with their final names, native types and indexes. */
final class Physical
{
    public readonly Catalog $catalog;
    /** @var array<string, string> key of a worked table → its name */
    public array $tables = [];
    /** @var array<string, array<string, string>> key of a worked table → key of a column → its name */
    public array $columns = [];
    /** @var array<string, array<string, string>> key of a worked table → key of a column → its type here */
    public array $types = [];
    /** @var list<DesignFinding> */
    public array $findings = [];
    /** @var array<string, list<list<string>>> name of a table → its rows */
    public array $rows = [];
    /** @var array<string, true> names of constraints that are taken, by schema and name */
    private array $taken = [];
    /** @var array<int, true> references that would make a second way for what follows a deletion */
    private readonly array $beyond;
    private readonly Identifiers $names;
    private readonly Manners $manners;

    /** @param array<string, string> $short abbreviations: word → short form */
    public function __construct(public readonly Worked $worked, public readonly Dialect $dialect, array $short = [], private readonly string $schema = '')
    {
        $this->manners = $dialect->manners();
        $this->names = new Identifiers($worked->design->rules, $dialect->longestName(), $short);
        $this->beyond = $this->manners->oneWay ? OneWay::beyond($worked->tables) : [];
        $this->name();
        $tables = [];
        foreach ($worked->tables as $key => $table) {
            $tables[] = $this->table((string) $key, $table);
        }
        foreach ($worked->design->blocks as $block) {
            if (str_ends_with($block->kind, 'view') && $this->isOurs($block)) {
                $tables[] = new Table($this->schemaOf($block->schema), $block->name, TableType::from($block->kind), $block->meaning, array_map(
                    static fn (string $name): Column => new Column($name, ''),
                    $block->shows,
                ), definition: $block->sql);
            }
        }
        foreach ($worked->design->views as $view) {
            $made = (new ViewSql($this))->of($view);
            if (null !== $made) {
                $tables[] = $made;
            }
        }
        usort($tables, static fn (Table $a, Table $b): int => [$a->schema, $a->name] <=> [$b->schema, $b->name]);
        $this->catalog = new Catalog($dialect->name(), '', $tables);
    }

    /** @param array<string, string> $short */
    public static function of(Design $design, ?string $engine = null, array $short = [], string $schema = ''): self
    {
        return new self(Working::of($design), null === $engine ? self::dialectOf($design) : Dialects::of($engine), $short, $schema);
    }

    /** The engine that a design names, or the usual one. */
    public static function dialectOf(Design $design): Dialect
    {
        return Dialects::of('' === $design->engine ? Dialects::USUAL : $design->engine);
    }

    public function isOurs(SqlBlock $block): bool
    {
        return '' === $block->engine || $block->engine === $this->dialect->name();
    }

    public function schemaOf(string $schema): string
    {
        return match (true) {
            '' !== $schema => $schema,
            '' !== $this->schema => $this->schema,
            default => $this->manners->schema,
        };
    }

    // ---- names ----

    private function name(): void
    {
        $used = [];
        foreach ($this->worked->tables as $key => $table) {
            $name = null === $table->table ? $this->names->table($table->name) : $this->kept($table->table, $table);
            for ($n = 2, $plain = $name; isset($used[$table->schema."\0".mb_strtolower($name)]); ++$n) {
                $name = $this->names->numbered($plain, $n);
            }
            $used[$table->schema."\0".mb_strtolower($name)] = true;
            $this->tables[$key] = $name;
            $this->taken[$table->schema."\0".mb_strtolower($name)] = true;
            if (null === $table->table && Reserved::has($name)) {
                $this->warn(
                    $table,
                    $table->thing->line ?? 0,
                    \sprintf('“%s” is a word of the language: scripts quote it, and so must every query.', $name),
                    'Give the thing a longer name, or tables a prefix.',
                    'reserved',
                );
            }
            $within = [];
            foreach ($table->columns as $columnKey => $column) {
                $own = null === $column->column ? $this->names->column($column->name) : $this->kept($column->column, $table);
                for ($n = 2, $plain = $own; isset($within[mb_strtolower($own)]); ++$n) {
                    $own = $this->names->numbered($plain, $n);
                }
                $within[mb_strtolower($own)] = true;
                $this->columns[$key][$columnKey] = $own;
            }
        }
    }

    /** @param list<string> $parts */
    private function constraint(WorkedTable $table, ?string $given, array $parts, string $what): ?string
    {
        if (null !== $given) {
            return '' === $given ? null : $this->kept($given, $table);
        }
        $name = $this->names->constraint($parts, $what);
        for ($n = 2, $plain = $name; isset($this->taken[$table->schema."\0".mb_strtolower($name)]); ++$n) {
            $name = $this->names->numbered($plain, $n);
        }
        $this->taken[$table->schema."\0".mb_strtolower($name)] = true;

        return $name;
    }

    /** A name that was given, cut where the engine keeps no name of that length. */
    private function kept(string $name, WorkedTable $table): string
    {
        $kept = $this->names->whole($name);
        if ($kept !== $name) {
            $this->warn(
                $table,
                $table->thing->line ?? 0,
                \sprintf('“%s” is too long: a name has at most %d bytes here. It is cut.', $name, $this->dialect->longestName()),
                'Give it a shorter one.',
                'too long',
            );
        }

        return $kept;
    }

    /**
     * @param list<string> $keys
     *
     * @return list<string>
     */
    public function named(string $table, array $keys): array
    {
        return array_map(fn (string $key): string => $this->columns[$table][$key], $keys);
    }

    // ---- tables ----

    private function table(string $key, WorkedTable $table): Table
    {
        $sql = $this->dialect->writing();
        $name = $this->tables[$key];
        $columns = $checks = [];
        $keyed = self::keyed($table);
        foreach ($table->columns as $columnKey => $column) {
            $own = $this->columns[$key][$columnKey];
            $native = $this->native($column);
            if (isset($keyed[$columnKey]) && 'native' !== $column->type->kind) {
                $native = $this->inKey($table, $column, $native);
            }
            $this->types[$key][$columnKey] = $native->type;
            if ('' !== $native->warning && null !== $column->attribute) {
                $this->warn(
                    $table,
                    $column->attribute->line,
                    $column->name.': '.$native->warning,
                    '',
                    'cannot hold',
                );
            }
            $required = $column->required || (\in_array($columnKey, $table->primary, true) && !$this->manners->emptyKeys);
            $columns[] = new Column(
                $own,
                $native->type,
                !$required,
                $this->given($column, $native),
                self::comment($column),
                // An engine that numbers by type does so for every key that is of it.
                $column->numbered || ($this->manners->numbers === $native->type && [(string) $columnKey] === $table->primary),
                null === $column->computed ? null : new Generated($column->computed, !$column->whenRead),
                $column->whenChanged && $this->manners->setsChanged ? $this->manners->now($native->type) : null,
                $column->charset,
                $column->sorted,
            );
            if ($column->whenChanged && !$this->manners->setsChanged) {
                $this->warn(
                    $table,
                    $column->attribute->line ?? ($table->thing->line ?? 0),
                    \sprintf(
                        '%s: nothing here sets it when the row changes. It is set when the row is made; a trigger or whoever writes must do the rest.',
                        $column->name,
                    ),
                    '',
                    'cannot hold',
                );
            }
            foreach ($this->checksOf($key, (string) $columnKey, $column, $native, $own) as $check) {
                $checks[] = [$check, null, [$name, $own]];
            }
        }
        foreach ($table->conditions as $condition) {
            $marks = array_map($sql->literal(...), $condition['texts']);
            foreach ($condition['columns'] as $mark => $column) {
                $marks[$mark] = $sql->name($this->columns[$key][$column] ?? $column);
            }
            $checks[] = [strtr($condition['sql'], $marks), $condition, [$name]];
        }
        $made = [];
        foreach ($checks as [$expression, $condition, $parts]) {
            $of = null === ($condition['of'] ?? null) ? null : $this->columns[$key][$condition['of']];
            $made[] = null !== $of && $this->manners->ownConditions ? new CheckConstraint($of, $expression, $of)
                : new CheckConstraint((string) $this->constraint($table, $condition['name'] ?? null, $parts, 'check'), $expression, $of);
        }
        if ($this->manners->sorted) {
            usort($made, static fn (CheckConstraint $a, CheckConstraint $b): int => strcmp($a->name, $b->name));
        }
        $primary = [] === $table->primary ? null : new Key($this->primaryName($table, $name), $this->nonEmpty($this->named($key, $table->primary)));
        $byName = array_column($columns, null, 'name');
        if (null !== $primary) {
            $this->tooLong($table, $primary->columns, $byName, $table->thing->keys[0]->line ?? ($table->thing->line ?? 0));
        }
        $unique = $guards = [];
        foreach ($table->unique as $each) {
            $named = $this->named($key, array_values(array_filter($each['columns'], static fn (string $column): bool => isset($table->columns[$column]))));
            if ([] === $named) {
                continue;
            }
            $own = new Key($this->constraint($table, $each['name'], [$name, ...$named], 'key'), $named);
            $empty = array_values(array_filter($named, static fn (string $column): bool => $byName[$column]->nullable));
            if ([] === $empty || !$this->onceEmpty($key, $table, $each, $empty)) {
                $unique[] = $own;
                continue;
            }
            // Rows that are empty there are none of its business, as everywhere else.
            $guards[] = new Index(
                (string) $own->name,
                array_map(static fn (string $column): IndexPart => new IndexPart($column), $named),
                true,
                where: implode(' AND ', array_map(static fn (string $column): string => $sql->name($column).' IS NOT NULL', $empty)),
            );
        }
        $foreign = [];
        foreach ($table->references as $reference) {
            $foreign[] = $this->foreignKey($key, $table, $reference);
        }
        usort($foreign, static fn (ForeignKey $a, ForeignKey $b): int => strcmp((string) $a->name, (string) $b->name));
        $indexes = $guards;
        foreach ($table->lookups as $lookup) {
            $indexes[] = $this->index($key, $table, $lookup['lookup'], $lookup['columns'], $byName);
        }
        if ($this->manners->leadsIndexed) {
            array_push($indexes, ...self::ofLeads($foreign, array_filter([$primary, ...$unique]), $indexes));
        }
        if ([] !== $table->rows) {
            $this->rows[$name] = $table->rows;
        }
        $traits = $this->manners->traits && null !== $table->stored ? array_map(trim(...), explode(',', $table->stored)) : [];

        return new Table(
            $this->schemaOf($table->schema), $name, TableType::Table, $table->meaning, $columns, $primary, $unique, $foreign, $indexes, $made, $table->triggers,
            storage: $this->manners->traits ? null
                : ($table->stored ?? $this->manners->storage), collation: $table->sorted ?? $this->worked->design->sorted, traits: $traits,
        );
    }

    /** @return array<string, true> keys of the columns that are in a key, or lead to one */
    private static function keyed(WorkedTable $table): array
    {
        $keyed = $table->primary;
        foreach ($table->unique as $unique) {
            array_push($keyed, ...$unique['columns']);
        }
        foreach ($table->references as $reference) {
            array_push($keyed, ...$reference->columns);
        }

        return array_fill_keys($keyed, true);
    }

    private function inKey(WorkedTable $table, WorkedColumn $column, Native $native): Native
    {
        $possible = $this->dialect->types()->inKey($native);
        if (null === $possible) {
            $this->warn(
                $table,
                $column->attribute->line ?? ($table->thing->line ?? 0),
                \sprintf('%s is in a key, where no %s can be.', $column->name, $native->type),
                'Tell rows apart by something else.',
                'cannot hold',
                true,
            );
        }

        return $possible ?? $native;
    }

    /**
     * @param list<string>          $named
     * @param array<string, Column> $columns
     */
    private function tooLong(WorkedTable $table, array $named, array $columns, int $line): void
    {
        $most = $this->manners->longestKey;
        $bytes = 0;
        foreach ($named as $name) {
            $length = isset($columns[$name]) ? $this->dialect->typeOf($columns[$name]) : null;
            $bytes += TypeFamily::Text === $length?->family ? 4 * ($length->length ?? 0) : 8;
        }
        if (null !== $most && $bytes > $most) {
            $this->warn(
                $table,
                $line,
                \sprintf('%s is told apart by %d bytes; a key has at most %d here.', $table->name, $bytes, $most),
                'Tell rows apart by less, or give the thing a number of its own.',
                'cannot hold',
                true,
            );
        }
    }

    /**
     * Whether a unique key must be guarded so that more than one row may be empty in it. A key that others lead to cannot be; nor is one
     * that was taken from such an engine as it stands.
     *
     * @param array{columns: list<string>, name: ?string, why: ?Why} $unique
     * @param non-empty-list<string>                                 $empty
     */
    private function onceEmpty(string $key, WorkedTable $table, array $unique, array $empty): bool
    {
        $line = $table->thing->line ?? 0;
        if ($this->manners->partsCompared && \count($unique['columns']) > 1) {
            $this->warn(
                $table,
                $line,
                \sprintf(
                    'Two %s that are equal in all but %s, which is empty in both, are refused here.',
                    mb_strtolower(Noun::plural($table->name)),
                    implode(' and ', $empty),
                ),
                'Require it, or tell rows apart by less.',
                'cannot hold',
            );
        }
        if (!$this->manners->oneEmpty || (null !== $unique['name'] && $this->worked->design->engine === $this->dialect->name())) {
            return false;
        }
        foreach ($this->worked->tables as $other) {
            foreach ($other->references as $reference) {
                if ($reference->to === $key && [] === array_diff($reference->toColumns, $unique['columns'])) {
                    $this->warn(
                        $table,
                        $line,
                        \sprintf('One %s only may be without %s here, because others lead to it.', mb_strtolower($table->name), implode(' and ', $empty)),
                        'Require it, or let them lead to the key.',
                        'cannot hold',
                    );

                    return false;
                }
            }
        }

        return true;
    }

    private function primaryName(WorkedTable $table, string $name): ?string
    {
        if (null !== $this->manners->primary) {
            return $this->manners->primary;
        }
        if (null !== $table->primaryName) {
            return '' === $table->primaryName ? null : $table->primaryName;
        }

        return $this->manners->primaryNamed ? $this->constraint($table, null, [$name], 'pkey') : null;
    }

    /**
     * @template T
     *
     * @param list<T> $list
     *
     * @return non-empty-list<T>
     */
    private function nonEmpty(array $list): array
    {
        return [] === $list ? throw new \LogicException('A key has a column at least.') : $list;
    }

    private static function comment(WorkedColumn $column): string
    {
        $unit = $column->attribute->unit ?? '';

        return match (true) {
            '' === $unit => $column->meaning,
            '' === $column->meaning => 'in '.$unit,
            default => $column->meaning.' (in '.$unit.')',
        };
    }

    public function native(WorkedColumn $column): Native
    {
        $types = $this->dialect->types();
        if ($this->worked->design->rules->is('lists', 'types') && [] !== $column->type->members) {
            $own = $types->ownList($column->type->members, 'any of' === $column->type->kind);
            if (null !== $own) {
                return new Native($own);
            }
        }
        if ($column->numbered && null !== $this->manners->numbers) {
            return new Native('native' === $column->type->kind ? $column->type->native : $this->manners->numbers);
        }

        return $types->native($column->type);
    }

    private function foreignKey(string $key, WorkedTable $table, WorkedReference $reference): ForeignKey
    {
        $far = $this->worked->tables[$reference->to];
        $asked = 'RESTRICT' === $reference->onDelete && null === $reference->join?->onDelete && !$this->manners->refuses ? 'NO ACTION' : $reference->onDelete;
        $name = $this->constraint($table, $reference->name, [$this->tables[$key], ...$this->named($key, $reference->columns)], 'fkey');

        $second = isset($this->beyond[spl_object_id($reference)]);
        if ($second) {
            $this->warn(
                $table,
                $reference->join->line ?? ($table->join->line ?? ($table->thing->line ?? 0)),
                \sprintf(
                    'Deleting or changing %s would reach %s a second time or come back to it, which is not taken here: it is refused while there is any.',
                    Noun::withArticle(mb_strtolower($far->name)),
                    mb_strtolower(Noun::plural($table->name)),
                ),
                'Whoever deletes begins with those, or deleting is refused by a rule.',
                'cannot hold',
            );
        }

        return new ForeignKey($name, $this->nonEmpty($this->named($key, $reference->columns)),
            new Reference($this->schemaOf($far->schema), $this->tables[$reference->to], $this->nonEmpty($this->named($reference->to, $reference->toColumns))),
            $second ? 'NO ACTION' : $asked, $second ? 'NO ACTION' : $reference->onUpdate);
    }

    /**
     * What the engine adds by itself, called after what leads elsewhere.
     *
     * @param list<ForeignKey> $leads
     * @param array<Key>       $keys
     * @param list<Index>      $indexes
     *
     * @return list<Index>
     */
    private static function ofLeads(array $leads, array $keys, array $indexes): array
    {
        $known = array_map(static fn (Key $key): array => $key->columns, $keys);
        foreach ($indexes as $index) {
            $known[] = array_map(static fn (IndexPart $part): string => $part->column, $index->parts);
        }
        $added = [];
        foreach ($leads as $lead) {
            $covers = static fn (array $columns): bool => \array_slice($columns, 0, \count($lead->columns)) === $lead->columns;
            if (null !== $lead->name && [] === array_filter($known, $covers)) {
                $added[$lead->name] = new Index(
                    $lead->name,
                    array_map(static fn (string $column): IndexPart => new IndexPart($column), $lead->columns),
                    false,
                    'btree',
                );
            }
        }

        return array_values($added);
    }

    /**
     * @param list<?string>         $columns
     * @param array<string, Column> $byName
     */
    private function index(string $key, WorkedTable $table, Lookup $lookup, array $columns, array $byName): Index
    {
        $parts = $named = [];
        foreach ($columns as $i => $column) {
            $part = $lookup->parts[$i] ?? null;
            $own = null === $column ? (string) $part?->column : $this->columns[$key][$column];
            if (null !== $column) {
                $named[] = $own;
            }
            $length = $part->length ?? (isset($byName[$own]) && '' === $lookup->method ? $this->dialect->types()->indexed($byName[$own]->type) : null);
            $parts[] = new IndexPart($own, $length, $part->descending ?? false);
        }
        $name = $this->constraint($table, $lookup->name, [$this->tables[$key], ...([] === $named ? ['expression'] : $named)], 'idx');
        $method = '' === $lookup->method ? 'btree' : $lookup->method;

        return new Index((string) $name, $parts, $lookup->unique, $method, $lookup->comment, $lookup->where);
    }

    // ---- values and conditions ----

    private function given(WorkedColumn $column, Native $native): ?string
    {
        if ($column->numbered && null === $column->given) {
            return null;
        }
        if ($column->whenMade || ($column->whenChanged && null === $column->given)) {
            return $this->manners->now($native->type);
        }

        if ($column->givenSql && 'NULL' === $column->given) {
            return null;
        }

        return null === $column->given || $column->givenSql ? $column->given : $this->literal($column->given, $column, $native);
    }

    /** A value as the engine writes one of that type. */
    private function literal(string $value, WorkedColumn $column, Native $native): string
    {
        return (new GivenValue($this->dialect))->written($value, $column->type, $native->type);
    }

    /** @return list<string> */
    private function checksOf(string $key, string $columnKey, WorkedColumn $column, Native $native, string $own): array
    {
        $sql = $this->dialect->writing();
        $quoted = $sql->name($own);
        $table = $this->worked->tables[$key];
        $led = [] !== array_filter($table->references, static fn (WorkedReference $reference): bool => \in_array($columnKey, $reference->columns, true));
        // A key that came from elsewhere is held by what it leads to.
        $checks = '' === $native->check || ($led && null === $column->attribute) || $column->numbered ? [] : [
            str_replace('%%', '%', str_replace('%s', $quoted, $native->check)),
        ];
        foreach ($column->limits as $limit) {
            $operator = Limit::WORDS[$limit->words];
            $other = null;
            foreach ($table->columns as $otherKey => $each) {
                if (Names::key($each->name) === Names::key($limit->than) && (!$limit->value || !is_numeric($limit->than))) {
                    $other = $sql->name($this->columns[$key][$otherKey]);
                }
            }
            if (null === $other && !$limit->value) {
                $this->warn(
                    $table,
                    $column->attribute->line ?? 0,
                    \sprintf('%s is %s “%s”, which %s does not have.', $column->name, $limit->words, $limit->than, mb_strtolower($table->name)),
                    'Write it below the thing, or put a value there.',
                    'limit',
                    true,
                );
                continue;
            }
            $checks[] = $quoted.' '.$operator.' '.($other ?? $this->literal($limit->than, $column, $native));
        }

        return $checks;
    }

    private function warn(WorkedTable $table, int $line, string $words, string $todo, string $check, bool $serious = false): void
    {
        $this->findings[] = new DesignFinding($check, $line, $words, $todo, $table->thing->name ?? $table->name, '', $serious);
    }

    /**
     * The script that makes it all, rows of lists and blocks of SQL included.
     *
     * @return list<ScriptStatement>
     */
    public function script(\Fasti\Core\Dialect\ScriptOptions $options = new \Fasti\Core\Dialect\ScriptOptions()): array
    {
        return (new DesignScript($this))->statements($options);
    }
}
