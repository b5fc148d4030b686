<?php

declare(strict_types=1);

namespace Fasti\Core\Script;

use Fasti\Core\Catalog\CheckConstraint;
use Fasti\Core\Catalog\Index;
use Fasti\Core\Catalog\IndexPart;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Catalog\Trigger;
use Fasti\Core\Dialect\Grammar;
use Fasti\Core\Sql\Tokens;

/** Carries out DROP, of whatever, and what ALTER TABLE … DROP says. */
final readonly class Dropping
{
    private const OF_NO_MATTER = [
        'ROLE', 'USER', 'EVENT', 'SERVER', 'PUBLICATION', 'SUBSCRIPTION', 'STATISTICS', 'CAST', 'COLLATION', 'CONVERSION', 'LANGUAGE', 'TABLESPACE', 'OPERATOR',
        'TEXT', 'TRANSFORM', 'ACCESS', 'RULE', 'OWNED', 'PREPARE', 'LOGIN', 'PROCEDURAL', 'DATABASE', 'LOGFILE', 'RESOURCE', 'SYNONYM', 'PUBLIC', 'PACKAGE',
        'SPATIAL_REFERENCE', 'DIRECTORY', 'UNDO', 'GROUP', 'CONTEXT', 'PROFILE',
    ];

    public function __construct(private Grammar $dialect, private Schemas $made)
    {
    }

    /** What follows the word DROP. */
    public function drop(Tokens $t, Programs $programs, Types $types): Outcome
    {
        $t->any('MATERIALIZED', 'FOREIGN', 'TEMPORARY', 'TEMP');
        $kind = $t->peek();
        $t->skip();

        return match ($kind) {
            'TABLE', 'VIEW', 'TABLES' => $this->tables($t, 'VIEW' === $kind),
            'INDEX' => $this->indexes($t),
            'TRIGGER' => $this->trigger($t),
            'FUNCTION', 'PROCEDURE', 'ROUTINE', 'AGGREGATE' => $this->routines($t, $programs),
            'TYPE', 'DOMAIN' => $types->drop($t),
            'SEQUENCE' => $this->sequences($t),
            'SCHEMA' => $this->schemas($t),
            'DATABASE' => $this->dialect->queries->charsetTexts ? $this->schemas($t) : Outcome::OfNoMatter,
            'POLICY' => $this->policy($t),
            'EXTENSION' => $this->extensions($t),
            'DATA' => Outcome::OfNoMatter,
            default => \in_array($kind, self::OF_NO_MATTER, true) ? Outcome::OfNoMatter : throw $t->fault('What is to be dropped is not understood'),
        };
    }

    private function tables(Tokens $t, bool $view): Outcome
    {
        $if = $t->take('IF', 'EXISTS');
        $found = [];
        do {
            $from = $t->at;
            [$schema, $name] = $t->qualified();
            $table = $this->made->find($schema, $name);
            if (null === $table && !$if && !($this->dialect->catalog->rowids && isset($this->made->attached[strtolower((string) $schema)]))) {
                $t->at = $from;
                throw $t->fault(\sprintf('There is no %s “%s” to be dropped', $view ? 'view' : 'table', $name));
            }
            if (null !== $table && $table->kind->isView() === $view) {
                $found[] = $table;
            }
        } while ($t->take(','));
        $cascade = 'CASCADE' === $t->any('CASCADE', 'RESTRICT');
        $t->take('CONSTRAINTS');
        $t->take('PURGE');
        foreach ($found as $table) {
            $this->made->drop($table, $cascade);
        }

        return Outcome::Understood;
    }

    private function indexes(Tokens $t): Outcome
    {
        $t->take('CONCURRENTLY');
        $if = $t->take('IF', 'EXISTS');
        do {
            $from = $t->at;
            [$schema, $name] = $t->qualified();
            if ($t->take('ON')) {
                $table = $this->made->next($t);
                $found = $table->dropIndex($name) || $this->dropPrimary($table, $name);
            } else {
                $of = $this->made->index($schema, $name);
                $found = null !== $of && $of[0]->dropIndex($of[1]->name);
                if ($found) {
                    $this->made->free($of[0]->schema, $of[1]->name);
                }
            }
            if (!$found && !$if) {
                $t->at = $from;
                throw $t->fault(\sprintf('There is no index “%s” to be dropped', $name));
            }
        } while ($t->take(','));
        while (!$t->over()) {
            if ('' === $t->any('CASCADE', 'RESTRICT', 'WAIT', 'NOWAIT')) {
                $this->waits($t);
            }
        }

        return Outcome::Understood;
    }

    private function waits(Tokens $t): void
    {
        if ('' === $t->any('ALGORITHM', 'LOCK')) {
            throw $t->fault('This is not understood');
        }
        $t->take('=');
        $t->skip();
    }

    private function dropPrimary(TableBuilder $table, string $name): bool
    {
        if (null === $table->primary || 0 !== strcasecmp($name, $this->dialect->primaryIndexName($table->primary->name))) {
            return false;
        }
        $table->dropIndex($this->dialect->primaryIndexName($table->primary->name));
        $table->primary = null;

        return true;
    }

    private function trigger(Tokens $t): Outcome
    {
        $if = $t->take('IF', 'EXISTS');
        $from = $t->at;
        $name = $t->qualified()[1];
        $tables = $t->take('ON') ? [$this->made->sought($t)] : [...$this->made->all(), ...array_values($this->made->temporary)];
        $found = false;
        foreach (array_filter($tables) as $table) {
            $count = \count($table->triggers);
            $table->triggers = array_values(array_filter(
                $table->triggers,
                fn (Trigger $trigger): bool => $this->dialect->catalog->tablesInAnyCase ? 0 !== strcasecmp($trigger->name, $name) : $trigger->name !== $name,
            ));
            $found = $found || $count > \count($table->triggers);
        }
        if (!$found && !$if) {
            $t->at = $from;
            throw $t->fault(\sprintf('There is no trigger “%s” to be dropped', $name));
        }
        $t->any('CASCADE', 'RESTRICT');

        return Outcome::Understood;
    }

    private function routines(Tokens $t, Programs $programs): Outcome
    {
        $if = $t->take('IF', 'EXISTS');
        $gone = [];
        do {
            $from = $t->at;
            [$schema, $name] = $t->qualified();
            $signature = null;
            if ('(' === $t->peek()) {
                $shell = new RoutineBuilder('', '', '', $programs->parameters($t));
                $signature = $shell->signature();
            }
            $routine = $programs->found($schema, $name, $signature);
            if (null === $routine && !$if) {
                $t->at = $from;
                throw $t->fault(\sprintf('There is no routine “%s” to be dropped', $name));
            }
            $gone[] = $routine;
        } while ($t->take(','));
        $cascade = 'CASCADE' === $t->any('CASCADE', 'RESTRICT');
        foreach (array_filter($gone) as $routine) {
            $this->made->routines = array_values(array_filter($this->made->routines, static fn (RoutineBuilder $each): bool => $each !== $routine));
            foreach ($cascade ? $this->made->all() : [] as $table) {
                $call = ' '.$this->dialect->quotedName($routine->schema).'.'.$this->dialect->quotedName($routine->name).'(';
                $table->triggers = array_values(array_filter($table->triggers, static fn (Trigger $trigger): bool => !str_contains($trigger->body, $call)));
            }
        }

        return Outcome::Understood;
    }

    private function sequences(Tokens $t): Outcome
    {
        $if = $t->take('IF', 'EXISTS');
        $gone = [];
        do {
            $from = $t->at;
            [$schema, $name] = $t->qualified();
            $key = null;
            foreach ($this->made->sequences as $known => [$of, $each]) {
                if ($each === $name && (null === $schema ? \in_array($of, $this->made->path, true) : $of === $schema)) {
                    $key = $known;
                }
            }
            if (null === $key && !$if) {
                $t->at = $from;
                throw $t->fault(\sprintf('There is no sequence “%s” to be dropped', $name));
            }
            $gone[] = $key;
        } while ($t->take(','));
        $cascade = $t->take('CASCADE');
        foreach (array_filter($gone) as $key) {
            $this->made->free($this->made->sequences[$key][0], $this->made->sequences[$key][1]);
            unset($this->made->sequences[$key]);
            foreach ($cascade ? $this->made->all() : [] as $table) {
                foreach ($table->columns as $column) {
                    if ($column->sequence === $key) {
                        $column->sequence = null;
                        $column->default = null;
                        $column->auto = false;
                    }
                }
            }
        }

        return Outcome::Understood;
    }

    private function schemas(Tokens $t): Outcome
    {
        $t->take('IF', 'EXISTS');
        do {
            $name = $t->name();
            foreach ($this->made->tables[$name] ?? [] as $table) {
                $this->made->drop($table, true);
            }
            unset($this->made->tables[$name], $this->made->made[$name]);
            $this->made->routines = array_values(array_filter($this->made->routines, static fn (RoutineBuilder $each): bool => $each->schema !== $name));
        } while ($t->take(','));
        $t->any('CASCADE', 'RESTRICT');

        return Outcome::Understood;
    }

    private function policy(Tokens $t): Outcome
    {
        $t->take('IF', 'EXISTS');
        $name = $t->name();
        $t->expect('ON');
        $table = $this->made->sought($t);
        if (null !== $table) {
            $table->policies = array_values(array_diff($table->policies, [$name]));
        }

        return Outcome::Understood;
    }

    private function extensions(Tokens $t): Outcome
    {
        $t->take('IF', 'EXISTS');
        do {
            $name = $t->name();
            unset($this->made->extensions[$name]);
        } while ($t->take(','));
        if ($t->take('CASCADE')) {
            $this->made->notes[] = 'What goes with the extension is not known';
        }

        return Outcome::Understood;
    }

    /** What follows ALTER TABLE … DROP. */
    public function ofTable(Tokens $t, TableBuilder $table): void
    {
        if ($t->take('SYSTEM', 'VERSIONING')) {
            return;
        }
        if ($t->take('PRIMARY', 'KEY')) {
            if (null !== $table->primary && !$this->dropPrimary($table, $this->dialect->primaryIndexName($table->primary->name))) {
                $table->primary = null;
            }
            if ('' !== $t->any('CASCADE', 'RESTRICT', 'KEEP', 'DROP')) {
                $t->take('INDEX');
            }
        } elseif ($t->take('FOREIGN', 'KEY')) {
            $if = $t->take('IF', 'EXISTS');
            $from = $t->at;
            $name = $t->name();
            $left = array_values(array_filter($table->foreign, static fn (array $foreign): bool => 0 !== strcasecmp((string) $foreign['name'], $name)));
            if (\count($left) === \count($table->foreign) && !$if) {
                $t->at = $from;
                throw $t->fault(\sprintf('The table “%s” has no foreign key “%s”', $table->name, $name));
            }
            $table->foreign = $left;
        } elseif ('' !== $t->any('INDEX', 'KEY')) {
            $if = $t->take('IF', 'EXISTS');
            $from = $t->at;
            $name = $t->name();
            if (!$table->dropIndex($name) && !$this->dropPrimary($table, $name) && !$if) {
                $t->at = $from;
                throw $t->fault(\sprintf('The table “%s” has no index “%s”', $table->name, $name));
            }
        } elseif ('' !== $t->any('CONSTRAINT', 'CHECK')) {
            $if = $t->take('IF', 'EXISTS');
            $name = $t->name();
            $this->constraint($t, $table, $name, $if, 'CASCADE' === $t->any('CASCADE', 'RESTRICT'));
            while ($this->dialect->structure->looseOptions
                && ',' === $t->peek()
                && !\in_array($t->peek(1), ['ADD', 'DROP', 'COLUMN', 'ALTER'], true)
                && $t->take(',')) {
                $this->constraint($t, $table, $t->name(), $if, false);
            }
        } else {
            $this->columns($t, $table);
        }
    }

    private function columns(Tokens $t, TableBuilder $table): void
    {
        $t->any('COLUMN', 'COLUMNS');
        $if = $t->take('IF', 'EXISTS');
        $list = $t->take('(');
        do {
            $t->take('COLUMN');
            $from = $t->at;
            $name = $t->name();
            $known = $table->columnNamed($name, $this->dialect->queries->anyCase);
            if (null === $known && !$if) {
                $t->at = $from;
                throw $t->fault(\sprintf('The table “%s” has no column “%s”', $table->name, $name));
            }
            if (null !== $known) {
                $this->column($table, $known);
            }
            $more = $list || ($this->dialect->structure->looseOptions && !\in_array($t->peek(1), ['ADD', 'DROP', 'ALTER', 'MODIFY'], true));
        } while ($more && $t->take(','));
        if ($list) {
            $t->expect(')');
        }
        if ('' !== $t->any('CASCADE', 'RESTRICT')) {
            $t->take('CONSTRAINTS');
        }
    }

    private function constraint(Tokens $t, TableBuilder $table, string $name, bool $if, bool $cascade): void
    {
        $of = static fn (string $known): bool => 0 === strcasecmp($known, $name);
        $counts = [\count($table->checks), \count($table->foreign)];
        foreach ([$table, ...$this->made->below($table)] as $each) {
            $each->checks = array_values(array_filter($each->checks, static fn (CheckConstraint $check): bool => !$of($check->name)));
        }
        $table->foreign = array_values(array_filter($table->foreign, static fn (array $foreign): bool => !$of((string) $foreign['name'])));
        $found = $counts !== [\count($table->checks), \count($table->foreign)];
        $key = null;
        if (null !== $table->primary && ($of((string) $table->primary->name) || $of($this->dialect->primaryIndexName($table->primary->name)))) {
            $key = $table->primary;
            $found = true;
            $table->dropIndex($this->dialect->primaryIndexName($table->primary->name));
            $table->primary = null;
        } else {
            foreach ($table->unique as $unique) {
                $key = $of((string) $unique->name) ? $unique : $key;
            }
            // The index of a foreign key stays where the key goes.
            $found = ($this->dialect->catalog->indexesForeignKeys && $found) || $table->dropIndex($name) || $found;
        }
        if (!$found && !$if) {
            throw $t->fault(\sprintf('The table “%s” has no constraint “%s”', $table->name, $name));
        }
        $this->made->free($table->schema, $name);
        $same = null === $key
            ? []
            : array_filter([$table->primary, ...$table->unique], static fn (?Key $other): bool => null !== $other && $other->columns === $key->columns);
        // Where another key is over the same columns, references lean on that.
        if (null !== $key && $cascade && [] === $same) {
            $this->unreferenced($table, $key->columns);
        }
    }

    /**
     * Foreign keys onto a key that is gone go with it.
     *
     * @param list<string> $columns
     */
    private function unreferenced(TableBuilder $table, array $columns): void
    {
        foreach ($this->made->all() as $other) {
            $other->foreign = array_values(array_filter($other->foreign, function (array $foreign) use ($other, $table, $columns): bool {
                $far = [] === $foreign['far'] ? $columns : $foreign['far'];
                sort($far);
                sort($columns);

                return !$this->made->leadsTo($other, $foreign, $table->schema, $table->name) || $far !== $columns;
            }));
        }
    }

    /** A column, with what it is part of, as the engine takes that away. */
    public function column(TableBuilder $table, string $name): void
    {
        $whole = $this->dialect->structure->storageBefore;
        foreach ([$table, ...$this->made->below($table)] as $of) {
            if ($of !== $table && isset($of->columns[$name]) && $of->columns[$name]->local) {
                continue;
            }
            $sequence = ($of->columns[$name] ?? null)?->sequence;
            if (null !== $sequence && isset($this->made->owners[$sequence])) {
                unset($this->made->sequences[$sequence]);
            }
            unset($of->columns[$name]);
            $alone = fn (string $sql): bool => $this->dialect->queries->charsetTexts
                && Mentions::of($sql, $this->dialect)->has($name)
                && [] === Mentions::of($sql, $this->dialect)->among($of);
            $mentions = fn (string $sql): bool => Mentions::of($sql, $this->dialect)->has($name);
            $this->keys($of, $name, $whole);
            $of->checks = array_values(array_filter(
                $of->checks,
                static fn (CheckConstraint $check): bool => $check->column !== $name && !$alone($check->expression) && !($whole && (str_contains(
                    $check->expression,
                    "\x03$name\x03",
                ) || $mentions($check->expression))),
            ));
            $of->foreign = array_values(array_filter($of->foreign, static fn (array $foreign): bool => !\in_array($name, $foreign['columns'], true)));
            foreach ($whole ? $of->columns : [] as $column) {
                if (null !== $column->generated && $mentions($column->generated->expression)) {
                    $this->column($of, $column->name);
                }
            }
        }
        if (!$whole) {
            return;
        }
        foreach ($this->made->all() as $other) {
            $other->foreign = array_values(array_filter(
                $other->foreign,
                fn (array $foreign): bool => !$this->made->leadsTo($other, $foreign, $table->schema, $table->name) || !\in_array($name, $foreign['far'], true),
            ));
            if ($other->kind->isView() && $this->made->views($other, $table) && Mentions::of((string) $other->definition, $this->dialect)->has($name)) {
                $this->made->drop($other, true);
            }
        }
    }

    /** @param bool $whole an index goes with any of its columns, rather than losing it */
    private function keys(TableBuilder $table, string $name, bool $whole): void
    {
        $indexes = [];
        foreach ($table->indexes as $index) {
            $in = array_filter($index->parts, fn (IndexPart $part): bool => $part->column === $name
                || (1 === preg_match('/\W/', $part->column) && Mentions::of($part->column, $this->dialect)->has($name)));
            if ([] === $in && !($whole && null !== $index->where && Mentions::of($index->where, $this->dialect)->has($name))) {
                $indexes[] = $index;
            } elseif (!$whole && \count($in) < \count($index->parts)) {
                $left = array_values(array_filter($index->parts, static fn (IndexPart $part): bool => $part->column !== $name));
                $indexes[] = new Index($index->name, $left, $index->unique, $index->method, $index->comment, $index->where);
            } else {
                $this->made->free($table->schema, $index->name);
            }
        }
        $table->indexes = $indexes;
        $key = static function (Key $key) use ($name, $whole): ?Key {
            if (!\in_array($name, $key->columns, true)) {
                return $key;
            }
            $left = array_values(array_diff($key->columns, [$name]));

            return $whole || [] === $left ? null : new Key($key->name, $left);
        };
        $table->primary = null === $table->primary ? null : $key($table->primary);
        $table->unique = array_values(array_filter(array_map($key, $table->unique)));
    }
}
