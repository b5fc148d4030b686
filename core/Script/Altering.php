<?php

declare(strict_types=1);

namespace Fasti\Core\Script;

use Fasti\Core\Catalog\CheckConstraint;
use Fasti\Core\Catalog\Index;
use Fasti\Core\Catalog\Quotes;
use Fasti\Core\Dialect\Grammar;
use Fasti\Core\Sql\Tokens;

/** Carries out ALTER TABLE. What it does not know is a fault, and nothing of such a statement is kept. */
final readonly class Altering
{
    /** Words that change nothing about structure, however they go on. */
    private const OF_NO_MATTER = [
        ['OWNER', 'TO'], ['CLUSTER', 'ON'], ['SET', 'WITHOUT'], ['SET', 'TABLESPACE'], ['SET', '('], ['RESET', '('], ['SET', 'ACCESS', 'METHOD'],
        ['REPLICA', 'IDENTITY'], ['ENABLE', 'TRIGGER'], ['DISABLE', 'TRIGGER'], ['ENABLE', 'RULE'], ['DISABLE', 'RULE'], ['ENABLE', 'ALWAYS'],
        ['ENABLE', 'REPLICA'],
        ['FORCE', 'ROW'], ['NO', 'FORCE'], [
            'VALIDATE',
            'CONSTRAINT',
        ], ['ENABLE', 'KEYS'], ['DISABLE', 'KEYS'], ['ORDER', 'BY'], ['FORCE'], ['ALGORITHM'], ['LOCK'],
        ['WITH', 'VALIDATION'], ['WITHOUT', 'VALIDATION'], ['DISCARD', 'TABLESPACE'], ['IMPORT', 'TABLESPACE'], ['TRUNCATE', 'PARTITION'],
        ['OPTIMIZE', 'PARTITION'],
        ['ANALYZE', 'PARTITION'], ['CHECK', 'PARTITION'], ['REPAIR', 'PARTITION'], ['REBUILD', 'PARTITION'], ['COALESCE', 'PARTITION'], [
            'REORGANIZE',
            'PARTITION',
        ],
        ['EXCHANGE', 'PARTITION'], ['CONVERT', 'PARTITION'], ['CONVERT', 'TABLE'], ['ADD', 'PARTITION'], ['DROP', 'PARTITION'], ['SECONDARY_LOAD'],
        ['SECONDARY_UNLOAD'],
        ['ADD', 'PERIOD'], ['DROP', 'PERIOD'], ['SET', 'SYSTEM_TIME'], ['CHECK', 'CONSTRAINT'], ['NOCHECK', 'CONSTRAINT'], ['SET', 'STATISTICS'], ['REBUILD'],
        ['SWITCH'], ['ENABLE', 'CONSTRAINT'], ['DISABLE', 'CONSTRAINT'], ['MOVE'], ['NOLOGGING'], ['LOGGING'], ['PARALLEL'], ['CACHE'], ['NOCACHE'], ['SHRINK'],
        ['ADD', 'SUPPLEMENTAL'], ['ENABLE', 'CHANGE_TRACKING'],
    ];

    public function __construct(
        private Grammar $dialect,
        private Schemas $made,
        private Definitions $definitions,
        private Options $options,
        private Dropping $dropping,
        private Renaming $renaming,
    ) {
    }

    public function table(Tokens $t): Outcome
    {
        $if = $t->take('IF', 'EXISTS');
        $t->take('ONLY');
        [$schema, $name] = $t->qualified();
        $t->take('*');
        if ('WAIT' === $t->peek()) {
            $t->at += 2;
        }
        $t->take('NOWAIT');
        $table = $this->made->find($schema, $name);
        if (null === $table) {
            if ($if || 'OWNER' === $t->peek() || ($this->dialect->catalog->rowids && isset($this->made->attached[strtolower((string) $schema)]))) {
                return Outcome::OfNoMatter;
            }
            // Sequences and views may be altered as tables are.
            if (null === $schema || \in_array([$schema, $name], $this->made->sequences, true)) {
                foreach ($this->made->sequences as $key => [$of, $known]) {
                    if ($known === $name && (null === $schema || $of === $schema)) {
                        return (new Others($this->dialect, $this->made))->sequenceChange($t, $key);
                    }
                }
            }
            $this->made->known($t, $schema, $name);
            throw $t->fault('This table is not known');
        }
        if ($table->kind->isView() && 'ALTER' === $t->peek()) {
            // What a view gives to new rows is no part of what it shows.
            return Outcome::OfNoMatter;
        }
        $outcome = Outcome::OfNoMatter;
        if ($this->dialect->queries->charsetTexts) {
            // Indexes that a statement drops are gone before it adds any.
            $outcome = $this->all($t, $table);
        } else {
            do {
                $outcome = $this->alteration($t, $table) || Outcome::Understood === $outcome ? Outcome::Understood : Outcome::OfNoMatter;
            } while ($t->take(',') || ($this->dialect->structure->looseOptions && !$t->over() && \in_array($t->peek(), ['ADD', 'MODIFY', 'DROP'], true)));
        }
        if (!$t->over() && !$this->dialect->structure->looseOptions) {
            throw $t->fault('This change of a table is not understood');
        }
        $this->options->settle($table);

        return $outcome;
    }

    private function all(Tokens $t, TableBuilder $table): Outcome
    {
        $from = $t->at;
        $outcome = Outcome::OfNoMatter;
        // Two rounds: what is dropped goes first, in the order of the statement.
        foreach ([true, false] as $dropping) {
            $t->at = $from;
            do {
                if ('PARTITION' === $t->peek() && 'BY' === $t->peek(1)) {
                    $this->options->partitioned($t, $table);
                    $outcome = Outcome::Understood;
                    continue;
                }
                $isDrop = 'DROP' === $t->peek() && !\in_array($t->peek(1), ['SYSTEM', 'PARTITION', 'PERIOD'], true);
                if ($isDrop !== $dropping) {
                    $this->pass($t);
                    continue;
                }
                $outcome = $this->alteration($t, $table) || Outcome::Understood === $outcome ? Outcome::Understood : Outcome::OfNoMatter;
            } while ($t->take(',') || 'PARTITION' === $t->peek() || (!$t->over() && $this->isOption($t)));
        }

        return $outcome;
    }

    private function isOption(Tokens $t): bool
    {
        return \in_array(
            $t->peek(),
            ['ENGINE', 'COMMENT', 'AUTO_INCREMENT', 'DEFAULT', 'CHARACTER', 'CHARSET', 'COLLATE', 'ROW_FORMAT', 'KEY_BLOCK_SIZE', 'REMOVE'],
            true,
        );
    }

    private function pass(Tokens $t): void
    {
        while (!$t->over() && ',' !== $t->peek()) {
            if ('(' === $t->peek()) {
                $t->parenthesis();
            } else {
                $t->skip();
            }
        }
    }

    /** @return bool whether it says anything about structure */
    private function alteration(Tokens $t, TableBuilder $table): bool
    {
        if (($t->take('WITH', 'CHECK') || $t->take('WITH', 'NOCHECK')) && !\in_array($t->peek(), ['ADD', 'CHECK'], true)) {
            throw $t->fault('“ADD” was expected');
        }
        foreach (self::OF_NO_MATTER as $words) {
            if ($t->peek() === $words[0] && (!isset($words[1]) || $t->peek(1) === $words[1]) && (!isset($words[2]) || $t->peek(2) === $words[2])) {
                $this->pass($t);
                while ('ORDER' === $words[0] && $t->take(',')) {
                    $this->pass($t);
                }

                return false;
            }
        }
        match (true) {
            $t->take('ADD') => $this->add($t, $table),
            $t->take('DROP') => $this->dropping->ofTable($t, $table),
            $t->take('ALTER') => $this->alter($t, $table),
            $t->take('MODIFY') => $this->modify($t, $table),
            $t->take('CHANGE') => $this->change($t, $table),
            $t->take('RENAME') => $this->rename($t, $table),
            $t->take('CONVERT', 'TO', 'CHARACTER', 'SET'), $t->take('CONVERT', 'TO', 'CHARSET') => $this->convert($t, $table),
            $t->take('ENABLE', 'ROW', 'LEVEL', 'SECURITY') => $table->secured = true,
            $t->take('DISABLE', 'ROW', 'LEVEL', 'SECURITY') => $table->secured = false,
            $t->take('ATTACH', 'PARTITION') => $this->attach($t, $table),
            $t->take('DETACH', 'PARTITION') => $this->detach($t),
            $t->take('REMOVE', 'PARTITIONING') => $table->partitionKey = null,
            $t->take('INHERIT') => $this->inherit($t, $table),
            $t->take('NO', 'INHERIT') => $this->disinherit($t, $table),
            $t->take('SET', 'SCHEMA') => $this->toSchema($t, $table),
            $t->take('SET', 'LOGGED') => $table->storage = null,
            $t->take('SET', 'UNLOGGED') => $table->storage = 'unlogged',
            $t->take('OF') => $t->qualified(),
            $t->take('NOT', 'OF') => null,
            $t->take('OPTIONS') => $t->parenthesis(),
            $this->options->option($t, $table) => null,
            default => throw $t->fault('This change of a table is not understood'),
        };

        return true;
    }

    private function add(Tokens $t, TableBuilder $table): void
    {
        if ($t->take('SYSTEM', 'VERSIONING')) {
            return;
        }
        $before = array_keys($table->columns);
        if ('CONSTRAINT' === $t->peek() && $this->dialect->queries->charsetTexts && 'IF' === $t->peek(1) && $this->isThere($t, $table)) {
            $this->pass($t);

            return;
        }
        if ('(' === $t->peek()) {
            $this->definitions->elements($t, $table);
        } elseif ('' !== $t->any('COLUMN', 'COLUMNS') || !$this->constraintOrIndex($t, $table)) {
            $unless = $t->take('IF', 'NOT', 'EXISTS');
            if ('(' === $t->peek()) {
                $this->definitions->elements($t, $table);
            } elseif ($unless && null !== $table->columnNamed($t->peekName(), $this->dialect->queries->anyCase)) {
                $this->pass($t);

                return;
            } else {
                do {
                    $this->definitions->columns->column($t, $table);
                    // Several columns may follow one ADD.
                } while ($this->dialect->structure->looseOptions
                    && ',' === $t->peek()
                    && !\in_array($t->peek(1), ['ADD', 'DROP', 'ALTER', 'MODIFY', 'RENAME'], true)
                    && $t->take(','));
            }
        }
        foreach ($this->made->below($table) as $below) {
            foreach ($table->columns as $column) {
                if (!\in_array($column->name, $before, true) && !isset($below->columns[$column->name])) {
                    $copy = clone $column;
                    $copy->local = false;
                    $copy->inherited = 1;
                    $copy->comment = '';
                    $below->columns[$column->name] = $copy;
                }
            }
            $known = array_map(static fn (CheckConstraint $check): string => $check->name, $below->checks);
            foreach ($table->checks as $check) {
                if (!\in_array($check->name, $known, true) && !isset($table->ownChecks[$check->name])) {
                    $below->checks[] = $check;
                }
            }
        }
    }

    private function isThere(Tokens $t, TableBuilder $table): bool
    {
        $from = $t->at;
        $t->take('CONSTRAINT');
        $t->take('IF', 'NOT', 'EXISTS');
        $name = $t->name();
        $t->at = $from;
        $names = [
            ...array_map(static fn (CheckConstraint $check): string => $check->name, $table->checks),
            ...array_map(static fn (Index $index): string => $index->name, $table->indexes),
            ...array_map(static fn (array $foreign): string => (string) $foreign['name'], $table->foreign),
        ];

        return \in_array($name, $names, true);
    }

    private function constraintOrIndex(Tokens $t, TableBuilder $table): bool
    {
        // ADD INDEX IF NOT EXISTS name (…)
        $ahead = \in_array($t->peek(), ['UNIQUE', 'FULLTEXT', 'SPATIAL'], true) ? 1 : 0;
        $ahead += \in_array($t->peek($ahead), ['INDEX', 'KEY'], true) ? 1 : 0;
        if ('IF' === $t->peek($ahead) && 'NOT' === $t->peek($ahead + 1)) {
            $from = $t->at;
            $t->at += $ahead + 3;
            $name = $t->name();
            if (null !== $table->index($name, true)) {
                $this->pass($t);

                return true;
            }
            $t->at = $from;
        }
        $from = $t->at;
        $this->definitions->element($t, $table, true);

        return $from !== $t->at;
    }

    private function alter(Tokens $t, TableBuilder $table): void
    {
        if ($t->take('CONSTRAINT') || $t->take('INDEX') || $t->take('KEY') || $t->take('CHECK')) {
            $t->name();
            while (!$t->over() && ',' !== $t->peek()) {
                $t->skip();
            }

            return;
        }
        $t->take('COLUMN');
        $from = $t->at;
        $column = $this->definitions->columns->columnOf($t, $table);
        $this->ofColumn($t, $table, $column, $from);
        foreach ($this->made->below($table) as $below) {
            if (isset($below->columns[$column->name])) {
                $this->like($below->columns[$column->name], $column);
            }
        }
    }

    private function like(ColumnBuilder $below, ColumnBuilder $column): void
    {
        $below->type = $column->type;
        $below->ownType = $column->ownType;
        $below->nullable = $column->nullable;
        $below->default = $column->default;
        $below->sequence = $column->sequence;
    }

    private function ofColumn(Tokens $t, TableBuilder $table, ColumnBuilder $column, int $from): void
    {
        match (true) {
            $this->dialect->queries->charsetTexts && $column->auto && ($t->take('SET', 'DEFAULT') || $t->take('DROP', 'DEFAULT')) => $this->pass($t),
            $t->take('SET', 'DEFAULT') => $this->definitions->columns->setDefault($t, $column),
            $t->take('SET', 'NOT', 'NULL') => $column->nullable = false,
            $t->take('DROP', 'NOT', 'NULL') => $column->nullable = true,
            $t->take('DROP', 'DEFAULT') => [$column->default, $column->sequence, $column->auto] = [null, null, $column->identity],
            $t->take('DROP', 'IDENTITY') => $this->dropIdentity($t, $column),
            $t->take('DROP', 'EXPRESSION') => $this->dropExpression($t, $column),
            $t->take('ADD', 'GENERATED') => $this->addIdentity($t, $column),
            $t->take('SET', 'GENERATED'), $t->take('RESTART'), $t->take('SET', 'INCREMENT'), $t->take('SET', 'START') => $this->pass($t),
            $t->take('TYPE'), $t->take('SET', 'DATA', 'TYPE') => $this->retype($t, $table, $column),
            $t->take('SET', 'STATISTICS'), $t
                ->take('SET', 'STORAGE'), $t
                ->take('SET', 'COMPRESSION'), $t
                ->take('SET', 'VISIBLE'), $t
                ->take('SET', 'INVISIBLE') => $this
                ->pass($t),
            'SET' === $t->peek() && '(' === $t->peek(1), 'RESET' === $t->peek() => $this->pass($t),
            $this->dialect->structure->looseOptions && $t->isName() => $this->redefined($t, $table, $column, $from),
            default => throw $t->fault(\sprintf('This change of the column “%s” is not understood', $column->name)),
        };
    }

    /** ALTER COLUMN name type NULL, as SQL Server writes it. */
    private function redefined(Tokens $t, TableBuilder $table, ColumnBuilder $column, int $from): void
    {
        $default = $column->default;
        $t->at = $from;
        $this->definitions->columns->column($t, $table, $column->name);
        $table->columns[$column->name]->default ??= $default;
    }

    private function dropIdentity(Tokens $t, ColumnBuilder $column): void
    {
        $t->take('IF', 'EXISTS');
        $column->auto = null !== $column->sequence;
        $column->identity = false;
    }

    private function dropExpression(Tokens $t, ColumnBuilder $column): void
    {
        $t->take('IF', 'EXISTS');
        $column->generated = null;
    }

    private function addIdentity(Tokens $t, ColumnBuilder $column): void
    {
        $this->pass($t);
        $column->auto = true;
        $column->identity = true;
        $column->nullable = false;
    }

    private function retype(Tokens $t, TableBuilder $table, ColumnBuilder $column): void
    {
        $this->asItIs($table, $column->name);
        if (null !== $column->default && null === $column->sequence) {
            // A default was read by the type that its column had.
            $finishing = new Finishing($this->dialect, $this->made);
            $column->default = $this->dialect->default($column->default, $finishing->typeOf($column), $finishing->around($table));
        }
        $column->collation = null;
        $this->definitions->types->typed($t, $column);
        if ($t->take('COLLATE')) {
            $column->collation = $t->qualified()[1];
        }
        if ($t->take('USING')) {
            $this->pass($t);
        }
    }

    /** The engine writes down what depends on a column before it changes its type, and reads that again. */
    private function asItIs(TableBuilder $table, string $column): void
    {
        $around = (new Finishing($this->dialect, $this->made))->around($table, true);
        $of = fn (string $sql): string => !str_starts_with($sql, 'EXCLUDE ') && Mentions::of($sql, $this->dialect)->has($column)
            ? $this->dialect->expression($sql, $around)
            : $sql;
        $table->checks = array_map(
            static fn (CheckConstraint $check): CheckConstraint => new CheckConstraint($check->name, $of($check->expression), $check->column),
            $table->checks,
        );
        $table->indexes = array_map(static fn (Index $index): Index => null === $index->where ? $index
            : new Index($index->name, $index->parts, $index->unique, $index->method, $index->comment, $of($index->where)), $table->indexes);
    }

    private function modify(Tokens $t, TableBuilder $table): void
    {
        $list = $t->take('(');
        do {
            $t->take('COLUMN');
            $if = $t->take('IF', 'EXISTS');
            $from = $t->at;
            if ($if && null === $table->columnNamed($t->peekName(), true)) {
                $this->pass($t);

                return;
            }
            $known = $this->definitions->columns->columnOf($t, $table);
            $t->at = $from;
            $this->replace($t, $table, $known);
        } while ($list && $t->take(','));
        if ($list) {
            $t->expect(')');
        }
    }

    private function change(Tokens $t, TableBuilder $table): void
    {
        $t->take('COLUMN');
        if ($t->take('IF', 'EXISTS') && null === $table->columnNamed($t->peekName(), true)) {
            $this->pass($t);

            return;
        }
        $this->replace($t, $table, $this->definitions->columns->columnOf($t, $table));
    }

    /** The definition that comes next stands in place of a column. */
    private function replace(Tokens $t, TableBuilder $table, ColumnBuilder $known): void
    {
        $was = $known->name;
        if ($this->dialect->catalog->oneCheckAColumn) {
            $table->checks = array_values(array_filter($table->checks, static fn (CheckConstraint $check): bool => $check->column !== $was));
        }
        if ($this->dialect->structure->looseOptions) {
            // A definition may say the changes only.
            $kept = clone $known;
            $this->definitions->columns->column($t, $table, $was);
            $now = $table->columns[$kept->name] ?? null;
            if (null !== $now) {
                $now->type = '' === $now->type ? $kept->type : $now->type;
                $now->nullable = $now->nullSaid ? $now->nullable : $kept->nullable;
                $now->default ??= $kept->default;
                $now->comment = '' === $now->comment ? $kept->comment : $now->comment;
            }

            return;
        }
        $this->definitions->columns->column($t, $table, $was);
        $this->definitions->keys->require($table, $table->primary->columns ?? []);
    }

    private function rename(Tokens $t, TableBuilder $table): void
    {
        if ($t->take('CONSTRAINT')) {
            $was = $t->name();
            $t->expect('TO');
            $this->renameConstraint($t, $table, $was, $t->name());
        } elseif ('' !== $t->any('INDEX', 'KEY')) {
            $was = $t->name();
            $t->expect('TO');
            $this->renameIndex($table, $was, $t->name());
        } elseif ($t->take('COLUMN') || (!\in_array($t->peek(), ['TO', 'AS', '='], true) && 'TO' === $t->peek(1) && $t->isName())) {
            $t->take('IF', 'EXISTS');
            $was = $this->definitions->columns->columnOf($t, $table)->name;
            $t->expect('TO');
            // SQLite puts the new name into its statements in quotation marks where it was given in some.
            $written = 1 === preg_match('/^["\'`\[]/', $t->written()) ? Quotes::around($t->peekName()) : $t->written();
            $written = $this->dialect->catalog->keepsReferenceNames ? $written : null;
            $this->renaming->column($table, $was, $t->name(), $written);
        } else {
            $t->any('TO', 'AS', '=');
            [$schema, $name] = $t->qualified();
            $this->renaming->table($table, $schema, $name);
        }
    }

    public function renameIndex(TableBuilder $table, string $was, string $is): void
    {
        $table->renameIndex($was, $is);
        $this->made->free($table->schema, $was);
        $this->made->take($table->schema, $is);
    }

    private function renameConstraint(Tokens $t, TableBuilder $table, string $was, string $is): void
    {
        $this->renameIndex($table, $was, $is);
        foreach ([$table, ...$this->made->below($table)] as $of) {
            $of->checks = array_map(
                static fn (CheckConstraint $check): CheckConstraint => $check->name === $was ? new CheckConstraint(
                    $is,
                    $check->expression,
                    $check->column,
                ) : $check,
                $of->checks,
            );
        }
        foreach ($table->foreign as $i => $foreign) {
            if ($foreign['name'] === $was) {
                $table->foreign[$i]['name'] = $is;
            }
        }
    }

    /** All texts of a table get another character set, with types that hold as many letters. */
    private function convert(Tokens $t, TableBuilder $table): void
    {
        $charset = strtolower($t->text() ?? $t->name());
        $collation = $t->take('COLLATE') ? strtolower($t->text() ?? $t->name()) : null;
        $of = $this->dialect->tableCollation('default' === $charset ? null : $charset, $collation);
        foreach ($table->columns as $column) {
            $column->type = $this->dialect->converted($column->type, $column->collation ?? $table->collation, $of);
            if (null !== $column->collation || $this->dialect->isText($column->type)) {
                $column->charset = null;
                $column->collation = null;
            }
        }
        $table->collation = $of;
    }

    private function attach(Tokens $t, TableBuilder $table): void
    {
        $this->made->attach($table, $this->made->next($t));
        $t->rest();
    }

    private function detach(Tokens $t): void
    {
        $part = $this->made->next($t);
        unset($this->made->partitions[$part->key()]);
        $t->any('CONCURRENTLY', 'FINALIZE');
    }

    private function inherit(Tokens $t, TableBuilder $table): void
    {
        $parent = $this->made->next($t);
        $table->parents[] = $parent->key();
        foreach ($parent->columns as $column) {
            if (isset($table->columns[$column->name])) {
                ++$table->columns[$column->name]->inherited;
            }
        }
    }

    private function disinherit(Tokens $t, TableBuilder $table): void
    {
        $parent = $this->made->next($t);
        $table->parents = array_values(array_diff($table->parents, [$parent->key()]));
        foreach ($table->columns as $column) {
            if (isset($parent->columns[$column->name])) {
                $column->inherited = max(0, $column->inherited - 1);
                $column->local = true;
            }
        }
    }

    private function toSchema(Tokens $t, TableBuilder $table): void
    {
        $was = $table->schema;
        $is = $t->name();
        $this->renaming->table($table, $is, $table->name);
        foreach ($table->columns as $column) {
            $of = null === $column->sequence ? null : $this->made->sequences[$column->sequence] ?? null;
            if (null !== $of && null !== $column->sequence && $of[0] === $was && isset($this->made->owners[$column->sequence])) {
                $this->made->sequences[$column->sequence] = [$is, $of[1]];
            }
        }
    }
}
