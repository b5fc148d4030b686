<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\ForeignKey;
use Fasti\Core\Catalog\Index;
use Fasti\Core\Catalog\IndexPart;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Catalog\Reference;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Dialect\Capabilities;
use Fasti\Core\Dialect\Dialect;
use Fasti\Core\Dialect\Dialects;
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
    public readonly Capabilities $capabilities;

    public readonly PhysicalTables $made;

    /** @param array<string, string> $short abbreviations: word → short form */
    public function __construct(public readonly Worked $worked, public readonly Dialect $dialect, array $short = [], private readonly string $schema = '')
    {
        $this->made = new PhysicalTables($this);
        $this->capabilities = $dialect->capabilities();
        $this->names = new Identifiers($worked->design->rules, $dialect->longestName(), $short);
        $this->beyond = $this->capabilities->oneWay ? OneWay::beyond($worked->tables) : [];
        $this->name();
        $tables = [];
        foreach ($worked->tables as $key => $table) {
            $tables[] = $this->made->table((string) $key, $table);
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
        return '' === $design->engine ? Dialects::usual() : Dialects::of($design->engine);
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
            default => $this->capabilities->schema,
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
    public function constraint(WorkedTable $table, ?string $given, array $parts, string $what): ?string
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

    public function native(WorkedColumn $column): Native
    {
        $types = $this->dialect->types();
        if ($this->worked->design->rules->is('lists', 'types') && [] !== $column->type->members) {
            $own = $types->ownList($column->type->members, 'any of' === $column->type->kind);
            if (null !== $own) {
                return new Native($own);
            }
        }
        if ($column->numbered && null !== $this->capabilities->numbers) {
            return new Native('native' === $column->type->kind ? $column->type->native : $this->capabilities->numbers);
        }

        return $types->native($column->type);
    }

    public function foreignKey(string $key, WorkedTable $table, WorkedReference $reference): ForeignKey
    {
        $far = $this->worked->tables[$reference->to];
        $asked = 'RESTRICT' === $reference->onDelete && null === $reference->join?->onDelete && !$this->capabilities->refuses
            ? 'NO ACTION'
            : $reference->onDelete;
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

        return new ForeignKey($name, $this->made->nonEmpty($this->named($key, $reference->columns)),
            new Reference(
                $this->schemaOf($far->schema),
                $this->tables[$reference->to],
                $this->made->nonEmpty($this->named($reference->to, $reference->toColumns)),
            ),
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
    public static function ofForeignKeys(array $leads, array $keys, array $indexes): array
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
    public function index(string $key, WorkedTable $table, Lookup $lookup, array $columns, array $byName): Index
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

    public function given(WorkedColumn $column, Native $native): ?string
    {
        if ($column->numbered && null === $column->given) {
            return null;
        }
        if ($column->whenMade || ($column->whenChanged && null === $column->given)) {
            return $this->capabilities->now($native->type);
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
    public function checksOf(string $key, string $columnKey, WorkedColumn $column, Native $native, string $own): array
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

    public function warn(WorkedTable $table, int $line, string $words, string $todo, string $check, bool $serious = false): void
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
