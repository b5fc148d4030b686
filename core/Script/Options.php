<?php

declare(strict_types=1);

namespace Fasti\Core\Script;

use Fasti\Core\Catalog\CheckConstraint;
use Fasti\Core\Catalog\Index;
use Fasti\Core\Catalog\IndexPart;
use Fasti\Core\Dialect\Grammar;
use Fasti\Core\Sql\Tokens;

/** Options of tables and schemas, and what the engine makes of a table once a statement is over. */
final readonly class Options
{
    /** Options with a value that say nothing about structure. */
    private const VALUED = [
        'AUTO_INCREMENT' => 1, 'AVG_ROW_LENGTH' => 1, 'CHECKSUM' => 1, 'CONNECTION' => 1, 'DELAY_KEY_WRITE' => 1, 'ENCRYPTED' => 1, 'ENCRYPTION' => 1,
        'ENCRYPTION_KEY_ID' => 1, 'IETF_QUOTES' => 1, 'INSERT_METHOD' => 1, 'KEY_BLOCK_SIZE' => 1, 'MAX_ROWS' => 1, 'MIN_ROWS' => 1, 'PACK_KEYS' => 1,
        'PAGE_CHECKSUM' => 1, 'PAGE_COMPRESSED' => 1, 'PAGE_COMPRESSION_LEVEL' => 1, 'PASSWORD' => 1, 'ROW_FORMAT' => 1, 'SEQUENCE' => 1,
        'STATS_AUTO_RECALC' => 1,
        'STATS_PERSISTENT' => 1, 'STATS_SAMPLE_PAGES' => 1, 'TABLESPACE' => 1, 'TRANSACTIONAL' => 1, 'COMPRESSION' => 1, 'AUTOEXTEND_SIZE' => 1,
        'ENGINE_ATTRIBUTE' => 1, 'SECONDARY_ENGINE' => 1, 'SECONDARY_ENGINE_ATTRIBUTE' => 1, 'TABLE_CHECKSUM' => 1, 'ENCODING' => 1, 'START' => 1,
    ];

    public function __construct(private Grammar $dialect, private Schemas $made)
    {
    }

    /** What stands behind the list of columns, up to a query or the end. */
    public function ofTable(Tokens $t, TableBuilder $table): void
    {
        while (!$t->over()
            && !\in_array($t->peek(), ['AS', 'SELECT', 'VALUES'], true)
            && !('WITH' === $t->peek() && $this->isQuery($t))
            && !('(' === $t->peek() && 'SELECT' === $t->peek(1))) {
            if ($t->take('INHERITS')) {
                $t->expect('(');
                do {
                    $this->made->inherit($table, $this->made->next($t));
                } while ($t->take(','));
                $t->expect(')');
            } elseif ('PARTITION' === $t->peek() && 'BY' === $t->peek(1)) {
                $this->partitioned($t, $table);
            } elseif (!$this->option($t, $table) && !$t->take(',')) {
                if (!$this->dialect->structure->looseOptions) {
                    throw $t->fault('This option of a table is not understood');
                }
                $t->skip();
                if ('(' === $t->peek()) {
                    $t->parenthesis();
                }
            }
        }
    }

    private function isQuery(Tokens $t): bool
    {
        return \in_array($t->peek(2), ['AS', '('], true) && !\in_array($t->peek(1), ['', '('], true) || 'RECURSIVE' === $t->peek(1);
    }

    public function partitioned(Tokens $t, TableBuilder $table): void
    {
        $t->take('PARTITION', 'BY');
        $from = $t->at;
        $how = $t->take('LINEAR') ? 'LINEAR '.$t->peek() : $t->peek();
        $t->skip();
        if (str_ends_with($how, 'KEY') && $t->take('ALGORITHM')) {
            $t->take('=');
            $t->skip();
        }
        $t->take('COLUMNS');
        if ('(' === $t->peek()) {
            $t->parenthesis();
        }
        $table->partitionKey = $t->from($from);
        while (!$t->over() && !\in_array($t->peek(), ['AS', 'SELECT', 'WITH', 'TABLESPACE', 'USING'], true)) {
            if ('(' === $t->peek()) {
                $t->parenthesis();
            } else {
                $t->skip();
            }
        }
    }

    /** One option of a table, of those that ALTER TABLE knows too. Says whether there was one. */
    public function option(Tokens $t, TableBuilder $table): bool
    {
        if ($t->take('WITHOUT', 'ROWID')) {
            $table->withoutRowid = true;
            $table->traits[] = 'WITHOUT ROWID';
        } elseif ($this->dialect->catalog->rowids && $t->take('STRICT')) {
            $table->traits[] = 'STRICT';
        } elseif ('' !== $t->any('ENGINE', 'TYPE')) {
            $t->take('=');
            $table->storage = $this->dialect->storage($t->text() ?? $t->name());
        } elseif ($t->take('COMMENT')) {
            $t->take('=');
            $table->comment = $t->text() ?? throw $t->fault('A text was expected');
        } elseif ($t->take('DEFAULT', 'COLLATE') || $t->take('COLLATE')) {
            $t->take('=');
            $table->collation = $this->dialect->tableCollation(null, $t->text() ?? $t->name());
        } elseif ($this->charset($t)) {
            $t->take('=');
            $table->charset = strtolower($t->text() ?? $t->name());
            $table->collation = $this->dialect->tableCollation($table->charset, null);
        } elseif (isset(self::VALUED[$t->peek()])) {
            $t->skip();
            $t->take('=');
            $t->take('-');
            $t->skip();
        } elseif ($t->take('UNION')) {
            $t->take('=');
            $t->parenthesis();
        } elseif ($t->take('DATA', 'DIRECTORY') || $t->take('INDEX', 'DIRECTORY')) {
            $t->take('=');
            $t->skip();
        } elseif ($t->take('WITH', 'SYSTEM', 'VERSIONING') || $t->take('WITHOUT', 'OIDS') || $t->take('WITH', 'OIDS')) {
            return true;
        } elseif ('WITH' === $t->peek() && '(' === $t->peek(1)) {
            $t->skip();
            $t->parenthesis();
        } elseif ($t->take('ON', 'COMMIT')) {
            $t->skip();
            $t->any('ROWS');
        } elseif ($this->dialect->structure->storageBefore && ($t->take('USING') || $t->take('SERVER'))) {
            $t->name();
        } elseif ($this->dialect->structure->storageBefore && $t->take('OPTIONS')) {
            $t->parenthesis();
        } elseif ($t->take('STORAGE')) {
            $t->skip();
        } elseif (!$t->take('IGNORE') && !($this->dialect->queries->charsetTexts && $t->take('REPLACE'))) {
            // An option with a value that is not known to anybody here, of some storage.
            if ($this->dialect->queries->charsetTexts && $t->isName() && '=' === $t->peek(1)) {
                $t->at += 3;

                return true;
            }

            return false;
        }

        return true;
    }

    private function charset(Tokens $t): bool
    {
        return $t->take('DEFAULT', 'CHARACTER', 'SET') || $t->take('DEFAULT', 'CHARSET') || $t->take('CHARACTER', 'SET') || $t->take('CHARSET')
            || ($this->dialect->queries->charsetTexts && $t->take('CHAR', 'SET'));
    }

    /** Options of a schema that tables without their own follow. */
    public function ofSchema(Tokens $t, string $schema): void
    {
        while (!$t->over()) {
            if ($this->charset($t)) {
                $t->take('=');
                $this->made->collations[$schema] = (string) $this->dialect->tableCollation(strtolower($t->text() ?? $t->name()), null);
            } elseif ($t->take('DEFAULT', 'COLLATE') || $t->take('COLLATE')) {
                $t->take('=');
                $this->made->collations[$schema] = (string) $this->dialect->tableCollation(null, $t->text() ?? $t->name());
            } elseif ($t->take('COMMENT') || $t->take('DEFAULT', 'ENCRYPTION') || $t->take('ENCRYPTION')) {
                $t->take('=');
                $t->skip();
            } else {
                throw $t->fault('This option of a database is not understood');
            }
        }
    }

    /** What the engine does at the end of a statement that made or changed a table: collations, names and indexes of foreign keys. */
    public function settle(TableBuilder $table): void
    {
        $table->collation ??= $this->made->collations[$table->schema] ?? null;
        foreach ($table->columns as $column) {
            [$column->type, $column->charset, $column->collation] = $this->dialect->collated(
                $column->type,
                $column->charset,
                $column->collation,
                $column->words,
                $table->collation,
            );
            $column->words = '';
        }
        $this->nameChecks($table);
        $this->cutLong($table);
        $keeps = '' === $this->dialect->catalog->withoutForeignKeys || 1 !== preg_match($this->dialect->catalog->withoutForeignKeys, (string) $table->storage);
        $said = array_filter(array_map(static fn (array $foreign): ?string => $foreign['name'], $table->foreign));
        foreach ($table->foreign as $i => $foreign) {
            $index = $foreign['name'];
            if (null === $foreign['name']) {
                $taken = array_map(static fn (array $other): string => (string) $other['name'], $table->foreign);
                if (null === $this->made->find($table->schema, $table->name)) {
                    // While a table is made, those that say a name of this form are not counted.
                    $taken = array_values(array_diff($taken, $said));
                }
                $table->foreign[$i]['name'] = $this->dialect->catalog->namesChecksAtOnce
                    ? $this->made->named($table->schema, $table->name, implode('_', $foreign['columns']), 'fkey')
                    : $this->dialect->foreignKeyName($table->name, $foreign['columns'], $taken);
            } elseif ($this->dialect->catalog->namesChecksAtOnce) {
                $this->made->take($table->schema, $foreign['name']);
            }
            if ($this->dialect->catalog->indexesForeignKeys && !isset($table->served[(string) $table->foreign[$i]['name']])) {
                $this->indexed($table, $foreign['columns'], $index);
                $table->served[(string) $table->foreign[$i]['name']] = true;
            }
        }
        if (!$keeps) {
            $table->foreign = [];
            $table->served = [];
        }
    }

    private function nameChecks(TableBuilder $table): void
    {
        $checks = $table->checks;
        foreach ($this->dialect->queries->charsetTexts ? $checks : [] as $i => $check) {
            if ('' === $check->name) {
                $taken = array_map(static fn (CheckConstraint $other): string => $other->name, $checks);
                $checks[$i] = new CheckConstraint($this->dialect->checkName($table->name, array_values($taken)), $check->expression, $check->column);
            }
        }
        $table->checks = array_values($checks);
    }

    /** An index over a long text takes as much of it as fits. */
    private function cutLong(TableBuilder $table): void
    {
        $indexes = $table->indexes;
        foreach ($this->dialect->queries->charsetTexts ? $indexes : [] as $i => $index) {
            $parts = array_map(function (IndexPart $part) use ($table, $index): IndexPart {
                $column = $table->columns[$part->column] ?? null;
                if (null === $column) {
                    return $part;
                }
                $length = null !== $part->length ? IndexDefinitions::partLength($part->length, $column->type)
                    : $this->dialect->indexedLength($index, $column->type, $table->storage, $column->collation ?? $table->collation);

                return new IndexPart($part->column, 'spatial' === $index->method ? $part->length : $length, $part->descending);
            }, $index->parts);
            $indexes[$i] = new Index($index->name, $parts, $index->unique, $index->method, $index->comment, $index->where);
        }
        $table->indexes = array_values($indexes);
    }

    /**
     * The engine makes an index for a foreign key that has none, and names it like the key.
     *
     * @param list<string> $columns
     */
    private function indexed(TableBuilder $table, array $columns, ?string $name): void
    {
        foreach ($table->indexes as $index) {
            $first = \array_slice($index->parts, 0, \count($columns));
            if (array_map(static fn (IndexPart $part): string => $part->column, $first) === $columns && TableBuilder::isWhole($first)
                && 'fulltext' !== $index->method) {
                if (!isset($table->made[$index->name]) || \count($index->parts) > \count($columns)) {
                    return;
                }
                // Of two that the engine made, the later one stays.
                $table->dropIndex($index->name);
            }
        }
        $parts = array_map(static fn (string $column): IndexPart => new IndexPart($column), $columns);
        $name ??= $this->made->indexName($table, $parts);
        $table->indexes[] = new Index($name, $parts);
        $table->made[$name] = true;
    }
}
