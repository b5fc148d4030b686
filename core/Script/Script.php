<?php

declare(strict_types=1);

namespace Fasti\Core\Script;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\CheckConstraint;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Index;
use Fasti\Core\Catalog\IndexPart;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Dialect\Grammar;
use Fasti\Core\Sql\Readings;
use Fasti\Core\Sql\SqlFault;
use Fasti\Core\Sql\Tokens;

/** What a script makes, statement by statement: feed it statements, then ask for the catalog. */
final class Script
{
    /** @var array<string, int> first words of statements that say nothing about structure → how many */
    public array $skipped = [];
    private readonly Schemas $made;
    private readonly Creating $creating;
    private readonly Altering $altering;

    /** @param string $schema for objects whose schema neither the script nor the dialect says */
    public function __construct(private readonly Grammar $dialect, string $schema = '')
    {
        $definitions = new Definitions($dialect);
        $this->made = new Schemas($dialect, $dialect->defaultSchema ?: $schema);
        $this->creating = new Creating($dialect, $this->made, $definitions);
        $this->altering = new Altering($this->made, $definitions);
    }

    /** @throws SqlFault the statement could not be read; whatever it would have made is left out */
    public function statement(string $text): void
    {
        $first = strtoupper(substr(ltrim($text), 0, 8));
        if (1 !== preg_match('/^(?:CREATE|ALTER|COMMENT|USE|SET|DROP|SELECT)\b/', $first)) {
            $word = 1 === preg_match('/^\s*([A-Za-z]+)/', $text, $m) ? strtoupper($m[1]) : 'OTHER';
            $this->skipped[$word] = ($this->skipped[$word] ?? 0) + 1;

            return;
        }
        $t = new Tokens($text, $this->dialect);
        $known = match (true) {
            $t->take('CREATE') => $this->creating->create($t),
            $t->take('ALTER') => $this->altering->alter($t),
            $t->take('COMMENT', 'ON') => $this->altering->comment($t),
            $t->take('USE') => $this->made->inSchema($t->name()),
            $t->take('SET', 'SEARCH_PATH') => $this->made->searchPath($t->rest()),
            $t->take('SELECT') => 1 === preg_match("/set_config\\('search_path',\\s*'([^']*)'/", $text, $m) ? $this->made->searchPath($m[1]) : false,
            $t->take('DROP') => $this->altering->drop($t),
            default => false,
        };
        if (!$known) {
            $word = strtok($first, " \t\n") ?: 'OTHER';
            $this->skipped[$word] = ($this->skipped[$word] ?? 0) + 1;
        }
    }

    /**
     * Tables that were read elsewhere, to which those of the script may refer.
     *
     * @param array<string, Table> $tables by name
     */
    public function beside(array $tables): void
    {
        $this->made->beside = $tables;
    }

    /** @param list<string> $notes */
    public function catalog(array $notes, string $server): Catalog
    {
        foreach ($this->made->partitions as $partition => $top) {
            while (isset($this->made->partitions[$top])) {
                $top = $this->made->partitions[$top];
            }
            [$schema, $name] = explode("\0", $top);
            if (isset($this->made->tables[$schema][$name]) && !\in_array($partition, $this->made->partitions, true)) {
                ++$this->made->tables[$schema][$name]->partitions;
            }
        }
        foreach ($this->made->tables as $schema => $tables) {
            foreach ($tables as $name => $table) {
                if (isset($this->made->partitions["$schema\0$name"]) || $this->made->isShadow($table)) {
                    unset($this->made->tables[$schema][$name]);
                    continue;
                }
                $this->finish($table);
            }
        }
        $result = $comments = [];
        ksort($this->made->tables, \SORT_STRING);
        foreach ($this->made->tables as $tables) {
            ksort($tables, \SORT_STRING);
            foreach ($tables as $table) {
                $comments[$table->schema."\0".$table->name] = array_filter(array_map(static fn (array $column): string => $column['comment'], $table->columns));
                $result[] = $table->table($this->made->primaryOf(...));
            }
        }
        $whole = new Catalog($this->dialect->engine, $server, [...$result, ...array_values($this->made->beside)], $this->made->routines);

        return $whole->with(tables: $this->viewed($result, new Readings($whole, $this->dialect), $comments), notes: $notes);
    }

    /**
     * @param list<Table>                         $tables
     * @param array<string, array<string, string>> $comments on columns, by the key of their table
     *
     * @return list<Table> in which views have the columns that follow from their queries
     */
    private function viewed(array $tables, Readings $readings, array $comments): array
    {
        return array_map(static fn (Table $table): Table => !$table->kind->isView() ? $table : $table->with(columns: array_map(
            static fn (Column $column): Column => $column->with(comment: $comments[$table->place()->key()][$column->name] ?? ''),
            $readings->columnsOf($table),
        )), $tables);
    }

    private function finish(TableBuilder $table): void
    {
        foreach ([] === $this->made->enums && [] === $this->made->domains ? [] : array_keys($table->columns) as $name) {
            $column = &$table->columns[$name];
            $bare = rtrim($column['type'], '[]');
            $array = $bare !== $column['type'];
            $plain = str_replace('"', '', $bare);
            $place = str_contains($plain, '.') ? $plain : $this->made->schema.'.'.$plain;
            if (isset($this->made->enums[$place]) || isset($this->made->domains[$place])) {
                $column['type'] = $place.($array ? '[]' : '');
                $column['base'] = isset($this->made->enums[$place]) ? $this->made->enums[$place].($array ? '[]' : '') : $this->made->enums[$this->made->domains[$place]['base']] ?? $this->made->domains[$place]['base'];
                foreach ($this->made->domains[$place]['checks'] ?? [] as $check) {
                    $table->checks[] = new CheckConstraint($check->name, $check->expression, $column['name']);
                }
            }
        }
        unset($column);
        if ($this->dialect->rowids) {
            $key = $table->primary->columns ?? [];
            $rowid = !$table->withoutRowid;
            $alias = $rowid && 1 === \count($key) && 'INTEGER' === strtoupper($table->columns[$key[0]]['type'] ?? '');
            $table->keyMayBeEmpty = $rowid && !$alias;
            if ($alias) {
                $table->columns[$key[0]]['auto'] = true;
            }
        }
        foreach ($table->checks as &$check) {
            if ('' === $check->name) {
                $mentions = static fn (string $name): bool => 1 === preg_match('/\b'.preg_quote($name, '/').'\b/', $check->expression);
                $used = array_values(array_filter(array_keys($table->columns), $mentions));
                $check = new CheckConstraint($this->dialect->checkName($table->name, $used), $check->expression, $check->column);
            }
        }
        unset($check);
        if (null !== $table->partitionKey) {
            $table->traits[] = $this->dialect->partitionedWords($table->partitionKey, $table->partitions);
        }
        if ($table->secured) {
            sort($table->policies);
            $table->traits[] = $this->dialect->securedWords($table->policies);
        }
        if ($this->dialect->indexesForeignKeys) {
            $this->indexForeignKeys($table);
        }
        if ($this->dialect->checksByName) {
            usort($table->checks, static fn (CheckConstraint $a, CheckConstraint $b): int => strcmp($a->name, $b->name));
        }
    }

    /** The engine makes an index for a foreign key that has none, and names it like the key. */
    private function indexForeignKeys(TableBuilder $table): void
    {
        foreach ($table->foreign as $key) {
            foreach ($table->indexes as $index) {
                if (\array_slice(array_map(static fn (IndexPart $part): string => $part->column, $index->parts), 0, \count($key['columns'])) === $key['columns']) {
                    continue 2;
                }
            }
            $table->indexes[] = new Index((string) $key['name'], array_map(static fn (string $column): IndexPart => new IndexPart($column), $key['columns']));
        }
    }

    /** @return array{name: string, type: string, nullable: bool, default: null, comment: string, auto: bool, generated: null, onUpdate: null, charset: null, collation: null, base: null} */
    public static function unknownColumn(string $name): array
    {
        return ['name' => $name, 'type' => '', 'nullable' => true, 'default' => null, 'comment' => '', 'auto' => false, 'generated' => null, 'onUpdate' => null, 'charset' => null, 'collation' => null, 'base' => null];
    }
}
