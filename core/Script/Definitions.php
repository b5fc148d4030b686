<?php

declare(strict_types=1);

namespace Fasti\Core\Script;

use Fasti\Core\Catalog\CheckConstraint;
use Fasti\Core\Catalog\Generated;
use Fasti\Core\Catalog\Index;
use Fasti\Core\Catalog\IndexPart;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Dialect\Grammar;
use Fasti\Core\Dialect\TypeText;
use Fasti\Core\Sql\Lexer;
use Fasti\Core\Sql\Parser;
use Fasti\Core\Sql\SqlFault;
use Fasti\Core\Sql\Tokens;

/** Reads what stands between the parentheses of CREATE TABLE, and what ALTER TABLE … ADD brings: columns and constraints. */
final readonly class Definitions
{
    private const CONSTRAINTS = ['CONSTRAINT', 'PRIMARY', 'UNIQUE', 'FOREIGN', 'CHECK', 'EXCLUDE', 'PERIOD'];
    private const AFTER_NAME = ['PRIMARY', 'UNIQUE', 'FOREIGN', 'CHECK', 'NOT', 'DEFAULT'];
    private const TYPE_ENDS = [
        ',', ')', '', 'NOT', 'NULL', 'DEFAULT', 'PRIMARY', 'UNIQUE', 'REFERENCES', 'CHECK', 'GENERATED', 'CONSTRAINT', 'COLLATE', 'AS', 'ON', 'COMMENT',
        'AUTO_INCREMENT', 'AUTOINCREMENT', 'IDENTITY', 'USING', 'KEY', 'STORAGE', 'COMPRESSION', 'CHARACTER', 'CHARSET', 'FIRST', 'AFTER',
    ];
    private const TYPE_WORDS = ['PRECISION', 'VARYING', 'UNSIGNED', 'SIGNED', 'ZEROFILL', 'LARGE', 'OBJECT', 'BYTE'];
    /** Words and how many follow them that say nothing about what a column holds. */
    private const OF_NO_MATTER = [
        'INVISIBLE' => 0, 'VISIBLE' => 0, 'SPARSE' => 0, 'ROWGUIDCOL' => 0, 'ENABLE' => 0, 'DISABLE' => 0, 'VALIDATE' => 0, 'NOVALIDATE' => 0, 'HIDDEN' => 0,
        'CLUSTERED' => 0, 'NONCLUSTERED' => 0, 'ENFORCED' => 0, 'PERSISTED' => 0, 'RELY' => 0, 'NORELY' => 0, 'SORT' => 0, 'ENCRYPT' => 0,
        'COLUMN_FORMAT' => 1, 'STORAGE' => 1, 'COMPRESSION' => 1, 'SRID' => 1, 'REF_SYSTEM_ID' => 1, 'ENGINE_ATTRIBUTE' => 1, 'TABLESPACE' => 1,
        'SECONDARY_ENGINE_ATTRIBUTE' => 1, 'MASKED' => 0, 'SERIAL_' => 0,
    ];

    public function __construct(private Grammar $dialect, private Schemas $made)
    {
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
            if (',' !== $t->peek() && ')' !== $t->peek() && !$this->dialect->looseLists) {
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
        if (!$this->constraint($t, $table) && !$this->inlineIndex($t, $table) && !$noColumn) {
            $this->column($t, $table);
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
        if (!$this->dialect->likeChooses) {
            $what = array_fill_keys(array_keys($what), true);
        }
        foreach ($model->columns as $of) {
            $column = clone $of;
            $column->nullable = $of->nullable && !\in_array($of->name, $model->primary->columns ?? [], true);
            [$column->inherited, $column->local] = [0, true];
            if (null !== $of->generated && !$what['GENERATED'] || null === $of->generated && !$of->identity && !$what['DEFAULTS']) {
                [$column->generated, $column->default, $column->sequence, $column->auto] = [null, null, null, false];
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
            $this->primary($table, null, $index->parts ?? [], ['', $index->method ?? '']);
        }
        foreach ($model->indexes as $index) {
            if (null !== $model->primary && $index->name === $this->dialect->primaryIndexName($model->primary->name)) {
                continue;
            }
            $keys = array_filter($model->unique, static fn (Key $key): bool => $key->name === $index->name);
            if ([] !== $keys) {
                $this->unique($table, null, $index->parts, [$comments ? $index->comment : '', $index->method]);
            } else {
                $name = $this->made->indexName($table, $index->parts);
                $comment = $comments ? $index->comment : '';
                $table->indexes[] = new Index($name, $index->parts, $index->unique, $index->method, $comment, $index->where);
            }
        }
        foreach ($this->dialect->keysAreIndexes ? [] : $model->unique as $key) {
            $this->unique($table, null, array_map(static fn (string $column): IndexPart => new IndexPart($column), $key->columns), ['', '']);
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
            $t->any('CLUSTERED', 'NONCLUSTERED');
            if ($this->usingIndex($t, $table, $name, true)) {
                return true;
            }
            $method = $this->indexMethod($t);
            if ($t->isName() && 'INCLUDE' !== $t->peek()) {
                $t->name();
                $method = $this->indexMethod($t) ?: $method;
            }
            $parts = $this->keyParts($t, $table);
            $tail = $this->indexTail($t);
            $this->primary($table, $name, $parts, [$tail[0], $tail[1] ?: $method]);
        } elseif ('UNIQUE' === $t->peek() && $this->isUnique($t, $name)) {
            $t->skip();
            $t->any('KEY', 'INDEX', 'CLUSTERED', 'NONCLUSTERED');
            $t->take('IF', 'NOT', 'EXISTS');
            if ($t->take('NULLS')) {
                $t->take('NOT');
                $t->take('DISTINCT');
            }
            if ($this->usingIndex($t, $table, $name, false)) {
                return true;
            }
            if ('(' !== $t->peek() && 'USING' !== $t->peek()) {
                // Where a constraint is an index, the name of the index is the one that is kept.
                $name = $t->name();
            }
            $method = $this->indexMethod($t);
            $parts = $this->keyParts($t, $table);
            $tail = $this->indexTail($t);
            $this->unique($table, $name, $parts, [$tail[0], $tail[1] ?: $method]);
        } elseif ($t->take('FOREIGN', 'KEY')) {
            $t->take('IF', 'NOT', 'EXISTS');
            if ('(' !== $t->peek()) {
                $own = $t->name();
                $name ??= $this->dialect->indexesForeignKeys ? $own : null;
            }
            $this->references($t, $table, $name, $this->own($t, $table, $t->names()));
        } elseif ($t->take('CHECK')) {
            $this->check($t, $table, $name, null);
        } elseif ($t->take('EXCLUDE')) {
            $this->exclude($t, $table, $name);
        } elseif ('PERIOD' === $t->peek() && 'FOR' === $t->peek(1)) {
            $this->period($t, $table);
        } elseif (null !== $name && $t->take('DEFAULT')) {
            $default = $this->default($t);
            if (!$t->take('FOR')) {
                throw $t->fault('“FOR” and a column were expected');
            }
            $this->columnOf($t, $table)->default = $this->dialect->default($default, '');
        } elseif (null !== $name && $t->take('NOT', 'NULL')) {
            if ($t->isName()) {
                $this->columnOf($t, $table)->nullable = false;
            }
        } else {
            $t->at = $start;

            return false;
        }

        return true;
    }

    private function isUnique(Tokens $t, ?string $name): bool
    {
        return '(' === $t->peek(1) || null !== $name || '(' === $t->peek(2) || 'IF' === $t->peek(2) || 'USING' === $t->peek(1) || 'USING' === $t->peek(2)
            || 'USING' === $t->peek(3) || \in_array($t->peek(1), ['KEY', 'INDEX', 'NULLS', 'CLUSTERED', 'NONCLUSTERED'], true);
    }

    public function columnOf(Tokens $t, TableBuilder $table): ColumnBuilder
    {
        $name = $t->name();
        $known = $table->columnNamed($name, $this->dialect->anyCase);

        return null === $known ? throw $t->fault(\sprintf('The table “%s” has no column “%s”', $table->name, $name)) : $table->columns[$known];
    }

    /** UNIQUE USING INDEX: an index that is there becomes a key. */
    private function usingIndex(Tokens $t, TableBuilder $table, ?string $name, bool $primary): bool
    {
        if (!$t->take('USING', 'INDEX')) {
            return false;
        }
        if ('TABLESPACE' === $t->peek() || $t->over() || ',' === $t->peek()) {
            $t->at -= 2;

            return false;
        }
        $known = $t->qualified()[1];
        $index = $table->index($known) ?? throw $t->fault(\sprintf('The table “%s” has no index “%s”', $table->name, $known));
        $table->dropIndex($known);
        $this->made->free($table->schema, $known);
        $name ??= $known;
        $this->made->take($table->schema, $name);
        $table->indexes[] = new Index($name, $index->parts, true, $index->method, $index->comment, $index->where);
        $columns = self::columnsOf($index->parts);
        if ([] === $columns) {
            throw $t->fault('The index has no columns');
        }
        $key = new Key($name, $columns);
        if ($primary) {
            $table->primary = $key;
            $this->require($table, $key->columns);
        } else {
            $table->unique[] = $key;
        }
        $this->constraintTail($t);

        return true;
    }

    /** PERIOD FOR: two columns that say from when to when a row holds. */
    private function period(Tokens $t, TableBuilder $table): void
    {
        $t->take('PERIOD', 'FOR');
        $name = $t->name();
        [$from, $to] = $this->own($t, $table, $t->names()) + [1 => ''];
        if ('SYSTEM_TIME' === strtoupper($name)) {
            return;
        }
        $table->periods[$name] = [$from, $to];
        $this->require($table, [$from, $to]);
        $table->checks[] = new CheckConstraint($name, \sprintf('`%s` < `%s`', $from, $to));
    }

    private function exclude(Tokens $t, TableBuilder $table, ?string $name): void
    {
        $method = $t->take('USING') ? strtolower($t->name()) : 'btree';
        $t->expect('(');
        $parts = $written = [];
        do {
            $from = $t->at;
            $part = $this->part($t);
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
        $this->indexTail($t, true);
        $where = $t->take('WHERE') ? $t->parenthesis() : null;
        $this->constraintTail($t);
        $columns = self::columnsOf($parts);
        $name ??= $this->made->indexName($table, $parts, 'excl');
        $this->made->take($table->schema, $name);
        $list = implode(
            ', ',
            array_map(static fn (array $each): string => '' === $each[1] ? "\x03$each[0]\x03 WITH $each[2]" : "$each[1] WITH $each[2]", $written),
        );
        $table->checks[] = new CheckConstraint($name, "EXCLUDE USING $method ($list)".(null === $where ? '' : " WHERE (\x04$where\x04)"));
        $table->indexes[] = new Index($name, $parts, false, $method, '', $where);
    }

    private function check(Tokens $t, TableBuilder $table, ?string $name, ?string $column): void
    {
        $t->take('NOT', 'FOR', 'REPLICATION');
        $expression = $t->parenthesis();
        $named = $name ?? (null === $column ? '' : $this->dialect->columnCheck($table->name, $column)[0]);
        $of = match (true) {
            null === $column => null,
            null === $name => $this->dialect->columnCheck($table->name, $column)[1],
            default => $this->dialect->checkedColumn($column),
        };
        if ('' === $named && $this->dialect->namesChecksAtOnce) {
            $used = Mentions::of($expression, $this->dialect)->among($table);
            $named = $this->made->named($table->schema, $table->name, 1 === \count($used) ? $used[0] : '', 'check');
        } elseif ('' !== $named && $this->dialect->namesChecksAtOnce) {
            $this->made->take($table->schema, $named);
        }
        if ('' !== $named && null !== $column && $this->dialect->oneCheckAColumn) {
            $table->checks = array_values(array_filter($table->checks, static fn (CheckConstraint $check): bool => $check->column !== $of || null === $of));
        }
        $table->checks[] = new CheckConstraint($named, $expression, $of);
        if ($this->constraintTail($t)) {
            $table->ownChecks[$named] = true;
        }
    }

    /** `KEY name (…)` and its kin within a table of MySQL's family. */
    private function inlineIndex(Tokens $t, TableBuilder $table): bool
    {
        if (!$this->dialect->inlineIndexes) {
            return $this->dialect->looseInlineIndexes && $this->looseIndex($t, $table);
        }
        $start = $t->at;
        $method = strtolower($t->any('FULLTEXT', 'SPATIAL', 'VECTOR'));
        if ('' === $t->any('KEY', 'INDEX') && '' === $method) {
            $t->at = $start;

            return false;
        }
        $t->take('IF', 'NOT', 'EXISTS');
        $name = $t->isName() && '(' !== $t->peek() && !('USING' === $t->peek() && '(' !== $t->peek(1)) ? $t->name() : null;
        $using = $this->indexMethod($t);
        if ('(' !== $t->peek() || ('' === $method && '(' === $t->peek() && null === $name && Lexer::NUMBER === $t->kind(1))) {
            // A column may be called like that.
            $t->at = $start;

            return false;
        }
        $parts = $this->keyParts($t, $table);
        $tail = $this->indexTail($t);
        $this->index($table, $name, $parts, false, $method ?: $tail[1] ?: $using, $tail[0]);

        return true;
    }

    /** INDEX name (…) within a table, as other engines have it. */
    private function looseIndex(Tokens $t, TableBuilder $table): bool
    {
        if ('INDEX' !== $t->peek() || !\in_array($t->kind(1), [Lexer::WORD, Lexer::QUOTED], true)) {
            return false;
        }
        $start = $t->at;
        $t->skip();
        $name = $t->name();
        $unique = $t->take('UNIQUE');
        $t->any('CLUSTERED', 'NONCLUSTERED');
        if ('(' !== $t->peek()) {
            $t->at = $start;

            return false;
        }
        $this->index($table, $name, $this->parts($t), $unique, '', $this->indexTail($t)[0]);

        return true;
    }

    /** @param list<IndexPart> $parts */
    public function index(TableBuilder $table, ?string $name, array $parts, bool $unique, string $method, string $comment, ?string $where = null): void
    {
        if ($this->dialect->indexesForeignKeys) {
            $this->replaceMade($table, self::columnsOf($parts), $parts);
        }
        $name ??= $this->made->indexName($table, $parts);
        $table->indexes[] = new Index($name, $this->dialect->indexParts($parts, $method), $unique, '' === $method ? 'btree' : $method, $comment, $where);
        $this->made->take($table->schema, $name);
    }

    /**
     * An index that the engine made for a foreign key goes as soon as another one serves it.
     *
     * @param list<string>    $columns
     * @param list<IndexPart> $parts
     */
    private function replaceMade(TableBuilder $table, array $columns, array $parts): void
    {
        foreach (array_keys($table->made) as $made) {
            $index = $table->index((string) $made);
            $of = null === $index ? [] : self::columnsOf($index->parts);
            $needed = \array_slice($parts, 0, \count($of));
            if (null !== $index && \array_slice($columns, 0, \count($of)) === $of && TableBuilder::isWhole($needed)) {
                $table->dropIndex((string) $made);
            }
        }
    }

    /** A column with its options, in place of one that is there where `$instead` says so. */
    public function column(Tokens $t, TableBuilder $table, ?string $instead = null): void
    {
        $name = $t->name();
        if (null === $instead && null !== $table->columnNamed($name, $this->dialect->anyCase)) {
            throw $t->fault(\sprintf('The table “%s” has a column “%s” already', $table->name, $name));
        }
        $column = new ColumnBuilder($name);
        [$word, $after] = $this->typed($t, $column);
        if (null !== $instead) {
            $this->renamed($table, $instead, $name);
        }
        $table->place($column, null, null === $instead ? null : $name);
        if (!isset($table->columns[$name])) {
            $table->columns[$name] = $column;
        }
        foreach ($this->dialect->serial($word) as $what => $value) {
            match ($what) {
                'nullable' => $column->nullable = (bool) $value,
                'auto' => $column->auto = (bool) $value,
                'sequence' => $this->numbered($table, $column),
                'unique' => $this->unique($table, null, [new IndexPart($name)], ['', '']),
                default => null,
            };
        }
        $column->words = $this->dialect->charsetTexts ? strtolower($after) : '';
        if ($this->dialect->jsonIsText && 'json' === strtolower($word)) {
            [$column->charset, $column->collation] = ['utf8mb4', 'utf8mb4_bin'];
            $table->checks[] = new CheckConstraint($name, "json_valid(`$name`)", $name);
        }
        $place = null;
        while (!$t->over() && ',' !== $t->peek() && ')' !== $t->peek()) {
            $from = $t->at;
            if ($this->dialect->placesColumns && $t->take('FIRST')) {
                $place = '';
            } elseif ($this->dialect->placesColumns && $t->take('AFTER')) {
                $place = $this->columnOf($t, $table)->name;
            } elseif ($this->dialect->looseLists
                && \in_array($t->peek(), ['FOREIGN', 'UNIQUE', 'PRIMARY', 'CHECK', 'CONSTRAINT'], true)
                && $this->isOfTable($t)) {
                break;
            } else {
                $this->columnOption($t, $table, $column);
            }
            if ($t->at === $from) {
                throw $t->fault(\sprintf('The definition of the column “%s” could not be read', $name));
            }
        }
        if (null !== $place) {
            $table->place($column, $place);
        }
    }

    /** Whether a constraint of the table begins, where no comma stands before it. */
    private function isOfTable(Tokens $t): bool
    {
        $ahead = 'CONSTRAINT' === $t->peek() ? 2 : 0;

        return 'FOREIGN' === $t->peek($ahead) || ('UNIQUE' === $t->peek($ahead) && '(' === $t->peek($ahead + 1))
            || ('PRIMARY' === $t->peek($ahead) && '(' === $t->peek($ahead + 2));
    }

    /** What is known of a column goes over to its new name. */
    public function renamed(TableBuilder $table, string $was, string $is): void
    {
        if ($was !== $is) {
            (new Renaming($this->dialect, $this->made))->column($table, $was, $is);
        }
    }

    /** A sequence of its own numbers the column. */
    private function numbered(TableBuilder $table, ColumnBuilder $column): void
    {
        $name = $this->made->named($table->schema, $table->name, $column->name, 'seq');
        $column->sequence = $table->schema."\0".$name;
        $this->made->sequences[$column->sequence] = [$table->schema, $name];
        $this->made->owners[$column->sequence] = 'owned';
        [$column->default, $column->auto] = ["\x05", true];
    }

    /** Options of a column whose type is known already. */
    public function optionsOf(Tokens $t, TableBuilder $table, ColumnBuilder $column): void
    {
        while (!$t->over() && ',' !== $t->peek() && ')' !== $t->peek()) {
            $this->columnOption($t, $table, $column);
        }
    }

    private function columnOption(Tokens $t, TableBuilder $table, ColumnBuilder $column): void
    {
        $name = $column->name;
        $label = null;
        if ($t->take('CONSTRAINT')) {
            $label = $t->name();
        }
        if ($t->take('NOT', 'NULL')) {
            [$column->nullable, $column->nullSaid] = [false, true];
            $this->conflict($t);
        } elseif ($t->take('NULL')) {
            [$column->nullable, $column->nullSaid] = [true, true];
            $this->conflict($t);
        } elseif ($t->take('WITH', 'OPTIONS') || $t->take('NOT', 'FOR', 'REPLICATION')) {
            return;
        } elseif ('DEFAULT' === $t->peek() || ('WITH' === $t->peek() && 'DEFAULT' === $t->peek(1))) {
            $t->take('WITH');
            $t->skip();
            $t->take('ON', 'NULL');
            $this->setDefault($t, $column);
        } elseif ($t->take('SERIAL', 'DEFAULT', 'VALUE')) {
            [$column->auto, $column->nullable] = [true, false];
            $this->unique($table, null, [new IndexPart($name)], ['', '']);
        } elseif ($t->take('PRIMARY', 'KEY')) {
            $t->any('CLUSTERED', 'NONCLUSTERED');
            $direction = $t->any('ASC', 'DESC');
            $this->conflict($t);
            $this->primary($table, $label, [new IndexPart($name, null, 'DESC' === $direction)], ['', '']);
            if ('DESC' === $direction && $this->dialect->rowids) {
                // Said with the column, a key that goes down is no row number.
                $table->withoutAlias = true;
            }
            $this->indexTail($t, true);
        } elseif ($this->dialect->inlineIndexes && $t->take('KEY')) {
            $this->primary($table, $label, [new IndexPart($name)], ['', '']);
        } elseif ($t->take('UNIQUE')) {
            $t->any('KEY', 'CLUSTERED', 'NONCLUSTERED');
            if ($t->take('NULLS')) {
                $t->take('NOT');
                $t->take('DISTINCT');
            }
            $this->conflict($t);
            $this->unique($table, $label, [new IndexPart($name)], ['', '']);
            $this->indexTail($t, true);
        } elseif ('REFERENCES' === $t->peek() || ('FOREIGN' === $t->peek() && 'REFERENCES' === $t->peek(2))) {
            $t->take('FOREIGN', 'KEY');
            $this->references($t, $table, $label, [$name]);
        } elseif ($t->take('CHECK')) {
            $this->check($t, $table, $label, $name);
        } elseif ('GENERATED' === $t->peek() || 'AS' === $t->peek()) {
            $this->generatedOption($t, $column);
        } elseif ($t->take('COMMENT')) {
            $column->comment = $t->text() ?? throw $t->fault('A text was expected');
        } elseif ('' !== $t->any('AUTO_INCREMENT', 'AUTOINCREMENT', 'IDENTITY')) {
            $column->auto = true;
            if ('(' === $t->peek()) {
                $t->parenthesis();
            }
        } elseif ($t->take('ON', 'UPDATE')) {
            $column->onUpdate = $this->dialect->now($this->default($t));
        } elseif ($t->take('COLLATE')) {
            $t->take('=');
            $column->collation = $t->text() ?? $t->qualified()[1];
        } elseif ($t->take('CHARACTER', 'SET') || $t->take('CHARSET')) {
            $t->take('=');
            $column->charset = strtolower($t->text() ?? $t->name());
        } elseif ($t->take('COMPRESSED')) {
            if ($t->take('=')) {
                $t->skip();
            }
            $column->type .= $this->dialect->compressedWord;
        } elseif ($t->take('WITH', 'SYSTEM', 'VERSIONING') || $t->take('WITHOUT', 'SYSTEM', 'VERSIONING')) {
            return;
        } elseif ($this->dialect->charsetTexts && '' !== ($word = $t->any('ASCII', 'UNICODE', 'BINARY', 'BYTE'))) {
            $column->words .= ' '.strtolower($word);
        } elseif (isset(self::OF_NO_MATTER[$t->peek()])) {
            $count = self::OF_NO_MATTER[$t->peek()];
            $t->skip();
            $t->take('=');
            while ($count-- > 0) {
                $t->skip();
            }
        } elseif (!$this->deferral($t)) {
            if (!$this->dialect->looseOptions) {
                throw $t->fault(\sprintf('In the definition of the column “%s”, this is not understood', $name));
            }
            $t->skip();
            if ('(' === $t->peek()) {
                $t->parenthesis();
            }
        }
    }

    public function setDefault(Tokens $t, ColumnBuilder $column): void
    {
        $default = $this->default($t);
        [$column->sequence, $column->default] = [null, 'NULL' === strtoupper($default) ? null : $default];
        $sequence = $this->dialect->sequenceIn($default);
        if (null !== $sequence) {
            $column->sequence = $this->made->sequence(...$sequence);
            [$column->default, $column->auto] = ["\x05", $this->dialect->sequencesNumber];
        } elseif ($this->dialect->sequencesNumber) {
            $column->auto = str_starts_with(strtolower($default), 'nextval(');
        }
    }

    /** An expression without parentheses around it, up to where it ends. */
    private function default(Tokens $t): string
    {
        return $this->upTo($t, $this->dialect->defaultBinding) ?? $t->expression();
    }

    /** The expression that comes next, as it is written; null where it cannot be read, and nothing is taken then. */
    private function upTo(Tokens $t, int $binding): ?string
    {
        $from = $t->at;
        $collate = $t->dialect->binding['COLLATE'] ?? null;
        // What COLLATE says stands behind the expression, not within it.
        $t->dialect->binding['COLLATE'] = -1;
        try {
            (new Parser($t))->expressions->expression($binding);
        } catch (SqlFault) {
            $t->at = $from;
        }
        if (null === $collate) {
            unset($t->dialect->binding['COLLATE']);
        } else {
            $t->dialect->binding['COLLATE'] = $collate;
        }

        return $from === $t->at ? null : $t->from($from);
    }

    private function generatedOption(Tokens $t, ColumnBuilder $column): void
    {
        if ($t->take('GENERATED')) {
            $t->take('BY') ? $t->expect('DEFAULT') : $t->take('ALWAYS');
            $t->take('ON', 'NULL');
        }
        $t->expect('AS');
        if ($t->take('IDENTITY')) {
            [$column->auto, $column->nullable, $column->identity] = [true, false, true];
            if ('(' === $t->peek()) {
                $t->parenthesis();
            }
        } elseif ($t->take('ROW')) {
            $edge = $t->any('START', 'END') ?: throw $t->fault('“START” or “END” was expected');
            [$column->generated, $column->nullable] = [new Generated('ROW '.$edge, true), false];
            $t->take('HIDDEN');
        } else {
            $expression = $t->parenthesis();
            $stored = $t->any('STORED', 'PERSISTENT', 'VIRTUAL', 'PERSISTED');
            $column->generated = new Generated($expression, '' !== $stored && 'VIRTUAL' !== $stored);
        }
    }

    /**
     * @return array{string, string} its first words, and what stands behind its options
     */
    public function typed(Tokens $t, ColumnBuilder $column): array
    {
        [$base, $options, $after] = $this->type($t);
        $own = '' === $base ? null : $this->made->typeKey($base);
        $array = 1 === preg_match('/\[|\barray\b/i', $after);
        [$column->ownType, $column->type] = [null === $own ? null : $own.($array ? '[]' : ''), $this->dialect->type($base, $options, $after)];

        return [$base, $after];
    }

    /** A type as the engine's catalog writes it. */
    public function typeText(Tokens $t): string
    {
        return $this->dialect->type(...$this->type($t));
    }

    /** @return array{string, string, string} its words, its options, and the words behind them */
    public function type(Tokens $t): array
    {
        if (Lexer::TEXT === $t->kind() && $this->dialect->quotedTextsAsNames) {
            $from = $t->at;
            $t->name();

            return [$t->from($from), '(' === $t->peek() ? $t->parenthesis() : '', ''];
        }
        if (!$t->isName() || ('' !== $t->peek() && \in_array($t->peek(), self::TYPE_ENDS, true) && 'CHARACTER' !== $t->peek())) {
            return ['', '', ''];
        }
        $from = $t->at;
        $first = $t->peek();
        $t->name();
        while ($t->take('.')) {
            $t->name();
        }
        $more = match ($first) {
            'DOUBLE' => ['PRECISION'],
            'NATIONAL' => ['CHARACTER', 'CHAR', 'VARCHAR', 'VARYING', 'LARGE', 'OBJECT'],
            'CHARACTER', 'CHAR', 'BIT', 'NCHAR' => ['VARYING', 'LARGE', 'OBJECT', 'VARCHAR'],
            'LONG' => ['VARCHAR', 'VARBINARY', 'RAW', 'CHAR', 'BYTE'],
            'BINARY' => ['VARYING', 'LARGE', 'OBJECT'],
            default => [],
        };
        while (\in_array($t->peek(), $more, true) || ($this->dialect->wordyTypes && $t->isName() && !$this->endsType($t->peek()))) {
            $t->skip();
        }
        $base = (string) preg_replace('/\s+/', ' ', $t->from($from));
        $after = '';
        if ('INTERVAL' === $first && 1 === preg_match('/^(?:YEAR|MONTH|DAY|HOUR|MINUTE|SECOND)$/', $t->peek())) {
            $from = $t->at;
            $t->skip();
            if ($t->take('TO')) {
                $t->skip();
            }
            $base .= ' '.strtolower($t->from($from));
        }
        $options = '(' === $t->peek() ? $t->parenthesis() : '';
        $from = $t->at;
        while (\in_array($t->peek(), self::TYPE_WORDS, true) || !\in_array($t->peek(), self::TYPE_ENDS, true)) {
            if (\in_array($t->peek(), self::TYPE_WORDS, true)) {
                $t->skip();
            } elseif ('[' === $t->peek()) {
                while (!$t->over() && !$t->take(']')) {
                    $t->skip();
                }
            } elseif (!$t->take('WITH', 'TIME', 'ZONE') && !$t->take('WITHOUT', 'TIME', 'ZONE') && !$t->take('WITH', 'LOCAL', 'TIME', 'ZONE')
                && !($this->dialect->arrays && $t->take('ARRAY'))) {
                break;
            }
        }

        return [$base, $options, trim($after.' '.$t->from($from))];
    }

    private function endsType(string $word): bool
    {
        return \in_array(
            $word,
            ['', 'NOT', 'NULL', 'DEFAULT', 'PRIMARY', 'UNIQUE', 'REFERENCES', 'CHECK', 'GENERATED', 'CONSTRAINT', 'COLLATE', 'AS', 'ON'],
            true,
        );
    }

    /** @param list<string> $columns */
    public function require(TableBuilder $table, array $columns): void
    {
        foreach ($this->dialect->rowids ? [] : $columns as $name) {
            if (isset($table->columns[$name])) {
                $table->columns[$name]->nullable = false;
            }
        }
    }

    /** @param list<string> $columns */
    private function renameKept(TableBuilder $table, array $columns, ?string $name): void
    {
        $kept = $columns === ($table->primary->columns ?? null)
            ? $table->primary
            : array_values(array_filter($table->unique, static fn (Key $key): bool => $key->columns === $columns))[0] ?? null;
        if (null === $name || null === $kept || !isset($table->unnamed[(string) $kept->name])) {
            return;
        }
        $this->made->free($table->schema, (string) $kept->name);
        $this->made->take($table->schema, $name);
        $table->renameIndex((string) $kept->name, $name);
    }

    private function isNew(TableBuilder $table): bool
    {
        return null === $this->made->find($table->schema, $table->name);
    }

    /** @param list<string> $columns */
    private function repeats(TableBuilder $table, array $columns): bool
    {
        return $columns === ($table->primary->columns ?? null) || [] !== array_filter($table->unique, static fn (Key $key): bool => $key->columns === $columns);
    }

    /**
     * @param list<IndexPart>       $parts
     * @param array{string, string} $tail
     */
    public function primary(TableBuilder $table, ?string $name, array $parts, array $tail): void
    {
        $columns = self::columnsOf($parts);
        if ([] === $columns) {
            return;
        }
        foreach ($this->dialect->namesChecksAtOnce && $this->isNew($table) ? $table->unique : [] as $key) {
            if ($key->columns === $columns) {
                $table->dropIndex((string) $key->name);
                $this->made->free($table->schema, (string) $key->name);
                // Of two equal keys, the primary one stays, by the name that either of them says.
                $name ??= isset($table->unnamed[(string) $key->name]) ? null : $key->name;
            }
        }
        $said = $this->dialect->primaryKeyName($table->name, $name);
        $made = new Key(null === $name && null !== $said ? $this->made->named($table->schema, $table->name, '', 'pkey') : $said, $columns);
        $table->primary = $made;
        if (null === $name) {
            $table->unnamed[(string) $made->name] = true;
        }
        $this->require($table, $columns);
        if ($this->dialect->keysAreIndexes) {
            $index = $this->dialect->primaryIndexName($made->name);
            if ($this->dialect->indexesForeignKeys) {
                $this->replaceMade($table, $columns, $parts);
            }
            $table->indexes[] = new Index($index, $parts, true, $tail[1] ?: 'btree', $tail[0]);
            $this->made->take($table->schema, $index);
        }
    }

    /**
     * @param list<IndexPart>       $parts
     * @param array{string, string} $tail  comment and method
     */
    public function unique(TableBuilder $table, ?string $name, array $parts, array $tail): void
    {
        $columns = self::columnsOf($parts);
        if ([] === $columns) {
            return;
        }
        if ($this->dialect->namesChecksAtOnce && $this->isNew($table) && $this->repeats($table, $columns)) {
            // The engine keeps one of two equal keys of a statement, by the name that one of them says.
            $this->renameKept($table, $columns, $name);

            return;
        }
        if (null === $name) {
            $unnamed = true;
        }
        if ($this->dialect->indexesForeignKeys) {
            $this->replaceMade($table, $columns, $parts);
        }
        if (null === $name && $this->dialect->keysAreIndexes) {
            $name = $this->made->indexName($table, $parts, 'key');
        }
        if (isset($unnamed)) {
            $table->unnamed[(string) $name] = true;
        }
        $parts = $this->dialect->indexParts($parts, $tail[1]);
        if (TableBuilder::isWhole($parts)) {
            $table->unique[] = new Key($name, $columns);
        }
        if ($this->dialect->keysAreIndexes) {
            $table->indexes[] = new Index((string) $name, $parts, true, $tail[1] ?: 'btree', $tail[0]);
            $this->made->take($table->schema, (string) $name);
        }
    }

    /** @param list<string> $columns */
    public function references(Tokens $t, TableBuilder $table, ?string $name, array $columns): void
    {
        $t->expect('REFERENCES');
        [$schema, $far] = $t->qualified();
        $farColumns = '(' === $t->peek() ? $t->names() : [];
        $unsaid = $this->dialect->unsaidAction;
        [$onDelete, $onUpdate] = [$unsaid, $unsaid];
        while (true) {
            if ($t->take('ON', 'DELETE')) {
                $onDelete = $this->action($t);
            } elseif ($t->take('ON', 'UPDATE')) {
                $onUpdate = $this->action($t);
            } elseif ($t->take('MATCH')) {
                $t->skip();
            } elseif (!$this->deferral($t)) {
                break;
            }
        }
        if ([] === $columns) {
            throw $t->fault('A foreign key names no column');
        }
        $target = $this->made->find($schema, $far);
        if (null === $target && 0 === strcasecmp($far, $table->name) && ($schema ?? $table->schema) === $table->schema) {
            $target = $table;
        }
        if (null !== $target) {
            // A name without a schema may be found in another than this table's.
            $schema = $target->schema === $table->schema && null === $schema ? null : $target->schema;
            $far = $this->dialect->keepsReferenceNames ? $far : $target->name;
            $farColumns = array_map(fn (string $column): string => $this->dialect->keepsReferenceNames ? $column
                : $target->columnNamed($column, $this->dialect->anyCase) ?? $column, $farColumns);
            if ([] === $farColumns && !$this->dialect->keepsReferenceNames) {
                $farColumns = $target->primary->columns ?? [];
            }
        } elseif (null !== $schema && $schema === $table->schema) {
            $schema = null;
        }
        $table->foreign[] = [
            'name' => $name, 'columns' => $columns, 'schema' => $schema, 'table' => $far, 'far' => $farColumns, 'onDelete' => $onDelete,
            'onUpdate' => $onUpdate,
        ];
    }

    private function action(Tokens $t): string
    {
        $action = match (true) {
            $t->take('CASCADE') => 'CASCADE',
            $t->take('RESTRICT') => 'RESTRICT',
            $t->take('SET', 'NULL') => 'SET NULL',
            $t->take('SET', 'DEFAULT') => 'SET DEFAULT',
            $t->take('NO', 'ACTION') => 'NO ACTION',
            default => throw $t->fault('A referential action was expected'),
        };
        if (str_starts_with($action, 'SET') && '(' === $t->peek()) {
            $t->parenthesis();
        }

        return $action;
    }

    private function deferral(Tokens $t): bool
    {
        return $t->take('NOT', 'DEFERRABLE')
            || $t->take('DEFERRABLE')
            || $t->take('INITIALLY', 'DEFERRED')
            || $t->take('INITIALLY', 'IMMEDIATE')
            || $t->take('NOT', 'VALID')
            || $t->take('ENABLE')
            || $t->take('DISABLE') || $t->take('NOT', 'FOR', 'REPLICATION') || $t->take('NOVALIDATE') || $t->take('VALIDATE') || $t->take('RELY');
    }

    /** @return bool whether it is not for those that inherit */
    private function constraintTail(Tokens $t): bool
    {
        $own = false;
        do {
            $from = $t->at;
            $own = $t->take('NO', 'INHERIT') || $own;
            if (!$this->deferral($t) && !$t->take('NOT', 'ENFORCED')) {
                $t->take('ENFORCED');
            }
        } while ($from < $t->at);
        $this->conflict($t);

        return $own;
    }

    private function conflict(Tokens $t): void
    {
        if ($t->take('ON', 'CONFLICT')) {
            $t->skip();
        }
    }

    /**
     * Columns of the table by the names under which it knows them.
     *
     * @param list<string> $names
     *
     * @return list<string>
     */
    private function own(Tokens $t, TableBuilder $table, array $names): array
    {
        return array_map(fn (string $name): string => $table->columnNamed($name, $this->dialect->anyCase) ?? $name, $names);
    }

    /** @return list<IndexPart> over columns of the table by the names under which it knows them */
    private function keyParts(Tokens $t, TableBuilder $table): array
    {
        $parts = [];
        foreach ($this->parts($t) as $part) {
            if (str_starts_with($part->column, "\x08")) {
                [$from, $to] = $table->periods[substr($part->column, 1)] ?? throw $t->fault(\sprintf('There is no period “%s”', substr($part->column, 1)));
                array_push($parts, new IndexPart($to), new IndexPart($from));
                continue;
            }
            $name = $table->columnNamed($part->column, $this->dialect->anyCase) ?? $part->column;
            $length = isset($table->columns[$name]) ? self::partLength($part->length, $table->columns[$name]->type) : $part->length;
            $parts[] = new IndexPart($name, $length, $part->descending);
        }

        return $parts;
    }

    /** How much of a column an index takes; null for all of it. */
    public static function partLength(?int $said, string $type): ?int
    {
        if (null === $said) {
            return null;
        }
        $text = TypeText::of($type);
        $long = 1 === preg_match('/text|blob|json|geometry|point|polygon|linestring|^$/', $text->name);

        return $long || (1 === preg_match('/char|binary/', $text->name) && $text->first() !== $said) ? $said : null;
    }

    /** @return list<IndexPart> of an index of this table */
    public function partsOf(Tokens $t, TableBuilder $table): array
    {
        return $this->keyParts($t, $table);
    }

    /** @return list<IndexPart> */
    public function parts(Tokens $t): array
    {
        $t->expect('(');
        $parts = [];
        do {
            $parts[] = $this->part($t);
            if ($this->dialect->rowids) {
                $t->take('AUTOINCREMENT');
            }
        } while ($t->take(','));
        $t->expect(')');

        return $parts;
    }

    private function part(Tokens $t): IndexPart
    {
        // A period in a key of its own: `p WITHOUT OVERLAPS`.
        if ($t->isName() && 'WITHOUT' === $t->peek(1) && 'OVERLAPS' === $t->peek(2)) {
            $name = $t->name();
            $t->take('WITHOUT', 'OVERLAPS');

            return new IndexPart("\x08".$name);
        }
        $length = null;
        $after = $t->peek(1);
        $plain = $t->isName() && (\in_array($after, [',', ')', 'ASC', 'DESC', 'COLLATE', 'NULLS', 'WITH', 'WITHOUT', 'ON', 'AUTOINCREMENT'], true)
            || ($this->dialect->operatorClasses && \in_array($t->kind(1), [Lexer::WORD, Lexer::QUOTED], true)));
        if ($plain) {
            $what = $t->name();
        } elseif (!$this->dialect->bareIndexCalls && $t->isName() && '(' === $after) {
            $what = $t->name();
            $length = (int) $t->parenthesis();
        } else {
            $what = $this->upTo($t, 0) ?? throw $t->fault('A column or an expression was expected');
        }
        if ($t->take('COLLATE')) {
            $t->text() ?? $t->qualified();
        }
        if ($this->dialect->operatorClasses && $t->isName() && !\in_array($t->peek(), ['ASC', 'DESC', 'NULLS', 'WITH'], true)) {
            $t->qualified();
            if ('(' === $t->peek()) {
                $t->parenthesis();
            }
        }
        $descending = 'DESC' === $t->any('ASC', 'DESC');
        if ($t->take('NULLS')) {
            $t->any('FIRST', 'LAST');
        }

        return new IndexPart($what, $length, $descending);
    }

    private function indexMethod(Tokens $t): string
    {
        return 'USING' === $t->peek() && 'INDEX' !== $t->peek(1) && $t->take('USING') ? strtolower($t->name()) : '';
    }

    /**
     * @param bool $short only what can stand behind a column or a constraint of it
     *
     * @return array{string, string} comment and method of an index or key, as options after its columns say them
     */
    public function indexTail(Tokens $t, bool $short = false): array
    {
        $comment = $method = '';
        while (!$t->over() && ',' !== $t->peek() && ')' !== $t->peek()) {
            if (!$short && $t->take('COMMENT')) {
                $t->take('=');
                $comment = $t->text() ?? '';
            } elseif ($t->take('USING', 'INDEX')) {
                if ($t->take('TABLESPACE')) {
                    $t->name();
                }
                if ('(' === $t->peek()) {
                    $t->parenthesis();
                }
            } elseif (!$short && $t->take('USING')) {
                $method = strtolower($t->name());
            } elseif ($t->take('INCLUDE')) {
                $t->parenthesis();
            } elseif ('WITH' === $t->peek() && '(' === $t->peek(1)) {
                $t->skip();
                $t->parenthesis();
            } elseif ('ON' === $t->peek() && 'CONFLICT' === $t->peek(1)) {
                $this->conflict($t);
            } elseif ('' !== ($word = $t->any('KEY_BLOCK_SIZE', 'ENGINE_ATTRIBUTE', 'SECONDARY_ENGINE_ATTRIBUTE', 'CLUSTERING', 'ALGORITHM', 'LOCK'))) {
                $t->take('=');
                $t->skip();
            } elseif ($t->take('WITH', 'PARSER')) {
                $t->name();
            } elseif ('' !== $t->any('VISIBLE', 'INVISIBLE', 'IGNORED', 'CLUSTERED', 'NONCLUSTERED', 'COMPRESS', 'LOGGING', 'NOLOGGING', 'REVERSE', 'ONLINE')
                || $t->take('NOT', 'IGNORED')) {
                continue;
            } elseif ($this->deferral($t)) {
                continue;
            } elseif ($short || $this->dialect->looseLists) {
                break;
            } elseif ($this->dialect->looseOptions) {
                $t->skip();
                if ('(' === $t->peek()) {
                    $t->parenthesis();
                }
            } else {
                break;
            }
        }

        return [$comment, $method];
    }

    /**
     * @param list<IndexPart> $parts
     *
     * @return list<string>
     */
    public static function columnsOf(array $parts): array
    {
        return array_map(static fn (IndexPart $part): string => $part->column, $parts);
    }
}
