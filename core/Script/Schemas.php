<?php

declare(strict_types=1);

namespace Fasti\Core\Script;

use Fasti\Core\Catalog\CheckConstraint;
use Fasti\Core\Catalog\Routine;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Dialect\Grammar;
use Fasti\Core\Sql\Tokens;

/**
 * What a script has made so far, and the schema in which it is at work.
 *
 * @phpstan-import-type Far from TableBuilder
 */
final class Schemas
{
    /** @var array<string, array<string, TableBuilder>> schema → name → table, in the order of the script */
    public array $tables = [];
    /** @var list<Routine> */
    public array $routines = [];
    /** @var array<string, string> qualified name → `enum(…)` */
    public array $enums = [];
    /** @var array<string, array{base: string, checks: list<CheckConstraint>}> */
    public array $domains = [];
    /** @var array<string, string> place of each partition, which is no entry of its own → that of its table */
    public array $partitions = [];
    /** @var array<string, Table> tables that were read elsewhere, by name */
    public array $beside = [];

    public function __construct(private readonly Grammar $dialect, public string $schema)
    {
    }

    /** @return array{string, string} schema and name */
    public function place(Tokens $t): array
    {
        [$schema, $name] = $t->qualified();

        return [$schema ?? $this->schema, $name];
    }

    public function known(Tokens $t, string $schema, string $name): TableBuilder
    {
        return $this->tables[$schema][$name] ?? throw $t->fault(\sprintf('The table “%s” is not known: no statement before this one makes it', '' === $schema ? $name : "$schema.$name"));
    }

    public function attach(string $parentSchema, string $parent, string $schema, string $name): void
    {
        $this->partitions["$schema\0$name"] = "$parentSchema\0$parent";
    }

    public function inherit(TableBuilder $table, string $schema, string $parent): void
    {
        $table->traits[] = \sprintf('inherits from %s.%s', $schema, $parent);
        $of = $this->tables[$schema][$parent] ?? null;
        if (null !== $of) {
            $table->columns = array_merge($of->columns, $table->columns);
            $table->checks = [...$of->checks, ...$table->checks];
        }
    }

    /**
     * @param Far $key
     *
     * @return list<string>
     */
    public function primaryOf(array $key): array
    {
        if (isset($this->beside[$key['table']])) {
            return $this->beside[$key['table']]->primaryKey->columns ?? [];
        }
        foreach (null === $key['schema'] ? array_keys($this->tables) : [$key['schema']] as $schema) {
            if (isset($this->tables[$schema][$key['table']])) {
                return $this->tables[$schema][$key['table']]->primary->columns ?? [];
            }
        }

        return [];
    }

    /** SQLite keeps the content of a virtual table in tables of its own, which are its affair. */
    public function isShadow(TableBuilder $table): bool
    {
        if (!$this->dialect->shadowTables || 1 !== preg_match(
            '/^sqlite_|^(.+)_(?:data|idx|content|docsize|config|segments|segdir|stat|node|rowid|parent)$/',
            $table->name,
            $m,
        )) {
            return false;
        }

        return str_starts_with($table->name, 'sqlite_') || true === ($this->tables[$table->schema][$m[1] ?? ''] ?? null)?->virtual;
    }

    public function inSchema(string $name): bool
    {
        $this->schema = $name;

        return true;
    }

    public function searchPath(string $path): bool
    {
        $first = trim(strtok(ltrim($path, " =\tTOto"), ',') ?: '', " \"';");
        if ('' !== $first && '$user' !== $first) {
            $this->schema = $first;
        }

        return true;
    }
}
