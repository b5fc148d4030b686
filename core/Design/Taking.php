<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\CheckConstraint;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\ForeignKey;
use Fasti\Core\Catalog\Index;
use Fasti\Core\Catalog\IndexPart;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Dialect\Dialect;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Dialect\GeneralType;
use Fasti\Core\Dialect\Native;
use Fasti\Core\Dialect\ScriptOptions;
use Fasti\Core\Dialect\ScriptStatement;
use Fasti\Core\Sql\ReadField;
use Fasti\Core\Sql\Readings;
use Fasti\Core\Wording\Naming;
use Fasti\Core\Wording\Noun;

/** Takes what there is into a design: tables as things, keys that lead elsewhere as sentences, what no sentence says as SQL. */
final class Taking
{
    private const STYLES = ['snake', 'capitals', 'camel', 'pascal', 'plain'];

    private readonly Dialect $dialect;
    private Rules $rules;
    private Identifiers $names;
    /** @var array<string, string> key of a place → name of its thing */
    private array $things = [];
    /** @var array<string, array<string, string>> key of a place → column → name of its attribute */
    private array $attributes = [];
    private bool $places;
    /** @var list<string> what a design cannot hold of it, in sentences */
    private array $notes = [];

    /**
     * @param string $source what its entries are called by: `fieldwork`; '' for a source that is in no register
     */
    private function __construct(private readonly Catalog $catalog, private readonly string $source, private readonly TakenWords $words)
    {
        $this->dialect = Dialects::ofCatalog($catalog);
        $schemas = array_unique(array_map(static fn (Table $table): string => $table->schema, $catalog->tables));
        $home = $this->dialect->capabilities()->home ?? ($schemas[0] ?? '');
        $this->places = \count($schemas) > 1 || (1 === \count($schemas) && !\in_array($home, $schemas, true));
        $this->rules = $this->rules();
        $this->names = new Identifiers($this->rules, $this->dialect->longestName());
    }

    /** @return array{Design, list<string>} the design, and what it cannot hold, in sentences */
    public static function of(Catalog $catalog, string $source = '', ?TakenWords $words = null): array
    {
        $self = new self($catalog, $source, $words ?? new TakenWords());
        $design = $self->design();

        return [$design, $self->notes];
    }

    private function design(): Design
    {
        $tables = array_values(array_filter($this->catalog->tables, static fn (Table $table): bool => !$table->kind->isView()));
        foreach ($tables as $table) {
            $this->name($table);
        }
        $things = $joins = $collations = [];
        foreach ($tables as $table) {
            if (null !== $table->collation) {
                $collations[$table->collation] = 1 + ($collations[$table->collation] ?? 0);
            }
        }
        arsort($collations);
        $sorted = array_key_first($collations);
        foreach ($tables as $table) {
            $things[] = $this->thing($table, $sorted);
            foreach ($table->foreignKeys as $key) {
                $join = $this->join($table, $key);
                if (null !== $join) {
                    $joins[] = $join;
                }
            }
        }

        return new Design(
            match (true) {
                '' !== $this->words->name => $this->words->name,
                '' === $this->source => $this->dialect->label(),
                default => $this->source,
            },
            $this->words->purpose,
            $this->catalog->engine,
            $this->source,
            $this->rules,
            $things,
            $joins,
            blocks: $this->blocks(),
            sorted: $sorted,
        );
    }

    /** By which most names are made; what is named otherwise says so. */
    private function rules(): Rules
    {
        $set = ['keys' => 'natural', 'indexes' => 'no', 'deleting' => 'refused'];
        $actions = $changes = $styles = [];
        $plural = $singular = 0;
        foreach ($this->catalog->tables as $table) {
            if ($table->kind->isView()) {
                continue;
            }
            foreach ($table->foreignKeys as $key) {
                $actions[$key->onDelete] = 1 + ($actions[$key->onDelete] ?? 0);
                $changes[$key->onUpdate] = 1 + ($changes[$key->onUpdate] ?? 0);
            }
            $words = Naming::words($table->name);
            $last = (string) end($words);
            if ('' !== $last && Noun::plural(Noun::singular($last)) === $last) {
                ++$plural;
            } else {
                ++$singular;
            }
            foreach ([$table->name, ...array_map(static fn (Column $column): string => $column->name, $table->columns)] as $name) {
                foreach (self::STYLES as $style) {
                    $names = new Identifiers(new Rules(['style' => $style]), 1000);
                    if ($names->column(implode(' ', Naming::words($name))) === $name) {
                        $styles[$style] = 1 + ($styles[$style] ?? 0);
                    }
                }
            }
        }
        arsort($actions);
        arsort($changes);
        $set['changing'] = ['RESTRICT' => 'refused', 'CASCADE' => 'follows'][array_key_first($changes) ?? ''] ?? 'in the end';
        $by = ['NO ACTION' => 'in the end', 'CASCADE' => 'deletes', 'SET NULL' => 'empties'];
        $set['deleting'] = $by[array_key_first($actions) ?? ''] ?? 'refused';
        foreach (self::STYLES as $style) {
            if (($styles[$style] ?? 0) === max([0, ...array_values($styles)])) {
                $set['style'] = $style;
                break;
            }
        }
        $set['number'] = $plural > $singular ? 'plural' : 'singular';

        return new Rules(array_filter($set, static fn (string $setting, string $rule): bool => Rules::usual($rule) !== $setting, \ARRAY_FILTER_USE_BOTH));
    }

    // ---- names ----

    private function name(Table $table): void
    {
        $place = $table->place()->key();
        $said = $this->words->thing($place);
        $words = Naming::words($table->name);
        $this->things[$place] = self::free(
            '' !== $said ? $said : self::spoken(Noun::singular(implode(' ', $words)), $table->name),
            $table->name,
            $this->things,
        );
        $this->attributes[$place] = [];
        foreach ($table->columns as $column) {
            $name = implode(' ', Naming::words($column->name));
            $this->attributes[$place][$column->name] = self::free(
                '' === $name ? $column->name : $name,
                $column->name,
                $this->attributes[$place],
            );
        }
    }

    private static function spoken(string $words, string $name): string
    {
        return '' === $words ? $name : mb_strtoupper(mb_substr($words, 0, 1)).mb_substr($words, 1);
    }

    /**
     * A name that means no other of those that there are.
     *
     * @param array<string, string> $taken
     */
    private static function free(string $name, string $plain, array $taken): string
    {
        $keys = array_flip(array_map(Names::key(...), $taken));
        // What an outline would not give back stays as it is in the database.
        $name = 1 === preg_match('/[\x00-\x1f\x{E000}]|^\s|\s$|\s\s/u', $name) ? trim(preg_replace('/[\s\x{E000}]+/u', ' ', $name) ?? $name) : $name;
        if ('' === $name) {
            $name = 'unnamed';
        }
        if (!isset($keys[Names::key($name)])) {
            return $name;
        }
        $plain = trim(preg_replace('/[\s\x{E000}]+/u', ' ', $plain) ?? $plain);
        for ($n = 2, $try = $plain; '' === $try || isset($keys[Names::key($try)]); ++$n) {
            $try = "$name $n";
        }

        return $try;
    }

    // ---- things ----

    private function thing(Table $table, ?string $sorted): Thing
    {
        $place = $table->place()->key();
        $name = $this->things[$place];
        $attributes = [];
        foreach ($table->columns as $column) {
            $attributes[] = $this->attribute($table, $column);
        }
        $keys = [];
        $keyed = null;
        $capabilities = $this->dialect->capabilities();
        $primary = $table->primaryKey;
        if (null !== $primary) {
            $usual = match (true) {
                null !== $capabilities->primary => $primary->name,
                $capabilities->primaryNamed => $this->names->constraint([$table->name], 'pkey'),
                default => null,
            };
            $keys[] = $this->identifier($table, $primary, $primary->name === $usual ? null : (string) $primary->name);
        } else {
            $keyed = 'none';
        }
        foreach ($table->uniqueKeys as $key) {
            $usual = $this->names->constraint([$table->name, ...$key->columns], 'key');
            $keys[] = $this->identifier($table, $key, $key->name === $usual ? null : (string) $key->name);
        }
        foreach ($this->dialect->writing()->missing($table) as $what) {
            $this->notes[] = \sprintf('%s: %s. No sentence says this, and no script makes it.', $table->place(), rtrim($what, '.'));
        }
        $said = $this->words->texts($place);
        $stored = $capabilities->traits ? implode(', ', $table->traits) : $table->storage;

        return new Thing(
            $name,
            $said['grain'] ?? '',
            '' !== ($said['meaning'] ?? '') ? $said['meaning'] : $table->comment,
            $attributes,
            $keys,
            $this->lookups($table),
            array_map(fn (CheckConstraint $check): Always => $this->condition($table, $check), $table->checks),
            triggers: $table->triggers,
            keyed: $keyed,
            table: $this->names->table($name) === $table->name ? null : $table->name,
            schema: $this->places ? $table->schema : '',
            stored: '' === (string) $stored || $stored === $capabilities->storage ? null : $stored,
            sorted: $table->collation === $sorted ? null : $table->collation,
            from: '' === $this->source ? '' : $this->source.'.'.$table->name,
        );
    }

    private function attribute(Table $table, Column $column): Attribute
    {
        $place = $table->place()->key();
        $name = $this->attributes[$place][$column->name];
        $type = $this->type($table, $column);
        $given = null === $column->default ? null : (new GivenValue($this->dialect))->said(
            $this->dialect->types()->bare($column->default, $column->type),
            $type,
            $column->type,
        );
        $capabilities = $this->dialect->capabilities();
        $changed = null !== $column->onUpdate && $capabilities->setsChanged && $column->onUpdate === $capabilities->now($column->type);
        $made = 'now' === $given;
        $sql = null !== $column->default && null === $given;
        if ($changed && null === $column->default) {
            $given = 'NULL';
            $sql = true;
        }
        $keyed = \in_array($column->name, $table->primaryKey->columns ?? [], true);
        $text = $this->words->texts($place)['fields'][$column->name] ?? '';

        return new Attribute(
            $name,
            $type,
            required: !$column->nullable && !$keyed,
            mayBeEmpty: $keyed && $column->nullable,
            given: match (true) {
                $made => null,
                $sql => $column->default ?? 'NULL',
                default => $given,
            },
            givenSql: $sql,
            whenMade: $made && !$changed,
            whenChanged: $changed,
            numbered: $column->autoNumbered,
            computed: $column->generated?->expression,
            whenRead: null !== $column->generated && !$column->generated->stored,
            meaning: '' !== $text ? $text : $column->comment,
            column: $this->names->column($name) === $column->name ? null : $column->name,
            charset: $column->charset,
            sorted: $column->collation,
        );
    }

    /** In plain words, where they lead back to the same type. */
    private function type(Table $table, Column $column): GeneralType
    {
        $types = $this->dialect->types();
        $type = null === $column->base ? $types->general($column) : null;
        if (null === $type || ([] !== $type->members && !$this->membersStand($type))) {
            return GeneralType::native($column->type);
        }
        if ('native' !== $type->kind && $this->isKeyed($table, $column) && $types->inKey(new Native($column->type))?->type !== $column->type) {
            return GeneralType::native($column->type);
        }

        return $type;
    }

    private function isKeyed(Table $table, Column $column): bool
    {
        foreach ([...array_filter([$table->primaryKey]), ...$table->uniqueKeys, ...$table->foreignKeys] as $key) {
            if (\in_array($column->name, $key->columns, true)) {
                return true;
            }
        }

        return false;
    }

    /** An own list of values is kept as one: the rule says that lists are types of the engine. */
    private function membersStand(GeneralType $type): bool
    {
        if (null === $this->dialect->types()->ownList($type->members, 'any of' === $type->kind)) {
            return false;
        }
        $this->rules = $this->rules->set('lists', 'types');

        return true;
    }

    private function identifier(Table $table, Key $key, ?string $name): Identifier
    {
        return new Identifier(array_map(fn (string $column): string => $this->attributes[$table->place()->key()][$column] ?? $column, $key->columns), $name);
    }

    /** @return list<Lookup> */
    private function lookups(Table $table): array
    {
        $lookups = [];
        $primary = $table->primaryKey;
        $named = null === $primary ? null : new Key($primary->name ?? $this->dialect->capabilities()->primary, $primary->columns);
        $keys = array_filter([$named, ...$table->uniqueKeys]);
        foreach ($table->indexes as $index) {
            if ([] === array_filter($keys, static fn (Key $key): bool => self::isOf($index, $key))) {
                $lookups[] = $this->lookup($table, $index);
            }
        }

        return $lookups;
    }

    private static function isOf(Index $index, Key $key): bool
    {
        foreach ($index->parts as $part) {
            if (null !== $part->length || $part->descending) {
                return false;
            }
        }

        return $index->unique && null === $index->where && '' === $index->comment && 'btree' === $index->method && $key->name === $index->name
            && $key->columns === array_map(static fn (IndexPart $part): string => $part->column, $index->parts);
    }

    private function lookup(Table $table, Index $index): Lookup
    {
        $known = $this->attributes[$table->place()->key()];
        $parts = $sql = $columns = [];
        foreach ($index->parts as $i => $part) {
            if (isset($known[$part->column])) {
                $columns[] = $part->column;
            } else {
                $sql[] = $i;
            }
            $parts[] = new IndexPart($known[$part->column] ?? $part->column, $part->length, $part->descending);
        }
        $usual = $this->names->constraint([$table->name, ...([] === $columns ? ['expression'] : $columns)], 'idx');

        return new Lookup(
            $parts, $sql, $index->name === $usual ? null : $index->name, $index->unique, 'btree' === $index->method ? '' : $index->method, $index->where,
            $index->comment,
        );
    }

    private function condition(Table $table, CheckConstraint $check): Always
    {
        $of = null === $check->column ? null : ($this->attributes[$table->place()->key()][$check->column] ?? null);

        return new Always($check->expression, null !== $of && $this->dialect->capabilities()->ownConditions ? null : $check->name, $of);
    }

    // ---- joins ----

    private function join(Table $table, ForeignKey $key): ?DesignJoin
    {
        $place = $key->references->place()->key();
        $own = $this->attributes[$table->place()->key()];
        if (!isset($this->things[$place])) {
            $this->notes[] = \sprintf('%s leads to %s, which is not part of this design.', $table->place(), $key->references->place());

            return null;
        }
        if (\in_array('', $key->references->columns, true)) {
            $this->notes[] = \sprintf('%s leads to %s, which has no key to lead to.', $table->place(), $key->references->place());

            return null;
        }
        $far = $this->catalog->table($key->references->schema, $key->references->table);
        $required = [] === array_filter(
            $table->columns,
            static fn (Column $column): bool => \in_array($column->name, $key->columns, true) && $column->nullable,
        );
        $unique = [] !== array_filter(
            array_filter([$table->primaryKey, ...$table->uniqueKeys]),
            static fn (Key $each): bool => [] === array_diff($each->columns, $key->columns),
        );
        $led = array_map(static fn (string $column): string => $own[$column] ?? $column, $key->columns);
        $to = array_map(fn (string $column): string => $this->attributes[$place][$column] ?? $column, $key->references->columns);
        $sameKey = $key->references->columns === ($far->primaryKey->columns ?? []);
        $usual = $this->names->constraint([$table->name, ...$key->columns], 'fkey');
        $deleting = ['refused' => 'RESTRICT', 'in the end' => 'NO ACTION', 'deletes' => 'CASCADE', 'empties' => 'SET NULL'][$this->rules->of('deleting')];
        $changing = ['refused' => 'RESTRICT', 'in the end' => 'NO ACTION', 'follows' => 'CASCADE'][$this->rules->of('changing')] ?? '';

        return new DesignJoin(
            $this->things[$table->place()->key()],
            'leads to',
            new Count($required ? 1 : 0, 1),
            $this->things[$place],
            'is referred to by',
            new Count(0, $unique ? 1 : null),
            $this->role($led, $this->things[$place]),
            through: $led,
            key: $sameKey ? [] : $to,
            constraint: $key->name === $usual ? null : (string) $key->name,
            onDelete: $key->onDelete === $deleting ? null : $key->onDelete,
            onUpdate: $key->onUpdate === $changing ? null : $key->onUpdate,
        );
    }

    /**
     * What a parent is to the child, by the name of the field that leads to it: "home station" of home_station_id.
     *
     * @param list<string> $led
     */
    private function role(array $led, string $parent): string
    {
        if (1 !== \count($led)) {
            return '';
        }
        $role = trim(preg_replace('/ (?:id|no|nr|number|code|key|fk|ref)$/u', '', $led[0]) ?? '');

        return '' === $role || Names::key($role) === Names::key($parent) || Names::key($led[0]) === Names::key($role) ? '' : $role;
    }

    // ---- what no sentence says ----

    /** @return list<SqlBlock> */
    private function blocks(): array
    {
        $writing = $this->dialect->writing(new ScriptOptions(places: $this->places));
        $views = [];
        foreach ($this->catalog->tables as $table) {
            if ($table->kind->isView()) {
                $views[$table->place()->key()] = $table;
            }
        }
        $tables = array_diff_key($this->things, $views);
        $bare = [];
        foreach ($this->catalog->tables as $table) {
            // Types of one's own are blocks, and so are their schemas.
            if (!$table->kind->isView()) {
                $bare[] = $table->with(
                    columns: array_map(static fn (Column $column): Column => $column->with(base: null), $table->columns),
                );
            }
        }
        $own = array_map(
            static fn (ScriptStatement $statement): string => $statement->sql,
            $writing->catalog($this->catalog->with(tables: $bare, routines: [])),
        );
        $blocks = [];
        $first = true;
        foreach ($writing->catalog($this->catalog) as $statement) {
            $first = $first && 'table' !== $statement->kind;
            $known = isset($tables[$statement->about?->key() ?? '']) && \in_array($statement->sql, $own, true);
            $known = $known || ('schema' === $statement->kind && \in_array($statement->sql, $own, true));
            $block = $known ? null : $this->block($statement, $views[$statement->about?->key() ?? ''] ?? null, $first);
            if (null !== $block) {
                $blocks[] = $block;
            }
        }
        foreach ($writing->notes(new Catalog($this->catalog->engine, '', [], $this->catalog->routines)) as $note) {
            $this->notes[] = $note;
        }

        return $blocks;
    }

    private function block(ScriptStatement $statement, ?Table $view, bool $first): ?SqlBlock
    {
        $engine = $this->catalog->engine;
        $name = $statement->about->name ?? $statement->kind;
        if (null !== $view && 'view' === $statement->kind) {
            $schema = $this->places ? $view->schema : '';

            return new SqlBlock($view->kind->value, $view->name, (string) $view->definition, $schema, $engine, false, $view->comment, $this->shown($view));
        }
        if (null !== $view && 'comment' === $statement->kind && 1 === preg_match('/^COMMENT ON (?:MATERIALIZED )?VIEW/i', $statement->sql)) {
            return null;
        }

        return match ($statement->kind) {
            'type' => new SqlBlock('type', $name, $statement->sql, '', $engine, true),
            'routine' => new SqlBlock('routine', $name, $statement->sql, '', $engine, $first),
            'schema' => new SqlBlock('statement', $name, $statement->sql, '', $engine, true),
            'setting' => null,
            default => new SqlBlock('statement', $name, $statement->sql, '', $engine),
        };
    }

    /** @return list<string> names that a view gives otherwise than its query */
    private function shown(Table $view): array
    {
        $names = array_map(static fn (Column $column): string => $column->name, $view->columns);
        $reading = (new Readings($this->catalog))->of($view->with(columns: []));
        $queried = array_map(static fn (ReadField $field): string => $field->name, $reading->fields);

        return $queried === $names ? [] : $names;
    }
}
