<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\Type;
use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Dialect\AskSql;
use Fasti\Core\Dialect\Dialect;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Model\Aggregate\Ratio;
use Fasti\Core\Sql\Tree\Ref;

/** A model on the tables that it stands on: what its names mean there. */
final class Ground
{
    public readonly Dialect $dialect;
    /** @var array<string, Table> by Place::key() */
    private array $tables = [];
    /** @var array<string, Role> */
    private array $roles = [];
    /** @var array<string, string> folded → name */
    private array $folded = [];
    /** @var array<string, Formula> */
    private array $formulas = [];
    /** @var array<string, true> measures whose expressions are being read */
    private array $reading = [];
    private ?Ways $ways = null;
    private ?ModelNames $names = null;
    private ?Grains $grains = null;
    /** @var array<string, ?CodeLabels> by role and attribute */
    private array $labels = [];

    /**
     * @param array<string, string> $units  FieldPlace::key() → unit
     * @param array<string, string> $closed FieldPlace::key() → why no question may touch the field
     * @param (\Closure(string): array<array-key, string>)|null $codes FieldPlace::key() → codes with their labels, of fields that a code list is said of
     */
    public function __construct(
        public readonly Model $model,
        public readonly Catalog $catalog,
        public readonly array $units = [],
        public readonly array $closed = [],
        private readonly ?\Closure $codes = null,
    ) {
        $this->dialect = Dialects::of($catalog->engine);
        foreach ($catalog->tables as $table) {
            $this->tables[$table->place()->key()] = $table;
        }
        foreach ($model->roles as $role) {
            $this->roles[$role->name] = $role;
            $this->folded[ModelNames::folded($role->name)] ??= $role->name;
        }
    }

    /** @throws ModelError where the source is none that can be asked */
    public function sql(): AskSql
    {
        return $this->dialect->asking() ?? throw new ModelError(\sprintf(
            '%s cannot be asked questions, only read. Load the files into a database, and let the model stand on that.',
            $this->dialect->label(),
        ));
    }

    public function ways(): Ways
    {
        return $this->ways ??= new Ways($this);
    }

    public function grains(): Grains
    {
        return $this->grains ??= new Grains($this);
    }

    public function names(): ModelNames
    {
        return $this->names ??= new ModelNames($this->model);
    }

    public function role(string $name): Role
    {
        return $this->roles[$name] ?? throw new ModelError(\sprintf('The model has no role “%s”.', $name));
    }

    public function roleNamed(string $name): ?string
    {
        return isset($this->roles[$name]) ? $name : ($this->folded[ModelNames::folded($name)] ?? null);
    }

    /** @return list<string> */
    public function roleNames(): array
    {
        return array_map(strval(...), array_keys($this->roles));
    }

    public function table(string $role): ?Table
    {
        return isset($this->roles[$role]) ? ($this->tables[$this->roles[$role]->entry->key()] ?? null) : null;
    }

    /** By its exact name, or by the only one that differs in case alone. */
    public function column(string $role, string $name): ?Column
    {
        $table = $this->table($role);
        $exact = $table?->column($name);
        if (null !== $exact || null === $table) {
            return $exact;
        }
        $alike = array_values(array_filter($table->columns, static fn (Column $column): bool => 0 === strcasecmp($column->name, $name)));

        return 1 === \count($alike) ? $alike[0] : null;
    }

    /** The condition of a join that leads from some rows alone, after the alias of those; '' where it leads from all. */
    public function only(ModelJoin $join): string
    {
        if ([] === $join->where) {
            return '';
        }
        [$field, $value] = $join->where;
        $column = $this->column($join->from, $field);
        $numeric = null !== $column && $this->typeOf($column)->family->isNumeric() && is_numeric($value);

        return '.'.$this->sql()->name($field).' = '.($numeric ? $value : $this->sql()->text($value));
    }

    public function typeOf(Column $column): Type
    {
        return $this->dialect->typeOf($column);
    }

    public function unit(string $role, string $column): string
    {
        return isset($this->roles[$role]) ? ($this->units[$this->roles[$role]->entry->key()."\0".$column] ?? '') : '';
    }

    /** Why no question may touch a field; '' where it may. */
    public function closed(string $role, string $column): string
    {
        return isset($this->roles[$role]) ? ($this->closed[$this->roles[$role]->entry->key()."\0".$column] ?? '') : '';
    }

    /** Of an attribute that is a field with a code list, and nothing else; null where it is none. */
    public function labels(Level $level): ?CodeLabels
    {
        $key = "$level->role\0$level->attribute";
        if (!\array_key_exists($key, $this->labels)) {
            $codes = $this->codes($level);
            $this->labels[$key] = [] === array_filter($codes) ? null : new CodeLabels($codes);
        }

        return $this->labels[$key];
    }

    /** @return array<string, array<array-key, string>> FieldPlace::key() → codes with their labels, of all that a trial is split or limited by */
    public function codesIn(Trial $trial): array
    {
        $found = [];
        foreach ($trial->named() as $name) {
            $level = $this->names()->has($name) && null === $this->names()->measure($name) ? $this->names()->attribute($name) : null;
            if (null !== $level) {
                $found += [$this->fieldOf($level) => $this->codes($level)];
            }
        }

        return array_filter($found);
    }

    /** @return array<array-key, string> */
    private function codes(Level $level): array
    {
        $field = null === $this->codes ? '' : $this->fieldOf($level);

        return '' === $field || null === $this->codes ? [] : ($this->codes)($field);
    }

    /** FieldPlace::key() of the one field that an attribute is; '' where it is computed. */
    private function fieldOf(Level $level): string
    {
        $formula = $this->formula($level->role, $this->model->attribute($level)->expression ?? '');
        $use = $formula->tree instanceof Ref && [] === $formula->faults ? ($formula->fields[0] ?? null) : null;
        $entry = null === $use ? null : ($this->roles[$use->role] ?? null)?->entry;

        return null === $use || null === $entry ? '' : $entry->key()."\0".$use->column;
    }

    public function formula(string $role, string $text): Formula
    {
        return $this->formulas["$role\0$text"] ??= (new FormulaReader($this, $role))->read($text);
    }

    /** An expression over measures. */
    public function formulaOfMeasures(string $text): Formula
    {
        return $this->formulas["\0$text"] ??= (new FormulaReader($this, null))->read($text);
    }

    /** The type of a figure. */
    public function familyOf(Measure $measure): TypeFamily
    {
        return $measure->aggregation->family($this->valuesOf($measure)->family ?? TypeFamily::Other);
    }

    /** The unit of a figure: what is said, or what comes of its expression. */
    public function unitOf(Measure $measure): string
    {
        return '' !== $measure->unit ? $measure->unit : $measure->aggregation->unit($this->valuesOf($measure)->unit ?? '');
    }

    private function valuesOf(Measure $measure): ?Formula
    {
        if ('' === trim($measure->expression) || $measure->aggregation instanceof Ratio) {
            return null;
        }
        if (!$measure->aggregation->isOfMeasures()) {
            return $this->formula($measure->fact, $measure->expression);
        }
        // One that is made of itself has no type; the question refuses it.
        if (isset($this->reading[$measure->name])) {
            return null;
        }
        $this->reading[$measure->name] = true;
        $formula = $this->formulaOfMeasures($measure->expression);
        unset($this->reading[$measure->name]);

        return $formula;
    }

    /**
     * Whether constraints see to it that such values stand in one row only.
     *
     * @param list<string> $fields
     */
    public function unique(string $role, array $fields): bool
    {
        $table = $this->table($role);
        if (null === $table || $table->kind->isView()) {
            return false;
        }
        foreach ([...(null === $table->primaryKey ? [] : [$table->primaryKey]), ...$table->uniqueKeys] as $key) {
            if (self::within($key, $fields)) {
                return true;
            }
        }

        return false;
    }

    /** @param list<string> $fields */
    private static function within(Key $key, array $fields): bool
    {
        return [] !== $key->columns && [] === array_diff($key->columns, $fields);
    }
}
