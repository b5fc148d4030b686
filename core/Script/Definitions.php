<?php

declare(strict_types=1);

namespace Fasti\Core\Script;

use Fasti\Core\Catalog\CheckConstraint;
use Fasti\Core\Catalog\Index;
use Fasti\Core\Catalog\IndexPart;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Dialect\Grammar;
use Fasti\Core\Sql\Tokens;

/** Reads what stands between the parentheses of CREATE TABLE, and what ALTER TABLE … ADD brings: columns and constraints. */
final readonly class Definitions
{
    private const CONSTRAINTS = ['CONSTRAINT', 'PRIMARY', 'UNIQUE', 'FOREIGN', 'CHECK', 'EXCLUDE', 'PERIOD'];
    private const AFTER_NAME = ['PRIMARY', 'UNIQUE', 'FOREIGN', 'CHECK', 'NOT', 'DEFAULT'];

    public ColumnDefinitions $columns;
    public TypeDefinitions $types;
    public KeyDefinitions $keys;
    public IndexDefinitions $indexes;

    public function __construct(private Grammar $dialect, private Schemas $made)
    {
        $this->columns = new ColumnDefinitions($dialect, $made, $this);
        $this->types = new TypeDefinitions($dialect, $made);
        $this->keys = new KeyDefinitions($dialect, $made, $this);
        $this->indexes = new IndexDefinitions($dialect, $made, $this);
    }

    /** The list of elements, from its opening to its closing parenthesis. */
    public function elements(Tokens $t, TableBuilder $table): void
    {
        $t->expect('(');
        if ($t->take(')')) {
            return;
        }
        do {
            $this->element($t, $table);
            if (',' !== $t->peek() && ')' !== $t->peek() && !$this->dialect->structure->looseLists) {
                throw $t->fault('A comma or a closing parenthesis was expected');
            }
        } while ($t->take(',') || (')' !== $t->peek() && !$t->over()));
        $t->expect(')');
    }

    /** @param bool $noColumn a column is left for others to read */
    public function element(Tokens $t, TableBuilder $table, bool $noColumn = false): void
    {
        if ('LIKE' === $t->peek() && !$noColumn) {
            $t->skip();
            $this->like($t, $table);

            return;
        }
        if (!$this->constraint($t, $table) && !$this->indexes->inlineIndex($t, $table) && !$noColumn) {
            $this->columns->column($t, $table);
        }
    }

    /** LIKE another table, with what of it is included. */
    public function like(Tokens $t, TableBuilder $table): void
    {
        $model = $this->made->next($t);
        $what = array_fill_keys(['COMMENTS', 'COMPRESSION', 'CONSTRAINTS', 'DEFAULTS', 'GENERATED', 'IDENTITY', 'INDEXES', 'STATISTICS', 'STORAGE'], false);
        while ('' !== ($how = $t->any('INCLUDING', 'EXCLUDING'))) {
            $of = $t->peek();
            $t->skip();
            if ('ALL' === $of) {
                $what = array_fill_keys(array_keys($what), 'INCLUDING' === $how);
            } elseif (isset($what[$of])) {
                $what[$of] = 'INCLUDING' === $how;
            } else {
                throw $t->fault(\sprintf('“%s” is nothing that can be included', $of));
            }
        }
        if (!$this->dialect->structure->likeChooses) {
            $what = array_fill_keys(array_keys($what), true);
        }
        foreach ($model->columns as $of) {
            $column = clone $of;
            $column->nullable = $of->nullable && !\in_array($of->name, $model->primary->columns ?? [], true);
            $column->inherited = 0;
            $column->local = true;
            if (null !== $of->generated && !$what['GENERATED'] || null === $of->generated && !$of->identity && !$what['DEFAULTS']) {
                $column->generated = null;
                $column->default = null;
                $column->sequence = null;
                $column->auto = false;
            }
            if ($of->identity) {
                $column->auto = $column->identity = $what['IDENTITY'];
            }
            if (!$what['COMMENTS']) {
                $column->comment = '';
            }
            $table->columns[$column->name] = $column;
        }
        if ($what['CONSTRAINTS']) {
            array_push($table->checks, ...$model->checks);
        }
        if ($what['INDEXES']) {
            $this->likeIndexes($table, $model, $what['COMMENTS']);
        }
    }

    private function likeIndexes(TableBuilder $table, TableBuilder $model, bool $comments): void
    {
        if (null !== $model->primary) {
            $index = $model->index($this->dialect->primaryIndexName($model->primary->name));
            $this->keys->primary($table, null, $index->parts ?? [], ['', $index->method ?? '']);
        }
        foreach ($model->indexes as $index) {
            if (null !== $model->primary && $index->name === $this->dialect->primaryIndexName($model->primary->name)) {
                continue;
            }
            $keys = array_filter($model->unique, static fn (Key $key): bool => $key->name === $index->name);
            if ([] !== $keys) {
                $this->keys->unique($table, null, $index->parts, [$comments ? $index->comment : '', $index->method]);
            } else {
                $name = $this->made->indexName($table, $index->parts);
                $comment = $comments ? $index->comment : '';
                $table->indexes[] = new Index($name, $index->parts, $index->unique, $index->method, $comment, $index->where);
            }
        }
        foreach ($this->dialect->catalog->keysAreIndexes ? [] : $model->unique as $key) {
            $this->keys->unique($table, null, array_map(static fn (string $column): IndexPart => new IndexPart($column), $key->columns), ['', '']);
        }
    }

    /** A constraint of the table, named or not. Says whether there was one. */
    public function constraint(Tokens $t, TableBuilder $table): bool
    {
        if (!\in_array($t->peek(), self::CONSTRAINTS, true)) {
            return false;
        }
        $start = $t->at;
        $name = null;
        if ($t->take('CONSTRAINT')) {
            $t->take('IF', 'NOT', 'EXISTS');
            $name = \in_array($t->peek(), self::AFTER_NAME, true) && 1 !== preg_match('/^(?:PRIMARY|UNIQUE|FOREIGN|CHECK|NOT|DEFAULT)$/', $t->peek(1))
                ? null
                : $t->name();
            while ('' !== $t->any('CLUSTERED', 'NONCLUSTERED')) {
                continue;
            }
        }
        if ($t->take('PRIMARY', 'KEY')) {
            $this->primary($t, $table, $name);
        } elseif ('UNIQUE' === $t->peek() && $this->keys->isUnique($t, $name)) {
            $this->unique($t, $table, $name);
        } elseif ($t->take('FOREIGN', 'KEY')) {
            $t->take('IF', 'NOT', 'EXISTS');
            if ('(' !== $t->peek()) {
                $own = $t->name();
                $name ??= $this->dialect->catalog->indexesForeignKeys ? $own : null;
            }
            $this->keys->references($t, $table, $name, $this->keys->own($t, $table, $t->names()));
        } elseif ($t->take('CHECK')) {
            $this->check($t, $table, $name, null);
        } elseif ($t->take('EXCLUDE')) {
            $this->exclude($t, $table, $name);
        } elseif ('PERIOD' === $t->peek() && 'FOR' === $t->peek(1)) {
            $this->period($t, $table);
        } elseif (null !== $name && $t->take('DEFAULT')) {
            $default = $this->columns->default($t);
            if (!$t->take('FOR')) {
                throw $t->fault('“FOR” and a column were expected');
            }
            $this->columns->columnOf($t, $table)->default = $this->dialect->default($default, '');
        } elseif (null !== $name && $t->take('NOT', 'NULL')) {
            if ($t->isName()) {
                $this->columns->columnOf($t, $table)->nullable = false;
            }
        } else {
            $t->at = $start;

            return false;
        }

        return true;
    }

    private function primary(Tokens $t, TableBuilder $table, ?string $name): void
    {
        $t->any('CLUSTERED', 'NONCLUSTERED');
        if ($this->keys->usingIndex($t, $table, $name, true)) {
            return;
        }
        $method = $this->indexes->indexMethod($t);
        if ($t->isName() && 'INCLUDE' !== $t->peek()) {
            $t->name();
            $method = $this->indexes->indexMethod($t) ?: $method;
        }
        $parts = $this->keys->keyParts($t, $table);
        $tail = $this->indexes->indexTail($t);
        $this->keys->primary($table, $name, $parts, [$tail[0], $tail[1] ?: $method]);
    }

    private function unique(Tokens $t, TableBuilder $table, ?string $name): void
    {
        $t->skip();
        $t->any('KEY', 'INDEX', 'CLUSTERED', 'NONCLUSTERED');
        $t->take('IF', 'NOT', 'EXISTS');
        if ($t->take('NULLS')) {
            $t->take('NOT');
            $t->take('DISTINCT');
        }
        if ($this->keys->usingIndex($t, $table, $name, false)) {
            return;
        }
        if ('(' !== $t->peek() && 'USING' !== $t->peek()) {
            // Where a constraint is an index, the name of the index is the one that is kept.
            $name = $t->name();
        }
        $method = $this->indexes->indexMethod($t);
        $parts = $this->keys->keyParts($t, $table);
        $tail = $this->indexes->indexTail($t);
        $this->keys->unique($table, $name, $parts, [$tail[0], $tail[1] ?: $method]);
    }

    /** PERIOD FOR: two columns that say from when to when a row holds. */
    private function period(Tokens $t, TableBuilder $table): void
    {
        $t->take('PERIOD', 'FOR');
        $name = $t->name();
        [$from, $to] = $this->keys->own($t, $table, $t->names()) + [1 => ''];
        if ('SYSTEM_TIME' === strtoupper($name)) {
            return;
        }
        $table->periods[$name] = [$from, $to];
        $this->keys->require($table, [$from, $to]);
        $table->checks[] = new CheckConstraint($name, \sprintf('`%s` < `%s`', $from, $to));
    }

    private function exclude(Tokens $t, TableBuilder $table, ?string $name): void
    {
        $method = $t->take('USING') ? strtolower($t->name()) : 'btree';
        $t->expect('(');
        $parts = $written = [];
        do {
            $from = $t->at;
            $part = $this->indexes->part($t);
            $element = $t->from($from);
            $t->expect('WITH');
            $sign = $t->at;
            $t->skip();
            if ('(' === $t->peek()) {
                $t->parenthesis();
            }
            $parts[] = $part;
            $written[] = [$part->column, $part->column === $element ? '' : $element, $t->from($sign)];
        } while ($t->take(','));
        $t->expect(')');
        $this->indexes->indexTail($t, true);
        $where = $t->take('WHERE') ? $t->parenthesis() : null;
        $this->keys->constraintTail($t);
        $columns = IndexDefinitions::columnsOf($parts);
        $name ??= $this->made->indexName($table, $parts, 'excl');
        $this->made->take($table->schema, $name);
        $list = implode(
            ', ',
            array_map(static fn (array $each): string => '' === $each[1] ? "\x03$each[0]\x03 WITH $each[2]" : "$each[1] WITH $each[2]", $written),
        );
        $table->checks[] = new CheckConstraint($name, "EXCLUDE USING $method ($list)".(null === $where ? '' : " WHERE (\x04$where\x04)"));
        $table->indexes[] = new Index($name, $parts, false, $method, '', $where);
    }

    public function check(Tokens $t, TableBuilder $table, ?string $name, ?string $column): void
    {
        $t->take('NOT', 'FOR', 'REPLICATION');
        $expression = $t->parenthesis();
        $named = $name ?? (null === $column ? '' : $this->dialect->columnCheck($table->name, $column)[0]);
        $of = match (true) {
            null === $column => null,
            null === $name => $this->dialect->columnCheck($table->name, $column)[1],
            default => $this->dialect->checkedColumn($column),
        };
        if ('' === $named && $this->dialect->catalog->namesChecksAtOnce) {
            $used = Mentions::of($expression, $this->dialect)->among($table);
            $named = $this->made->named($table->schema, $table->name, 1 === \count($used) ? $used[0] : '', 'check');
        } elseif ('' !== $named && $this->dialect->catalog->namesChecksAtOnce) {
            $this->made->take($table->schema, $named);
        }
        if ('' !== $named && null !== $column && $this->dialect->catalog->oneCheckAColumn) {
            $table->checks = array_values(array_filter($table->checks, static fn (CheckConstraint $check): bool => $check->column !== $of || null === $of));
        }
        $table->checks[] = new CheckConstraint($named, $expression, $of);
        if ($this->keys->constraintTail($t)) {
            $table->ownChecks[$named] = true;
        }
    }
}
