<?php

declare(strict_types=1);

namespace Fasti\Core\Script;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Check;
use Fasti\Core\Catalog\Index;
use Fasti\Core\Catalog\IndexPart;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Catalog\Kind;
use Fasti\Core\Catalog\Routine;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\Trigger;
use Fasti\Core\Survey\PostgreSqlReader;

/**
 * What a script makes, statement by statement: feed it statements, then ask for the catalog.
 *
 * @phpstan-import-type Far from Draft
 */
final class Script
{
    /** @var array<string, array<string, Draft>> schema → name → table, in the order of the script */
    private array $tables = [];
    /** @var list<Routine> */
    private array $routines = [];
    /** @var array<string, string> qualified name → `enum(…)` */
    private array $enums = [];
    /** @var array<string, array{base: string, checks: list<Check>}> */
    private array $domains = [];
    /** @var array<string, string> `schema.table` of each partition, which is no entry of its own → that of its table */
    private array $partitions = [];
    /** @var array<string, int> first words of statements that say nothing about structure → how many */
    public array $skipped = [];
    /** @var array<string, Table> */
    private array $beside = [];
    private string $schema;
    private readonly Definitions $definitions;

    /** @param string $schema for objects whose schema neither the script nor the dialect says */
    public function __construct(private readonly Dialect $dialect, string $schema = '')
    {
        $this->schema = $dialect->defaultSchema() ?: $schema;
        $this->definitions = new Definitions($dialect);
    }

    /** @throws ScriptFault the statement could not be read; whatever it would have made is left out */
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
            $t->take('CREATE') => $this->create($t),
            $t->take('ALTER') => $this->alter($t),
            $t->take('COMMENT', 'ON') => $this->comment($t),
            $t->take('USE') => $this->inSchema($t->name()),
            $t->take('SET', 'SEARCH_PATH') => $this->searchPath($t->rest()),
            $t->take('SELECT') => 1 === preg_match("/set_config\\('search_path',\\s*'([^']*)'/", $text, $m) ? $this->searchPath($m[1]) : false,
            $t->take('DROP') => $this->drop($t),
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
        $this->beside = $tables;
    }

    /** @param list<string> $notes */
    public function catalog(array $notes, string $server): Catalog
    {
        foreach ($this->partitions as $partition => $top) {
            while (isset($this->partitions[$top])) {
                $top = $this->partitions[$top];
            }
            [$schema, $name] = explode("\0", $top);
            if (isset($this->tables[$schema][$name]) && !\in_array($partition, $this->partitions, true)) {
                ++$this->tables[$schema][$name]->partitions;
            }
        }
        foreach ($this->tables as $schema => $tables) {
            foreach ($tables as $name => $table) {
                if (isset($this->partitions["$schema\0$name"]) || $this->isShadow($table)) {
                    unset($this->tables[$schema][$name]);
                    continue;
                }
                $this->finish($table);
            }
        }
        foreach ($this->tables as $tables) {
            foreach ($tables as $table) {
                if ($table->kind->isView()) {
                    $table->columns = (new ViewColumns($this->dialect))->of($table, fn (?string $s, string $n): ?Draft => $this->tables[$s ?? $table->schema][$n] ?? null);
                }
            }
        }
        $result = [];
        ksort($this->tables, \SORT_STRING);
        foreach ($this->tables as $tables) {
            ksort($tables, \SORT_STRING);
            foreach ($tables as $table) {
                $result[] = $table->table($this->primaryOf(...));
            }
        }

        return new Catalog(Dialect::Standard === $this->dialect ? 'sql' : $this->dialect->value, $server, $result, $this->routines, $notes);
    }

    /**
     * @param Far $key
     *
     * @return list<string>
     */
    private function primaryOf(array $key): array
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

    private function finish(Draft $table): void
    {
        foreach ([] === $this->enums && [] === $this->domains ? [] : array_keys($table->columns) as $name) {
            $column = &$table->columns[$name];
            $bare = rtrim($column['type'], '[]');
            $array = $bare !== $column['type'];
            $plain = str_replace('"', '', $bare);
            $place = str_contains($plain, '.') ? $plain : $this->schema.'.'.$plain;
            if (isset($this->enums[$place]) || isset($this->domains[$place])) {
                $column['type'] = $place.($array ? '[]' : '');
                $column['base'] = isset($this->enums[$place]) ? $this->enums[$place].($array ? '[]' : '') : $this->enums[$this->domains[$place]['base']] ?? $this->domains[$place]['base'];
                foreach ($this->domains[$place]['checks'] ?? [] as $check) {
                    $table->checks[] = new Check($check->name, $check->expression, $column['name']);
                }
            }
        }
        unset($column);
        if (Dialect::Sqlite === $this->dialect) {
            $key = $table->primary->columns ?? [];
            $rowid = !\in_array('WITHOUT ROWID', $table->traits, true);
            $alias = $rowid && 1 === \count($key) && 'INTEGER' === strtoupper($table->columns[$key[0]]['type'] ?? '');
            $table->keyMayBeEmpty = $rowid && !$alias;
            if ($alias) {
                $table->columns[$key[0]]['auto'] = true;
            }
        }
        if (Dialect::PostgreSql === $this->dialect) {
            foreach ($table->checks as &$check) {
                if ('' === $check->name) {
                    $used = array_values(array_filter(array_keys($table->columns), static fn (string $name): bool => 1 === preg_match('/\b'.preg_quote($name, '/').'\b/', $check->expression)));
                    $check = new Check($table->name.'_'.(1 === \count($used) ? $used[0].'_' : '').'check', $check->expression);
                }
            }
            unset($check);
            if (null !== $table->partitionKey) {
                $table->traits[] = PostgreSqlReader::partitioned($table->partitionKey, $table->partitions);
            }
            if ($table->secured) {
                sort($table->policies);
                $table->traits[] = PostgreSqlReader::secured($table->policies);
            }
        }
        if ($this->dialect->isMySqlLike()) {
            $this->indexForeignKeys($table);
        }
        if (Dialect::Sqlite !== $this->dialect) {
            usort($table->checks, static fn (Check $a, Check $b): int => strcmp($a->name, $b->name));
        }
    }

    /** The engine makes an index for a foreign key that has none, and names it like the key. */
    private function indexForeignKeys(Draft $table): void
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

    private function create(Tokens $t): bool
    {
        $start = $t->at;
        while (!$t->over() && !\in_array($t->peek(), ['TABLE', 'VIEW', 'INDEX', 'TRIGGER', 'FUNCTION', 'PROCEDURE', 'TYPE', 'DOMAIN', 'POLICY', 'SCHEMA', 'DATABASE', 'SEQUENCE', 'EXTENSION', 'ROLE', 'USER', 'EVENT'], true) && $t->at - $start < 24) {
            $t->skip();
        }
        $before = strtoupper($t->from($start));

        return match ($t->any('TABLE', 'VIEW', 'INDEX', 'TRIGGER', 'FUNCTION', 'PROCEDURE', 'TYPE', 'DOMAIN', 'POLICY')) {
            'TABLE' => $this->createTable($t, $before),
            'VIEW' => $this->createView($t, $before),
            'INDEX' => $this->createIndex($t, $before),
            'TRIGGER' => $this->createTrigger($t),
            'FUNCTION' => $this->createRoutine($t, 'function'),
            'PROCEDURE' => $this->createRoutine($t, 'procedure'),
            'TYPE' => $this->createType($t),
            'DOMAIN' => $this->createDomain($t),
            'POLICY' => $this->createPolicy($t),
            default => false,
        };
    }

    private function createTable(Tokens $t, string $before): bool
    {
        $t->take('IF', 'NOT', 'EXISTS');
        [$schema, $name] = $this->place($t);
        $table = new Draft($schema, $name, Kind::Table);
        if ($t->take('USING')) {
            $table->traits[] = 'virtual table of '.$t->name();
            foreach ('(' === $t->peek() ? explode(',', $t->parenthesis()) : [] as $argument) {
                if (1 === preg_match('/^\s*["`\[]?([^"`\]=]+?)["`\]]?(?:\s+UNINDEXED)?\s*$/i', $argument, $m)) {
                    $table->columns[$m[1]] = self::unknownColumn($m[1]);
                }
            }
            $this->tables[$schema][$name] = $table;

            return true;
        }
        $table->storage = match (true) {
            Dialect::PostgreSql !== $this->dialect => null,
            str_contains($before, 'UNLOGGED') => 'unlogged',
            str_contains($before, 'FOREIGN') => 'foreign',
            default => null,
        };
        if ($t->take('PARTITION', 'OF')) {
            [$parentSchema, $parent] = $this->place($t);
            $this->attach($parentSchema, $parent, $schema, $name);

            return true;
        }
        if ($t->take('LIKE')) {
            [$likeSchema, $like] = $this->place($t);
            $model = $this->tables[$likeSchema][$like] ?? throw $t->fault(\sprintf('The table “%s.%s” that it is made like is not known', $likeSchema, $like));
            $table = clone $model;
            [$table->schema, $table->name, $table->foreign] = [$schema, $name, []];
        } elseif ('(' === $t->peek()) {
            $this->definitions->elements($t, $table);
        } elseif ('AS' !== $t->peek()) {
            throw $t->fault('The list of columns was expected');
        }
        $this->tableOptions($t, $table);
        $this->tables[$schema][$name] = $table;

        return true;
    }

    private function tableOptions(Tokens $t, Draft $table): void
    {
        while (!$t->over()) {
            if ($t->take('INHERITS')) {
                $t->expect('(');
                do {
                    $this->inherit($table, ...$this->place($t));
                } while ($t->take(','));
                $t->expect(')');
            } elseif ('PARTITION' === $t->peek() && 'BY' === $t->peek(1)) {
                $t->skip();
                $t->skip();
                $from = $t->at;
                $t->skip();
                '(' === $t->peek() && $t->parenthesis();
                $table->partitionKey = $t->from($from);
            } elseif ($t->take('WITHOUT', 'ROWID')) {
                $table->traits[] = 'WITHOUT ROWID';
            } elseif ($t->take('STRICT')) {
                $table->traits[] = 'STRICT';
            } elseif ($t->take('ENGINE')) {
                $t->take('=');
                $table->storage = $t->isName() ? $t->name() : $t->text();
            } elseif ($t->take('COMMENT')) {
                $t->take('=');
                $table->comment = $t->text() ?? '';
            } elseif ($t->take('COLLATE')) {
                $t->take('=');
                $table->collation = $t->isName() ? $t->name() : $t->text();
            } else {
                $t->skip();
                '(' === $t->peek() && $t->parenthesis();
            }
        }
    }

    private function createView(Tokens $t, string $before): bool
    {
        $t->take('IF', 'NOT', 'EXISTS');
        [$schema, $name] = $this->place($t);
        $view = new Draft($schema, $name, str_contains($before, 'MATERIALIZED') ? Kind::MaterializedView : Kind::View);
        if ('(' === $t->peek()) {
            foreach ($t->names() as $column) {
                $view->columns[$column] = self::unknownColumn($column);
            }
        }
        while (!$t->over() && 'AS' !== $t->peek()) {
            $t->skip();
            '(' === $t->peek() && $t->parenthesis();
        }
        $t->expect('AS');
        $view->definition = rtrim((string) preg_replace('/\s+WITH\s+(?:NO\s+)?DATA\s*$/i', '', $t->rest()), "; \n\t");
        $this->tables[$schema][$name] = $view;

        return true;
    }

    private function createIndex(Tokens $t, string $before): bool
    {
        $t->take('CONCURRENTLY');
        $t->take('IF', 'NOT', 'EXISTS');
        $name = 'ON' === $t->peek() ? '' : $t->qualified()[1];
        $method = $t->take('USING') ? strtolower($t->name()) : '';
        $t->expect('ON');
        $t->take('ONLY');
        [$schema, $of] = $this->place($t);
        $method = $t->take('USING') ? strtolower($t->name()) : $method;
        $parts = $this->definitions->parts($t);
        $comment = '';
        $where = null;
        while (!$t->over()) {
            if ($t->take('WHERE')) {
                $where = $t->rest();
            } elseif ($t->take('COMMENT')) {
                $comment = $t->text() ?? '';
            } else {
                $t->skip();
                '(' === $t->peek() && $t->parenthesis();
            }
        }
        if (isset($this->partitions["$schema\0$of"])) {
            return true;
        }
        $unique = str_contains($before, 'UNIQUE');
        $special = 1 === preg_match('/FULLTEXT|SPATIAL/', $before, $m) ? strtolower($m[0]) : '';
        $table = $this->known($t, $schema, $of);
        if ('' === $name) {
            $name = $of.'_'.implode('_', array_map(static fn (IndexPart $part): string => $part->column, $parts)).'_idx';
        }
        $table->add(new Index($name, $parts, $unique, $special ?: ($method ?: 'btree'), $comment, $where));
        if ($unique && $this->dialect->isMySqlLike()) {
            $table->add(new Key($name, self::nonEmpty(array_map(static fn (IndexPart $part): string => $part->column, $parts))));
        }

        return true;
    }

    private function createTrigger(Tokens $t): bool
    {
        $t->take('IF', 'NOT', 'EXISTS');
        $name = $t->qualified()[1];
        $timing = match (true) {
            $t->take('INSTEAD', 'OF') => 'INSTEAD OF',
            default => $t->any('BEFORE', 'AFTER') ?: 'BEFORE',
        };
        $events = [];
        do {
            $events[] = $t->any('INSERT', 'UPDATE', 'DELETE', 'TRUNCATE') ?: throw $t->fault('An event was expected');
            while (!$t->over() && 'ON' !== $t->peek() && 'OR' !== $t->peek()) {
                $t->skip();
            }
        } while ($t->take('OR'));
        $t->expect('ON');
        $table = $this->known($t, ...$this->place($t));
        $rest = $t->rest();
        $body = 1 === preg_match('/\bEXECUTE\s+(?:FUNCTION|PROCEDURE)\b.*$/is', $rest, $m) && Dialect::PostgreSql === $this->dialect ? $m[0]
            : (string) preg_replace('/^(?:FOR\s+EACH\s+ROW)?\s*(?:(?:FOLLOWS|PRECEDES)\s+\S+\s+)?/i', '', $rest);
        // In the order of the server's own list.
        $ordered = array_values(array_intersect(['INSERT', 'DELETE', 'UPDATE', 'TRUNCATE'], $events));
        $table->triggers[] = new Trigger($name, $timing, implode(' OR ', $ordered), $body);

        return true;
    }

    private function createRoutine(Tokens $t, string $kind): bool
    {
        $t->take('IF', 'NOT', 'EXISTS');
        [$schema, $name] = $this->place($t);
        $t->parenthesis();
        $returns = null;
        if ($t->take('RETURNS')) {
            $from = $t->at;
            if ('TABLE' === $t->peek() || 'SETOF' === $t->peek()) {
                $t->skip();
                '(' === $t->peek() ? $t->parenthesis() : $this->definitions->type($t);
                $returns = $t->from($from);
            } else {
                [$returns] = $this->definitions->type($t);
            }
        }
        $body = null;
        $comment = '';
        while (!$t->over()) {
            if ($t->take('COMMENT')) {
                $comment = $t->text() ?? '';
            } elseif ($t->take('AS')) {
                $body = $t->text();
            } elseif ($this->dialect->isMySqlLike() && \in_array($t->peek(), ['BEGIN', 'RETURN', 'SELECT', 'INSERT', 'UPDATE', 'DELETE', 'SET'], true)) {
                $body = $t->rest();
            } else {
                $t->skip();
            }
        }
        $this->routines[] = new Routine($schema, $name, $kind, $returns, $body, $comment);

        return true;
    }

    private function createType(Tokens $t): bool
    {
        [$schema, $name] = $this->place($t);
        if (!$t->take('AS', 'ENUM')) {
            return false;
        }
        $members = [];
        $t->expect('(');
        while (null !== ($member = $t->text())) {
            $members[] = "'".str_replace("'", "''", $member)."'";
            $t->take(',');
        }
        $this->enums["$schema.$name"] = 'enum('.implode(',', $members).')';

        return true;
    }

    private function createDomain(Tokens $t): bool
    {
        [$schema, $name] = $this->place($t);
        $t->take('AS');
        [$base] = $this->definitions->type($t);
        $shell = new Draft($schema, $name, Kind::Table);
        while (!$t->over()) {
            $label = $t->take('CONSTRAINT') ? $t->name() : null;
            if ($t->take('CHECK')) {
                $shell->add(new Check($label ?? $name.'_check', $t->parenthesis()));
            } elseif ($t->take('DEFAULT')) {
                $t->expression();
            } else {
                $t->skip();
            }
        }
        $this->domains["$schema.$name"] = ['base' => $base, 'checks' => $shell->checks];

        return true;
    }

    private function createPolicy(Tokens $t): bool
    {
        $name = $t->name();
        $t->expect('ON');
        $this->known($t, ...$this->place($t))->policies[] = $name;

        return true;
    }

    private function alter(Tokens $t): bool
    {
        $t->take('FOREIGN');
        if (!$t->take('TABLE')) {
            return false;
        }
        $t->take('IF', 'EXISTS');
        $t->take('ONLY');
        [$schema, $name] = $this->place($t);
        if (!isset($this->tables[$schema][$name]) && 'OWNER' === $t->peek()) {
            return true;
        }
        $table = $this->known($t, $schema, $name);
        do {
            $from = $t->at;
            $this->alteration($t, $table);
            if ($from === $t->at) {
                $t->skipElement();
            }
        } while ($t->take(','));

        return true;
    }

    private function alteration(Tokens $t, Draft $table): void
    {
        if ($t->take('ADD')) {
            if ('' !== $t->any('COLUMN')) {
                $t->take('IF', 'NOT', 'EXISTS');
                $this->definitions->column($t, $table);
            } elseif ('(' === $t->peek()) {
                $this->definitions->elements($t, $table);
            } else {
                $this->definitions->element($t, $table);
            }
        } elseif ($t->take('ALTER')) {
            $t->take('COLUMN');
            $name = $t->name();
            if (!isset($table->columns[$name])) {
                throw $t->fault(\sprintf('The table “%s” has no column “%s”', $table->name, $name));
            }
            if ($t->take('SET', 'DEFAULT')) {
                $table->columns[$name]['default'] = $default = $t->expression();
                $table->columns[$name]['auto'] = str_starts_with($default, 'nextval(');
            } elseif ($t->take('SET', 'NOT', 'NULL')) {
                $table->columns[$name]['nullable'] = false;
            } elseif ($t->take('DROP', 'NOT', 'NULL')) {
                $table->columns[$name]['nullable'] = true;
            } elseif ($t->take('DROP', 'DEFAULT')) {
                $table->columns[$name]['default'] = null;
            } elseif ($t->take('ADD', 'GENERATED')) {
                [$table->columns[$name]['auto'], $table->columns[$name]['nullable']] = [true, false];
                $t->skipElement();
            } elseif ($t->take('TYPE') || $t->take('SET', 'DATA', 'TYPE')) {
                [$table->columns[$name]['type']] = $this->definitions->type($t);
                $t->skipElement();
            } else {
                $t->skipElement();
            }
        } elseif ($t->take('ENABLE', 'ROW', 'LEVEL', 'SECURITY')) {
            $table->secured = true;
        } elseif ($t->take('ATTACH', 'PARTITION')) {
            [$schema, $name] = $this->place($t);
            $this->attach($table->schema, $table->name, $schema, $name);
            $t->rest();
        } elseif ($t->take('INHERIT')) {
            $this->inherit($table, ...$this->place($t));
        } elseif ($t->take('MODIFY') || $t->take('CHANGE')) {
            $t->take('COLUMN');
            $kept = $table->columns;
            $this->definitions->column($t, $table);
            $table->columns = array_replace($kept, $table->columns);
        } elseif ($t->take('DROP', 'COLUMN')) {
            $t->take('IF', 'EXISTS');
            unset($table->columns[$t->name()]);
            $t->skipElement();
        } elseif ($t->take('RENAME', 'TO')) {
            unset($this->tables[$table->schema][$table->name]);
            $table->name = $t->name();
            $this->tables[$table->schema][$table->name] = $table;
        } elseif ($t->take('COMMENT')) {
            $t->take('=');
            $table->comment = $t->text() ?? '';
        } else {
            $t->skipElement();
        }
    }

    private function comment(Tokens $t): bool
    {
        $kind = $t->any('TABLE', 'COLUMN', 'VIEW', 'INDEX', 'MATERIALIZED', 'FOREIGN');
        if ('MATERIALIZED' === $kind || 'FOREIGN' === $kind) {
            $t->skip();
        }
        if ('' === $kind) {
            return false;
        }
        $parts = [$t->name()];
        while ($t->take('.')) {
            $parts[] = $t->name();
        }
        $t->expect('IS');
        $text = $t->text() ?? '';
        if ('COLUMN' === $kind) {
            $column = array_pop($parts);
            $table = $this->known($t, $parts[\count($parts) - 2] ?? $this->schema, (string) end($parts));
            if (!isset($table->columns[$column])) {
                if ($table->kind->isView()) {
                    $table->columns[$column] = ['comment' => $text] + self::unknownColumn($column);

                    return true;
                }
                throw $t->fault(\sprintf('The table “%s” has no column “%s”', $table->name, $column));
            }
            $table->columns[$column]['comment'] = $text;
        } elseif ('INDEX' === $kind) {
            $name = (string) end($parts);
            foreach ($this->tables as $tables) {
                foreach ($tables as $table) {
                    foreach ($table->indexes as $i => $index) {
                        if ($index->name === $name) {
                            $table->indexes[$i] = new Index($name, $index->parts, $index->unique, $index->method, $text, $index->where);
                        }
                    }
                }
            }
        } else {
            $this->known($t, $parts[\count($parts) - 2] ?? $this->schema, (string) end($parts))->comment = $text;
        }

        return true;
    }

    private function drop(Tokens $t): bool
    {
        $t->take('MATERIALIZED');
        if ('' === $t->any('TABLE', 'VIEW')) {
            return false;
        }
        $t->take('IF', 'EXISTS');
        do {
            [$schema, $name] = $this->place($t);
            unset($this->tables[$schema][$name]);
        } while ($t->take(','));

        return true;
    }

    /** SQLite keeps the content of a virtual table in tables of its own, which are its affair. */
    private function isShadow(Draft $table): bool
    {
        if (Dialect::Sqlite !== $this->dialect || 1 !== preg_match('/^sqlite_|^(.+)_(?:data|idx|content|docsize|config|segments|segdir|stat|node|rowid|parent)$/', $table->name, $m)) {
            return false;
        }

        return str_starts_with($table->name, 'sqlite_') || str_starts_with($this->tables[$table->schema][$m[1] ?? '']->traits[0] ?? '', 'virtual table of');
    }

    private function inherit(Draft $table, string $schema, string $parent): void
    {
        $table->traits[] = \sprintf('inherits from %s.%s', $schema, $parent);
        $of = $this->tables[$schema][$parent] ?? null;
        if (null !== $of) {
            $table->columns = array_merge($of->columns, $table->columns);
            $table->checks = [...$of->checks, ...$table->checks];
        }
    }

    private function attach(string $parentSchema, string $parent, string $schema, string $name): void
    {
        $this->partitions["$schema\0$name"] = "$parentSchema\0$parent";
    }

    private function inSchema(string $name): bool
    {
        $this->schema = $name;

        return true;
    }

    private function searchPath(string $path): bool
    {
        $first = trim(strtok(ltrim($path, " =\tTOto"), ',') ?: '', " \"';");
        if ('' !== $first && '$user' !== $first) {
            $this->schema = $first;
        }

        return true;
    }

    /** @return array{string, string} schema and name */
    private function place(Tokens $t): array
    {
        [$schema, $name] = $t->qualified();

        return [$schema ?? $this->schema, $name];
    }

    private function known(Tokens $t, string $schema, string $name): Draft
    {
        return $this->tables[$schema][$name] ?? throw $t->fault(\sprintf('The table “%s” is not known: no statement before this one makes it', '' === $schema ? $name : "$schema.$name"));
    }

    /** @return array{name: string, type: string, nullable: bool, default: null, comment: string, auto: bool, generated: null, onUpdate: null, charset: null, collation: null, base: null} */
    public static function unknownColumn(string $name): array
    {
        return ['name' => $name, 'type' => '', 'nullable' => true, 'default' => null, 'comment' => '', 'auto' => false, 'generated' => null, 'onUpdate' => null, 'charset' => null, 'collation' => null, 'base' => null];
    }

    /**
     * @param list<string> $columns
     *
     * @return non-empty-list<string>
     */
    private static function nonEmpty(array $columns): array
    {
        return [] === $columns ? [''] : $columns;
    }
}
