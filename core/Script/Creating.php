<?php

declare(strict_types=1);

namespace Fasti\Core\Script;

use Fasti\Core\Catalog\IndexPart;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Dialect\Grammar;
use Fasti\Core\Sql\Tokens;

/** Carries out what CREATE says of tables, views, indexes and schemas, and hands on the rest. */
final readonly class Creating
{
    /** What may follow the name of a table that says no columns. */
    private const WITHOUT_COLUMNS = [
        'AS', 'SELECT', 'WITH', 'ON', 'USING', 'TABLESPACE', 'ENGINE', 'COMMENT', 'IGNORE', 'REPLACE', '(', 'DEFAULT', 'CHARSET', 'INHERITS',
    ];
    /** Kinds that say nothing about structure. */
    private const OF_NO_MATTER = [
        'ROLE', 'USER', 'EVENT', 'SERVER', 'PUBLICATION', 'SUBSCRIPTION', 'STATISTICS', 'CAST', 'COLLATION', 'CONVERSION', 'LANGUAGE', 'TABLESPACE', 'OPERATOR',
        'TEXT', 'TRANSFORM', 'ACCESS', 'LOGFILE', 'RESOURCE', 'LOGIN', 'CERTIFICATE', 'ASSEMBLY', 'DIRECTORY', 'PROFILE', 'CONTEXT', 'UNDO',
        'SPATIAL_REFERENCE',
        'DATABASE_LINK', 'PARTITION', 'GROUP', 'CREDENTIAL', 'AUDIT', 'KEY', 'SYMMETRIC', 'MASTER', 'EXTERNAL',
    ];
    /** Words between CREATE and what it makes. */
    private const BETWEEN = [
        'OR', 'REPLACE', 'ALTER', 'TEMP', 'TEMPORARY', 'LOCAL', 'GLOBAL', 'UNLOGGED', 'FOREIGN', 'UNIQUE', 'FULLTEXT', 'SPATIAL', 'VECTOR', 'MATERIALIZED',
        'RECURSIVE', 'VIRTUAL', 'CONSTRAINT', 'CLUSTERED', 'NONCLUSTERED', 'COLUMNSTORE', 'BITMAP', 'EDITIONABLE', 'NONEDITIONABLE', 'FORCE', 'NO', 'NOFORCE',
        'IMMUTABLE', 'PRIVATE', 'SHARDED', 'DUPLICATED', 'PUBLIC', 'OFFLINE', 'ONLINE', 'TRUSTED', 'PROCEDURAL', 'DEFAULT', 'AGGREGATE',
        'MULTIVALUE', 'TRANSIENT',
        'VOLATILE', 'MULTISET', 'SET', 'COLUMN', 'ROW',
    ];

    public function __construct(
        private Grammar $dialect,
        private Schemas $made,
        private Definitions $definitions,
        private Programs $programs,
        private Types $types,
        private Options $options,
    ) {
    }

    /** What follows the word CREATE. */
    public function create(Tokens $t): Outcome
    {
        $before = $this->before($t);
        $kind = $t->peek();
        if ('EVENT' === $kind && 'TRIGGER' === $t->peek(1)) {
            return Outcome::OfNoMatter;
        }
        if ('FOREIGN' === ($before[\count($before) - 1] ?? '') && 'DATA' === $kind) {
            return Outcome::OfNoMatter;
        }
        if ('USER' === $kind && 'MAPPING' === $t->peek(1)) {
            return Outcome::OfNoMatter;
        }
        $t->skip();

        return match ($kind) {
            'TABLE' => $this->table($t, $before),
            'VIEW' => $this->view($t, $before),
            'INDEX' => $this->index($t, $before),
            'TRIGGER' => $this->programs->trigger($t, $before),
            'FUNCTION', 'PROCEDURE', 'AGGREGATE' => $this->programs->routine($t, $before, $kind),
            'TYPE' => $this->types->type($t),
            'DOMAIN' => $this->types->domain($t),
            'POLICY' => $this->policy($t),
            'SEQUENCE' => $this->sequence($t, $before),
            'SCHEMA', 'DATABASE' => $this->schema($t, $kind),
            'EXTENSION' => $this->extension($t),
            'RULE' => $this->rule($t),
            'OPERATOR' => $this->operator($t),
            default => \in_array($kind, self::OF_NO_MATTER, true) ? Outcome::OfNoMatter
                : throw $t->fault('What is to be made is not understood'),
        };
    }

    /** @return list<string> words between CREATE and what it makes */
    private function before(Tokens $t): array
    {
        $words = [];
        while (true) {
            if (\in_array($t->peek(), self::BETWEEN, true)
                && !('CONSTRAINT' === $t->peek() && 'TRIGGER' !== $t->peek(1))
                && !('AGGREGATE' === $t->peek() && 'FUNCTION' !== $t->peek(1))) {
                $words[] = $t->peek();
                $t->skip();
            } elseif ('ALGORITHM' === $t->peek() || ('SQL' === $t->peek() && 'SECURITY' === $t->peek(1))) {
                if (!$t->take('SQL', 'SECURITY')) {
                    $t->skip();
                }
                $t->take('=');
                $t->skip();
            } elseif ($t->take('DEFINER')) {
                $t->take('=');
                $t->skip();
                if ('(' === $t->peek()) {
                    $t->parenthesis();
                }
                if (str_starts_with($t->written(), '@')) {
                    $t->skip();
                    if ('' !== $t->written(-1) && '@' === $t->written(-1)) {
                        $t->skip();
                    }
                }
            } else {
                return $words;
            }
        }
    }

    /** @param list<string> $before */
    private function table(Tokens $t, array $before): Outcome
    {
        $unless = $t->take('IF', 'NOT', 'EXISTS');
        [$schema, $name] = $this->made->place($t);
        $temporary = [] !== array_intersect(['TEMP', 'TEMPORARY'], $before)
            || ('temp' === strtolower($schema) && $this->dialect->catalog->rowids)
            || str_starts_with($name, '#');
        if ($this->dialect->catalog->rowids && isset($this->made->attached[strtolower($schema)])) {
            return Outcome::OfNoMatter;
        }
        $there = $temporary
            ? null
            : ($this->made->tables[$schema][$name] ?? ($this->dialect->catalog->tablesInAnyCase ? $this->made->find($schema, $name) : null));
        if (null !== $there && $unless) {
            return Outcome::Understood;
        }
        if (null !== $there && !\in_array('REPLACE', $before, true) && !\in_array('FOREIGN', $before, true)) {
            throw $t->fault(\sprintf('There is a table or view “%s” already', $name));
        }
        if (null !== $there) {
            $this->made->drop($there, false);
        }
        $table = new TableBuilder($schema, $name, TableType::Table);
        $table->temporary = $temporary;
        $table->storage = match (true) {
            !$this->dialect->structure->storageBefore => $this->dialect->catalog->usualStorage,
            \in_array('UNLOGGED', $before, true) => 'unlogged',
            \in_array('FOREIGN', $before, true) => 'foreign',
            default => null,
        };
        if (!$temporary) {
            $this->made->take($schema, $name);
        }
        if ($t->take('USING')) {
            return $this->virtual($t, $table);
        }
        if ($t->take('PARTITION', 'OF')) {
            return $this->partition($t, $table);
        }
        $this->columns($t, $table);
        $this->options->ofTable($t, $table);
        if ($t->take('AS') || \in_array($t->peek(), ['SELECT', 'WITH', 'VALUES', 'TABLE', '('], true)) {
            $this->asQuery($t, $table);
        }
        if (!$t->over()) {
            throw $t->fault('The definition of the table was over, but something follows that is not understood');
        }
        $this->finished($table);
        $this->made->put($table);

        return Outcome::Understood;
    }

    /** Where the columns of a table come from: a list, a type, another table, or a query that follows. */
    private function columns(Tokens $t, TableBuilder $table): void
    {
        if ($t->take('OF')) {
            $this->types->ofType($t, $table);
            if ('(' === $t->peek()) {
                $this->typed($t, $table);
            }
        } elseif ('LIKE' === $t->peek() || ('(' === $t->peek() && 'LIKE' === $t->peek(1) && $this->dialect->catalog->likeCopies)) {
            $inner = $t->take('(');
            $t->skip();
            $this->copy($t, $table);
            if ($inner) {
                $t->expect(')');
            }
        } elseif ('(' === $t->peek() && !$this->isQuery($t) && !$this->isNames($t)) {
            $this->definitions->elements($t, $table);
        } elseif ('(' === $t->peek() && $this->isNames($t)) {
            $table->named = $t->names();
        } elseif (!\in_array($t->peek(), self::WITHOUT_COLUMNS, true)) {
            throw $t->fault('The list of columns was expected');
        }
    }

    /** `(a, b) AS …`: names alone, for the columns of a query. */
    private function isNames(Tokens $t): bool
    {
        $ahead = 1;
        while (\in_array($t->kind($ahead), ['w', 'q'], true)) {
            $next = $t->peek($ahead + 1);
            if (')' === $next) {
                return \in_array($t->peek($ahead + 2), ['AS', 'WITH', 'TABLESPACE', 'ON', 'USING'], true)
                    && !$this->dialect->catalog->rowids
                    && $this->dialect->structure->storageBefore;
            }
            if (',' !== $next) {
                return false;
            }
            $ahead += 2;
        }

        return false;
    }

    private function isQuery(Tokens $t): bool
    {
        return \in_array($t->peek(1), ['SELECT', 'WITH', 'VALUES', '('], true);
    }

    /** Columns of a typed table, which say no type of their own. */
    private function typed(Tokens $t, TableBuilder $table): void
    {
        $t->expect('(');
        do {
            if ($this->definitions->constraint($t, $table)) {
                continue;
            }
            $column = $this->definitions->columns->columnOf($t, $table);
            $t->take('WITH', 'OPTIONS');
            $this->definitions->columns->optionsOf($t, $table, $column);
        } while ($t->take(','));
        $t->expect(')');
    }

    /** A partition is no entry of its own; what it adds counts for nothing there. */
    private function partition(Tokens $t, TableBuilder $table): Outcome
    {
        $parent = $this->made->next($t);
        if ('(' === $t->peek()) {
            $t->parenthesis();
        }
        foreach ($parent->columns as $column) {
            $table->columns[$column->name] = clone $column;
        }
        $this->made->put($table);
        $this->made->attach($parent, $table);
        if ($t->take('DEFAULT')) {
            $this->options->ofTable($t, $table);

            return Outcome::Understood;
        }
        $t->expect('FOR');
        $t->expect('VALUES');
        while (!$t->over() && 'PARTITION' !== $t->peek()) {
            if ('(' === $t->peek()) {
                $t->parenthesis();
            } else {
                $t->skip();
            }
        }
        $this->options->ofTable($t, $table);

        return Outcome::Understood;
    }

    /** A table LIKE another, where that copies all of it. */
    private function copy(Tokens $t, TableBuilder $table): void
    {
        $model = $this->made->next($t);
        $copy = clone $model;
        $table->columns = $copy->columns;
        $table->primary = $copy->primary;
        $table->unique = $copy->unique;
        $table->indexes = $copy->indexes;
        $table->checks = $copy->checks;
        $table->comment = $copy->comment;
        $table->storage = $copy->storage;
        $table->charset = $copy->charset;
        $table->collation = $copy->collation;
        $table->traits = $copy->traits;
        $table->partitionKey = $copy->partitionKey;
        if ('' !== $t->any('INCLUDING', 'EXCLUDING')) {
            $t->skip();
        }
    }

    private function virtual(Tokens $t, TableBuilder $table): Outcome
    {
        $table->virtual = true;
        $module = $t->name();
        $table->traits[] = 'virtual table of '.$module;
        $arguments = '(' === $t->peek() ? $t->parenthesis() : '';
        $tree = 1 === preg_match('/^rtree/i', $module);
        foreach ('' === $arguments ? [] : explode(',', $arguments) as $i => $argument) {
            if (1 === preg_match('/^\s*\+?["`\[]?([^"`\]=]+?)["`\]]?(?:\s+UNINDEXED)?\s*$/i', $argument, $m)) {
                $table->columns[$m[1]] = new ColumnBuilder($m[1], match (true) {
                    !$tree => '',
                    0 === $i => 'INT',
                    default => 'REAL',
                });
            }
        }
        $this->made->put($table);

        return Outcome::Understood;
    }

    /** CREATE TABLE … AS: the columns follow from the query when all is known that it is made of. */
    private function asQuery(Tokens $t, TableBuilder $table): void
    {
        $query = $t->rest();
        $query = (string) preg_replace('/\s+WITH\s+(?:NO\s+)?DATA\s*$/i', '', $query);
        if (1 === preg_match('/^TABLE\s+(\S+)$/i', $query, $m)) {
            $query = 'SELECT * FROM '.$m[1];
        } elseif (1 === preg_match('/^EXECUTE\b/i', $query)) {
            throw $t->fault('What a prepared statement gives is not known, so neither are the columns of the table');
        }
        $this->made->columnsOf($table, rtrim($query, "; \n\t"), $t);
    }

    /** What the engine does at the end of a statement that made or changed a table. */
    public function finished(TableBuilder $table): void
    {
        $this->options->settle($table);
    }

    /** @param list<string> $before */
    private function view(Tokens $t, array $before): Outcome
    {
        $unless = $t->take('IF', 'NOT', 'EXISTS');
        [$schema, $name] = $this->made->place($t);
        $kind = \in_array('MATERIALIZED', $before, true) ? TableType::MaterializedView : TableType::View;
        $there = $this->made->tables[$schema][$name] ?? null;
        if (null !== $there && $unless) {
            return Outcome::Understood;
        }
        if (null !== $there && !\in_array('REPLACE', $before, true) && !\in_array('ALTER', $before, true)) {
            throw $t->fault(\sprintf('There is a table or view “%s” already', $name));
        }
        $view = new TableBuilder($schema, $name, $kind);
        $view->temporary = [] !== array_intersect(['TEMP', 'TEMPORARY'], $before) || 'temp' === strtolower($schema);
        if (null !== $there) {
            $view->triggers = $there->triggers;
            $view->indexes = $there->indexes;
            $view->comment = $there->comment;
            $view->said = $there->said;
        }
        $this->query($t, $view, \in_array('RECURSIVE', $before, true));
        $this->made->put($view);

        return Outcome::Understood;
    }

    /** Names, options and query of a view. */
    public function query(Tokens $t, TableBuilder $view, bool $recursive = false): void
    {
        if ('(' === $t->peek()) {
            $view->named = $t->names();
        }
        while (!$t->over() && 'AS' !== $t->peek()) {
            $t->skip();
            if ('(' === $t->peek()) {
                $t->parenthesis();
            }
        }
        $t->expect('AS');
        // A remark behind the query is no part of it; SQLite's shell writes one.
        $rest = (string) preg_replace('~\s*/\*(?:[^*]|\*(?!/))*\*/\s*$~', '', $t->rest());
        $query = rtrim((string) preg_replace('/\s+WITH\s+(?:NO\s+DATA|DATA|(?:CASCADED\s+|LOCAL\s+)?CHECK\s+OPTION|READ\s+ONLY)\s*$/i', '', $rest), "; \n\t");
        if ('' === $query) {
            throw $t->fault('A query was expected');
        }
        $view->definition = $recursive ? \sprintf(
            'WITH RECURSIVE %s(%s) AS (%s) SELECT %2$s FROM %1$s',
            Mentions::written($view->name, $this->dialect),
            implode(', ', array_map(fn (string $name): string => Mentions::written($name, $this->dialect), $view->named)),
            $query,
        ) : $query;
    }

    /** @param list<string> $before */
    private function index(Tokens $t, array $before): Outcome
    {
        $t->take('CONCURRENTLY');
        $unless = $t->take('IF', 'NOT', 'EXISTS');
        $name = 'ON' === $t->peek() ? null : $t->qualified()[1];
        $method = $t->take('USING') ? strtolower($t->name()) : '';
        $t->expect('ON');
        $t->take('ONLY');
        $table = $this->made->next($t);
        $method = $t->take('USING') ? strtolower($t->name()) : $method;
        if ('(' !== $t->peek() && \in_array('COLUMNSTORE', $before, true)) {
            return Outcome::OfNoMatter;
        }
        $parts = $this->definitions->indexes->partsOf($t, $table);
        [$comment, $where, $method] = $this->indexOptions($t, $method);
        $there = null === $name ? null : $table->index($name, $this->dialect->catalog->tablesInAnyCase || $this->dialect->queries->charsetTexts);
        if (null === $there && null !== $name && !$this->dialect->queries->charsetTexts) {
            $there = $this->made->index($table->schema, $name)[1] ?? null;
        }
        if (null !== $there) {
            if ($unless) {
                return Outcome::Understood;
            }
            if (!\in_array('REPLACE', $before, true)) {
                throw $t->fault(\sprintf('There is an index “%s” already', (string) $name));
            }
            $table->dropIndex((string) $name);
        }
        $special = [] === ($kinds = array_intersect(['FULLTEXT', 'SPATIAL', 'VECTOR'], $before)) ? '' : strtolower(reset($kinds));
        $this->add($table, $name, $parts, \in_array('UNIQUE', $before, true), $special ?: $method, $comment, $where);
        if ($this->dialect->catalog->indexesForeignKeys) {
            $this->options->settle($table);
        }

        return Outcome::Understood;
    }

    /** @return array{string, ?string, string} its comment, its condition and its method */
    private function indexOptions(Tokens $t, string $method): array
    {
        $comment = '';
        $where = null;
        while (!$t->over()) {
            if ($t->take('WHERE')) {
                $where = $t->rest();
            } elseif ($t->take('COMMENT')) {
                $t->take('=');
                $comment = $t->text() ?? '';
            } elseif ($t->take('USING')) {
                $method = strtolower($t->name());
            } elseif ($t->take('NULLS')) {
                $t->take('NOT');
                $t->expect('DISTINCT');
            } else {
                $from = $t->at;
                $tail = $this->definitions->indexes->indexTail($t);
                $comment = $tail[0] ?: $comment;
                $method = $tail[1] ?: $method;
                if ($from === $t->at) {
                    if (!$t->take('TABLESPACE') && !$t->take('ON')) {
                        throw $t->fault('This option of an index is not understood');
                    }
                    $t->qualified();
                    if ('(' === $t->peek()) {
                        $t->parenthesis();
                    }
                }
            }
        }

        return [$comment, $where, $method];
    }

    /** @param list<IndexPart> $parts */
    private function add(TableBuilder $table, ?string $name, array $parts, bool $unique, string $method, string $comment, ?string $where): void
    {
        if (!$unique || !$this->dialect->catalog->uniqueIndexesAreKeys) {
            $this->definitions->indexes->index($table, $name, $parts, $unique, $method, $comment, $where);

            return;
        }
        $this->definitions->keys->unique($table, $name, $parts, [$comment, $method]);
    }

    private function policy(Tokens $t): Outcome
    {
        $name = $t->name();
        $t->expect('ON');
        $this->made->next($t)->policies[] = $name;

        return Outcome::Understood;
    }

    /** @param list<string> $before */
    private function sequence(Tokens $t, array $before): Outcome
    {
        $t->take('IF', 'NOT', 'EXISTS');
        [$schema, $name] = $this->made->place($t);
        if ([] === array_intersect(['TEMP', 'TEMPORARY'], $before)) {
            $this->made->sequence($schema, $name);
            $this->made->take($schema, $name);
        }

        return Outcome::Understood;
    }

    private function schema(Tokens $t, string $kind): Outcome
    {
        $t->take('IF', 'NOT', 'EXISTS');
        $name = 'AUTHORIZATION' === $t->peek() ? '' : $t->name();
        if ('SCHEMA' === $kind || $this->dialect->queries->charsetTexts) {
            if ('' !== $name) {
                $this->made->made[$name] = true;
            }
        }
        if ($this->dialect->queries->charsetTexts) {
            $this->options->ofSchema($t, $name);

            return Outcome::Understood;
        }
        if ('DATABASE' === $kind) {
            return Outcome::OfNoMatter;
        }
        if ($t->take('AUTHORIZATION')) {
            $owner = $t->isName() ? $t->name() : '';
            $name = '' === $name ? $owner : $name;
        }
        // Statements of its own may follow, without anything between them.
        $kept = [$this->made->schema, $this->made->path];
        $this->made->schema = $name;
        $this->made->path = [$name, ...$this->made->path];
        while (!$t->over()) {
            $from = $t->offset();
            if (!$t->take('CREATE')) {
                if ('GRANT' !== $t->peek()) {
                    throw $t->fault('This part of the schema is not understood');
                }
                $t->skip();
            }
            while (!$t->over() && 'CREATE' !== $t->peek() && !('GRANT' === $t->peek())) {
                if ('(' === $t->peek()) {
                    $t->parenthesis();
                } else {
                    $t->skip();
                }
            }
            $part = trim(substr($t->text, $from, $t->offset() - $from));
            if (1 === preg_match('/^CREATE\b/i', $part)) {
                $inner = new Tokens($part, $this->dialect);
                $inner->skip();
                $this->create($inner);
            }
        }
        [$this->made->schema, $this->made->path] = $kept;

        return Outcome::Understood;
    }

    private function extension(Tokens $t): Outcome
    {
        $t->take('IF', 'NOT', 'EXISTS');
        $name = $t->isName() ? $t->name() : (string) $t->text();
        $t->take('WITH');
        $this->made->extensions[$name] = $t->take('SCHEMA') ? $t->name() : $this->made->schema;

        return Outcome::Understood;
    }

    /** Expressions name an operator of one's own with its schema. */
    private function operator(Tokens $t): Outcome
    {
        if (\in_array($t->peek(), ['CLASS', 'FAMILY'], true)) {
            return Outcome::OfNoMatter;
        }
        $schema = $this->made->schema;
        if ($t->isName()) {
            $schema = $t->name();
            $t->expect('.');
        }
        $this->made->operators[$t->written()] = $schema;

        return Outcome::OfNoMatter;
    }

    /** A rule that answers instead of a table makes a view of it. */
    private function rule(Tokens $t): Outcome
    {
        if ('_RETURN' !== strtoupper($t->name())) {
            return Outcome::OfNoMatter;
        }
        throw $t->fault('A rule that makes a view of a table is not carried out');
    }
}
