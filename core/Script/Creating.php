<?php

declare(strict_types=1);

namespace Fasti\Core\Script;

use Fasti\Core\Catalog\CheckConstraint;
use Fasti\Core\Catalog\Index;
use Fasti\Core\Catalog\IndexPart;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Catalog\Routine;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Catalog\Trigger;
use Fasti\Core\Dialect\Grammar;
use Fasti\Core\Sql\Tokens;

/** Carries out what CREATE says. */
final readonly class Creating
{
    public function __construct(private Grammar $dialect, private Schemas $made, private Definitions $definitions)
    {
    }

    /** What follows the word CREATE; false where it says nothing about structure. */
    public function create(Tokens $t): bool
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
        [$schema, $name] = $this->made->place($t);
        $table = new TableBuilder($schema, $name, TableType::Table);
        if ($t->take('USING')) {
            $table->virtual = true;
            $table->traits[] = 'virtual table of '.$t->name();
            foreach ('(' === $t->peek() ? explode(',', $t->parenthesis()) : [] as $argument) {
                if (1 === preg_match('/^\s*["`\[]?([^"`\]=]+?)["`\]]?(?:\s+UNINDEXED)?\s*$/i', $argument, $m)) {
                    $table->columns[$m[1]] = Script::unknownColumn($m[1]);
                }
            }
            $this->made->tables[$schema][$name] = $table;

            return true;
        }
        $table->storage = match (true) {
            !$this->dialect->storageBefore => null,
            str_contains($before, 'UNLOGGED') => 'unlogged',
            str_contains($before, 'FOREIGN') => 'foreign',
            default => null,
        };
        if ($t->take('PARTITION', 'OF')) {
            [$parentSchema, $parent] = $this->made->place($t);
            $this->made->attach($parentSchema, $parent, $schema, $name);

            return true;
        }
        if ($t->take('LIKE')) {
            [$likeSchema, $like] = $this->made->place($t);
            $model = $this->made->tables[$likeSchema][$like] ?? throw $t->fault(\sprintf('The table “%s.%s” that it is made like is not known', $likeSchema, $like));
            $table = clone $model;
            [$table->schema, $table->name, $table->foreign] = [$schema, $name, []];
        } elseif ('(' === $t->peek()) {
            $this->definitions->elements($t, $table);
        } elseif ('AS' !== $t->peek()) {
            throw $t->fault('The list of columns was expected');
        }
        $this->tableOptions($t, $table);
        $this->made->tables[$schema][$name] = $table;

        return true;
    }

    private function tableOptions(Tokens $t, TableBuilder $table): void
    {
        while (!$t->over()) {
            if ($t->take('INHERITS')) {
                $t->expect('(');
                do {
                    $this->made->inherit($table, ...$this->made->place($t));
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
                $table->withoutRowid = true;
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
        [$schema, $name] = $this->made->place($t);
        $view = new TableBuilder($schema, $name, str_contains($before, 'MATERIALIZED') ? TableType::MaterializedView : TableType::View);
        if ('(' === $t->peek()) {
            $view->named = $t->names();
        }
        while (!$t->over() && 'AS' !== $t->peek()) {
            $t->skip();
            '(' === $t->peek() && $t->parenthesis();
        }
        $t->expect('AS');
        $view->definition = rtrim((string) preg_replace('/\s+WITH\s+(?:NO\s+)?DATA\s*$/i', '', $t->rest()), "; \n\t");
        $this->made->tables[$schema][$name] = $view;

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
        [$schema, $of] = $this->made->place($t);
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
        if (isset($this->made->partitions["$schema\0$of"])) {
            return true;
        }
        $unique = str_contains($before, 'UNIQUE');
        $special = 1 === preg_match('/FULLTEXT|SPATIAL/', $before, $m) ? strtolower($m[0]) : '';
        $table = $this->made->known($t, $schema, $of);
        if ('' === $name) {
            $name = $of.'_'.implode('_', array_map(static fn (IndexPart $part): string => $part->column, $parts)).'_idx';
        }
        $table->add(new Index($name, $parts, $unique, $special ?: ($method ?: 'btree'), $comment, $where));
        if ($unique && $this->dialect->uniqueIndexesAreKeys) {
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
        $table = $this->made->known($t, ...$this->made->place($t));
        $rest = $t->rest();
        $body = 1 === preg_match('/\bEXECUTE\s+(?:FUNCTION|PROCEDURE)\b.*$/is', $rest, $m) && $this->dialect->triggersCall ? $m[0]
            : (string) preg_replace('/^(?:FOR\s+EACH\s+ROW)?\s*(?:(?:FOLLOWS|PRECEDES)\s+\S+\s+)?/i', '', $rest);
        // In the order of the server's own list.
        $ordered = array_values(array_intersect(['INSERT', 'DELETE', 'UPDATE', 'TRUNCATE'], $events));
        $table->triggers[] = new Trigger($name, $timing, implode(' OR ', $ordered), $body);

        return true;
    }

    private function createRoutine(Tokens $t, string $kind): bool
    {
        $t->take('IF', 'NOT', 'EXISTS');
        [$schema, $name] = $this->made->place($t);
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
            } elseif ($this->dialect->bareRoutines && \in_array($t->peek(), ['BEGIN', 'RETURN', 'SELECT', 'INSERT', 'UPDATE', 'DELETE', 'SET'], true)) {
                $body = $t->rest();
            } else {
                $t->skip();
            }
        }
        $this->made->routines[] = new Routine($schema, $name, $kind, $returns, $body, $comment);

        return true;
    }

    private function createType(Tokens $t): bool
    {
        [$schema, $name] = $this->made->place($t);
        if (!$t->take('AS', 'ENUM')) {
            return false;
        }
        $members = [];
        $t->expect('(');
        while (null !== ($member = $t->text())) {
            $members[] = "'".str_replace("'", "''", $member)."'";
            $t->take(',');
        }
        $this->made->enums["$schema.$name"] = 'enum('.implode(',', $members).')';

        return true;
    }

    private function createDomain(Tokens $t): bool
    {
        [$schema, $name] = $this->made->place($t);
        $t->take('AS');
        [$base] = $this->definitions->type($t);
        $shell = new TableBuilder($schema, $name, TableType::Table);
        while (!$t->over()) {
            $label = $t->take('CONSTRAINT') ? $t->name() : null;
            if ($t->take('CHECK')) {
                $shell->add(new CheckConstraint($label ?? $name.'_check', $t->parenthesis()));
            } elseif ($t->take('DEFAULT')) {
                $t->expression();
            } else {
                $t->skip();
            }
        }
        $this->made->domains["$schema.$name"] = ['base' => $base, 'checks' => $shell->checks];

        return true;
    }

    private function createPolicy(Tokens $t): bool
    {
        $name = $t->name();
        $t->expect('ON');
        $this->made->known($t, ...$this->made->place($t))->policies[] = $name;

        return true;
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
