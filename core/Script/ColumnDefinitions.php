<?php

declare(strict_types=1);

namespace Fasti\Core\Script;

use Fasti\Core\Catalog\CheckConstraint;
use Fasti\Core\Catalog\Generated;
use Fasti\Core\Catalog\IndexPart;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Dialect\Grammar;
use Fasti\Core\Sql\Parser;
use Fasti\Core\Sql\SqlFault;
use Fasti\Core\Sql\Tokens;

/** Columns: their options, what they hold unless given, how they are computed. */
final readonly class ColumnDefinitions
{
    /** Words and how many follow them that say nothing about what a column holds. */
    private const OF_NO_MATTER = [
        'INVISIBLE' => 0, 'VISIBLE' => 0, 'SPARSE' => 0, 'ROWGUIDCOL' => 0, 'ENABLE' => 0, 'DISABLE' => 0, 'VALIDATE' => 0, 'NOVALIDATE' => 0, 'HIDDEN' => 0,
        'CLUSTERED' => 0, 'NONCLUSTERED' => 0, 'ENFORCED' => 0, 'PERSISTED' => 0, 'RELY' => 0, 'NORELY' => 0, 'SORT' => 0, 'ENCRYPT' => 0,
        'COLUMN_FORMAT' => 1, 'STORAGE' => 1, 'COMPRESSION' => 1, 'SRID' => 1, 'REF_SYSTEM_ID' => 1, 'ENGINE_ATTRIBUTE' => 1, 'TABLESPACE' => 1,
        'SECONDARY_ENGINE_ATTRIBUTE' => 1, 'MASKED' => 0, 'SERIAL_' => 0,
    ];

    public function __construct(private Grammar $dialect, private Schemas $made, private Definitions $all)
    {
    }

    public function columnOf(Tokens $t, TableBuilder $table): ColumnBuilder
    {
        $name = $t->name();
        $known = $table->columnNamed($name, $this->dialect->queries->anyCase);

        return null === $known ? throw $t->fault(\sprintf('The table “%s” has no column “%s”', $table->name, $name)) : $table->columns[$known];
    }

    /** A column with its options, in place of one that is there where `$instead` says so. */
    public function column(Tokens $t, TableBuilder $table, ?string $instead = null): void
    {
        $name = $t->name();
        if (null === $instead && null !== $table->columnNamed($name, $this->dialect->queries->anyCase)) {
            throw $t->fault(\sprintf('The table “%s” has a column “%s” already', $table->name, $name));
        }
        $column = new ColumnBuilder($name);
        [$word, $after] = $this->all->types->typed($t, $column);
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
                'unique' => $this->all->keys->unique($table, null, [new IndexPart($name)], ['', '']),
                default => null,
            };
        }
        $column->words = $this->dialect->queries->charsetTexts ? strtolower($after) : '';
        if ($this->dialect->catalog->jsonIsText && 'json' === strtolower($word)) {
            $column->charset = 'utf8mb4';
            $column->collation = 'utf8mb4_bin';
            $table->checks[] = new CheckConstraint($name, "json_valid(`$name`)", $name);
        }
        $place = null;
        while (!$t->over() && ',' !== $t->peek() && ')' !== $t->peek()) {
            $from = $t->at;
            if ($this->dialect->structure->placesColumns && $t->take('FIRST')) {
                $place = '';
            } elseif ($this->dialect->structure->placesColumns && $t->take('AFTER')) {
                $place = $this->columnOf($t, $table)->name;
            } elseif ($this->dialect->structure->looseLists
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
        $column->default = "\x05";
        $column->auto = true;
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
        $label = $t->take('CONSTRAINT') ? $t->name() : null;
        if ($this->constraintOption($t, $table, $column, $label) || $this->valueOption($t, $table, $column) || $this->textOption($t, $column)) {
            return;
        }
        if ($t->take('WITH', 'OPTIONS') || $t->take('NOT', 'FOR', 'REPLICATION')
            || $t->take('WITH', 'SYSTEM', 'VERSIONING') || $t->take('WITHOUT', 'SYSTEM', 'VERSIONING')) {
            return;
        }
        if (isset(self::OF_NO_MATTER[$t->peek()])) {
            $count = self::OF_NO_MATTER[$t->peek()];
            $t->skip();
            $t->take('=');
            while ($count-- > 0) {
                $t->skip();
            }
        } elseif (!$this->all->keys->deferral($t)) {
            if (!$this->dialect->structure->looseOptions) {
                throw $t->fault(\sprintf('In the definition of the column “%s”, this is not understood', $column->name));
            }
            $t->skip();
            if ('(' === $t->peek()) {
                $t->parenthesis();
            }
        }
    }

    /** What a column is bound to: NULL or not, a key, a reference, a check. Says whether there was one. */
    private function constraintOption(Tokens $t, TableBuilder $table, ColumnBuilder $column, ?string $label): bool
    {
        $keys = $this->all->keys;
        $parts = [new IndexPart($column->name)];
        if ($t->take('NOT', 'NULL')) {
            $column->nullable = false;
            $column->nullSaid = true;
            $keys->conflict($t);
        } elseif ($t->take('NULL')) {
            $column->nullable = true;
            $column->nullSaid = true;
            $keys->conflict($t);
        } elseif ($t->take('PRIMARY', 'KEY')) {
            $t->any('CLUSTERED', 'NONCLUSTERED');
            $direction = $t->any('ASC', 'DESC');
            $keys->conflict($t);
            $keys->primary($table, $label, [new IndexPart($column->name, null, 'DESC' === $direction)], ['', '']);
            if ('DESC' === $direction && $this->dialect->catalog->rowids) {
                // Said with the column, a key that goes down is no row number.
                $table->withoutAlias = true;
            }
            $this->all->indexes->indexTail($t, true);
        } elseif ($this->dialect->structure->inlineIndexes && $t->take('KEY')) {
            $keys->primary($table, $label, $parts, ['', '']);
        } elseif ($t->take('UNIQUE')) {
            $t->any('KEY', 'CLUSTERED', 'NONCLUSTERED');
            if ($t->take('NULLS')) {
                $t->take('NOT');
                $t->take('DISTINCT');
            }
            $keys->conflict($t);
            $keys->unique($table, $label, $parts, ['', '']);
            $this->all->indexes->indexTail($t, true);
        } elseif ('REFERENCES' === $t->peek() || ('FOREIGN' === $t->peek() && 'REFERENCES' === $t->peek(2))) {
            $t->take('FOREIGN', 'KEY');
            $keys->references($t, $table, $label, [$column->name]);
        } elseif ($t->take('CHECK')) {
            $this->all->check($t, $table, $label, $column->name);
        } else {
            return false;
        }

        return true;
    }

    /** Where a column's values come from. Says whether that was said. */
    private function valueOption(Tokens $t, TableBuilder $table, ColumnBuilder $column): bool
    {
        if ('DEFAULT' === $t->peek() || ('WITH' === $t->peek() && 'DEFAULT' === $t->peek(1))) {
            $t->take('WITH');
            $t->skip();
            $t->take('ON', 'NULL');
            $this->setDefault($t, $column);
        } elseif ($t->take('SERIAL', 'DEFAULT', 'VALUE')) {
            $column->auto = true;
            $column->nullable = false;
            $this->all->keys->unique($table, null, [new IndexPart($column->name)], ['', '']);
        } elseif ('GENERATED' === $t->peek() || 'AS' === $t->peek()) {
            $this->generatedOption($t, $column);
        } elseif ('' !== $t->any('AUTO_INCREMENT', 'AUTOINCREMENT', 'IDENTITY')) {
            $column->auto = true;
            if ('(' === $t->peek()) {
                $t->parenthesis();
            }
        } elseif ($t->take('ON', 'UPDATE')) {
            $column->onUpdate = $this->dialect->now($this->default($t));
        } else {
            return false;
        }

        return true;
    }

    /** How a column's texts are kept, and what is said of it. Says whether there was anything of the kind. */
    private function textOption(Tokens $t, ColumnBuilder $column): bool
    {
        if ($t->take('COMMENT')) {
            $column->comment = $t->text() ?? throw $t->fault('A text was expected');
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
            $column->type .= $this->dialect->catalog->compressedWord;
        } elseif ($this->dialect->queries->charsetTexts && '' !== ($word = $t->any('ASCII', 'UNICODE', 'BINARY', 'BYTE'))) {
            $column->words .= ' '.strtolower($word);
        } else {
            return false;
        }

        return true;
    }

    public function setDefault(Tokens $t, ColumnBuilder $column): void
    {
        $default = $this->default($t);
        $column->sequence = null;
        $column->default = 'NULL' === strtoupper($default) ? null : $default;
        $sequence = $this->dialect->sequenceIn($default);
        if (null !== $sequence) {
            $column->sequence = $this->made->sequence(...$sequence);
            $column->default = "\x05";
            $column->auto = $this->dialect->catalog->sequencesNumber;
        } elseif ($this->dialect->catalog->sequencesNumber) {
            $column->auto = str_starts_with(strtolower($default), 'nextval(');
        }
    }

    /** An expression without parentheses around it, up to where it ends. */
    public function default(Tokens $t): string
    {
        return $this->upTo($t, $this->dialect->structure->defaultBinding) ?? $t->expression();
    }

    /** The expression that comes next, as it is written; null where it cannot be read, and nothing is taken then. */
    public function upTo(Tokens $t, int $binding): ?string
    {
        $from = $t->at;
        $collate = $t->dialect->queries->binding['COLLATE'] ?? null;
        // What COLLATE says stands behind the expression, not within it.
        $t->dialect->queries->binding['COLLATE'] = -1;
        try {
            (new Parser($t))->expressions->expression($binding);
        } catch (SqlFault) {
            $t->at = $from;
        }
        if (null === $collate) {
            unset($t->dialect->queries->binding['COLLATE']);
        } else {
            $t->dialect->queries->binding['COLLATE'] = $collate;
        }

        return $from === $t->at ? null : $t->from($from);
    }

    private function generatedOption(Tokens $t, ColumnBuilder $column): void
    {
        if ($t->take('GENERATED')) {
            if ($t->take('BY')) {
                $t->expect('DEFAULT');
            } else {
                $t->take('ALWAYS');
            }
            $t->take('ON', 'NULL');
        }
        $t->expect('AS');
        if ($t->take('IDENTITY')) {
            $column->auto = true;
            $column->nullable = false;
            $column->identity = true;
            if ('(' === $t->peek()) {
                $t->parenthesis();
            }
        } elseif ($t->take('ROW')) {
            $edge = $t->any('START', 'END') ?: throw $t->fault('“START” or “END” was expected');
            $column->generated = new Generated('ROW '.$edge, true);
            $column->nullable = false;
            $t->take('HIDDEN');
        } else {
            $expression = $t->parenthesis();
            $stored = $t->any('STORED', 'PERSISTENT', 'VIRTUAL', 'PERSISTED');
            $column->generated = new Generated($expression, '' !== $stored && 'VIRTUAL' !== $stored);
        }
    }
}
