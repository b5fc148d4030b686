<?php

declare(strict_types=1);

namespace Fasti\Core\Script;

use Fasti\Core\Catalog\CheckConstraint;
use Fasti\Core\Catalog\Generated;
use Fasti\Core\Catalog\Index;
use Fasti\Core\Catalog\IndexPart;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Dialect\Grammar;
use Fasti\Core\Sql\Tokens;

/**
 * Reads what stands between the parentheses of CREATE TABLE, and what ALTER TABLE … ADD brings: columns and constraints.
 *
 * @phpstan-import-type Col from TableBuilder
 */
final readonly class Definitions
{
    private const CONSTRAINTS = ['CONSTRAINT', 'PRIMARY', 'UNIQUE', 'FOREIGN', 'CHECK', 'EXCLUDE'];
    private const TYPE_ENDS = [',', ')', '', 'NOT', 'NULL', 'DEFAULT', 'PRIMARY', 'UNIQUE', 'REFERENCES', 'CHECK', 'GENERATED', 'CONSTRAINT', 'COLLATE'];
    private const TYPE_WORDS = ['PRECISION', 'VARYING', 'UNSIGNED', 'SIGNED', 'ZEROFILL', 'LARGE', 'OBJECT', 'BINARY', 'BYTE'];

    public function __construct(private Grammar $dialect)
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
            if (',' !== $t->peek() && ')' !== $t->peek()) {
                throw $t->fault('A comma or a closing parenthesis was expected');
            }
        } while ($t->take(','));
        $t->expect(')');
    }

    public function element(Tokens $t, TableBuilder $table): void
    {
        if ($t->take('LIKE')) {
            $t->skipElement();

            return;
        }
        if (!$this->constraint($t, $table) && !$this->inlineIndex($t, $table)) {
            $this->column($t, $table);
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
            $name = \in_array($t->peek(), ['PRIMARY', 'UNIQUE', 'FOREIGN', 'CHECK'], true) ? null : $t->name();
        }
        if ($t->take('PRIMARY', 'KEY')) {
            $this->indexMethod($t);
            if ($t->isName()) {
                $name = $t->name();
            }
            $this->primary($table, $name, $this->parts($t), $this->indexTail($t));
        } elseif ('UNIQUE' === $t->peek() && ('(' === $t->peek(1) || null !== $name || \in_array($t->peek(1), ['KEY', 'INDEX', 'NULLS'], true) || '(' === $t->peek(2))) {
            $t->skip();
            $t->any('KEY', 'INDEX');
            if ($t->take('NULLS')) {
                $t->take('NOT');
                $t->take('DISTINCT');
            }
            if ('(' !== $t->peek() && 'USING' !== $t->peek()) {
                $name = $t->name();
            }
            $this->indexMethod($t);
            $this->unique($table, $name, $this->parts($t), $this->indexTail($t));
        } elseif ($t->take('FOREIGN', 'KEY')) {
            if ('(' !== $t->peek()) {
                $t->name();
            }
            $this->references($t, $table, $name, $t->names());
        } elseif ($t->take('CHECK')) {
            $table->checks[] = new CheckConstraint($name ?? '', $t->parenthesis());
            $this->constraintTail($t);
        } elseif ($t->take('EXCLUDE')) {
            $method = $t->take('USING') ? strtolower($t->name()) : 'gist';
            $inner = $t->parenthesis();
            $where = $t->take('WHERE') ? $t->parenthesis() : null;
            $table->checks[] = new CheckConstraint($name ?? '', 'EXCLUDE USING '.$method.' ('.$inner.')'.(null === $where ? '' : " WHERE ($where)"));
            $parts = array_map(static fn (string $part): IndexPart => new IndexPart(trim((string) preg_replace('/\s+WITH\s+\S+\s*$/i', '', $part), '" ')), self::split($inner));
            $table->indexes[] = new Index($name ?? $table->name.'_excl', $parts, false, $method, '', $where);
            $this->constraintTail($t);
        } elseif (null !== $name && $t->take('NOT', 'NULL')) {
            return true;
        } else {
            $t->at = $start;

            return false;
        }

        return true;
    }

    /** `KEY name (…)` and its kin within a table of MySQL's family. */
    private function inlineIndex(Tokens $t, TableBuilder $table): bool
    {
        if (!$this->dialect->inlineIndexes) {
            return false;
        }
        $start = $t->at;
        $method = strtolower($t->any('FULLTEXT', 'SPATIAL'));
        if ('' === $t->any('KEY', 'INDEX')) {
            $t->at = $start;

            return false;
        }
        $name = $t->isName() && '(' !== $t->peek() ? $t->name() : null;
        $using = $this->indexMethod($t);
        $parts = $this->parts($t);
        $tail = $this->indexTail($t);
        $table->indexes[] = new Index($name ?? $parts[0]->column, $parts, false, '' !== $method ? $method : ($tail[1] ?: ($using ?: 'btree')), $tail[0]);

        return true;
    }

    public function column(Tokens $t, TableBuilder $table): void
    {
        $name = $t->name();
        $from = $t->at;
        [$type, $word] = $this->type($t);
        $column = $this->dialect->serial($word, $table->schema, $table->name, $name) + ['type' => $type] + Script::unknownColumn($name);
        if ($this->dialect->jsonIsText && 'json' === strtolower($word)) {
            [$column['charset'], $column['collation']] = ['utf8mb4', 'utf8mb4_bin'];
            $table->checks[] = new CheckConstraint($name, "json_valid(`$name`)", $name);
        }
        $table->columns[$name] = $column;
        while (!$t->over() && ',' !== $t->peek() && ')' !== $t->peek()) {
            $this->columnOption($t, $table, $name);
            if ($t->at === $from) {
                throw $t->fault(\sprintf('The definition of the column “%s” could not be read', $name));
            }
            $from = $t->at;
        }
    }

    private function columnOption(Tokens $t, TableBuilder $table, string $name): void
    {
        $column = &$table->columns[$name];
        $label = null;
        if ($t->take('CONSTRAINT')) {
            $label = $t->name();
        }
        if ($t->take('NOT', 'NULL')) {
            $column['nullable'] = false;
            $this->conflict($t);
        } elseif ($t->take('NULL')) {
            $column['nullable'] = true;
        } elseif ($t->take('DEFAULT')) {
            $default = $t->expression();
            $column['default'] = 'NULL' === strtoupper($default) ? null : $this->dialect->default($default, $column['type']);
        } elseif ($t->take('PRIMARY', 'KEY')) {
            $direction = $t->any('ASC', 'DESC');
            $this->conflict($t);
            $this->primary($table, $label, [new IndexPart($name, null, 'DESC' === $direction)], ['', '']);
        } elseif ($t->take('KEY') && $this->dialect->inlineIndexes) {
            $this->primary($table, $label, [new IndexPart($name)], ['', '']);
        } elseif ($t->take('UNIQUE')) {
            $t->take('KEY');
            $this->conflict($t);
            $this->unique($table, $label, [new IndexPart($name)], ['', '']);
        } elseif ('REFERENCES' === $t->peek()) {
            $this->references($t, $table, $label, [$name]);
        } elseif ($t->take('CHECK')) {
            $expression = $t->parenthesis();
            [$checkName, $of] = null === $label ? $this->dialect->columnCheck($table->name, $name) : [$label, $this->dialect->checkedColumn($name)];
            $table->checks[] = new CheckConstraint($checkName, $expression, $of);
            $this->constraintTail($t);
        } elseif ($t->take('GENERATED')) {
            $t->take('BY') ? $t->expect('DEFAULT') : $t->take('ALWAYS');
            $t->expect('AS');
            if ($t->take('IDENTITY')) {
                [$column['auto'], $column['nullable']] = [true, false];
                '(' === $t->peek() && $t->parenthesis();
            } else {
                $this->generated($t, $column);
            }
        } elseif ($t->take('AS')) {
            $this->generated($t, $column);
        } elseif ($t->take('COMMENT')) {
            $column['comment'] = $t->text() ?? '';
        } elseif ('' !== $t->any('AUTO_INCREMENT', 'AUTOINCREMENT', 'IDENTITY')) {
            $column['auto'] = true;
            '(' === $t->peek() && $t->parenthesis();
        } elseif ($t->take('ON', 'UPDATE')) {
            $column['onUpdate'] = $this->dialect->now($t->expression());
        } elseif ($t->take('COLLATE')) {
            $collation = $t->qualified()[1];
            $column['collation'] = $collation;
            if ($this->dialect->collationTellsCharset) {
                $column['charset'] ??= strstr($collation, '_', true) ?: $collation;
            }
        } elseif ($t->take('CHARACTER', 'SET') || $t->take('CHARSET')) {
            $column['charset'] = strtolower($t->name());
        } else {
            // Options that say nothing about what the column holds: visibility, storage, compression.
            $this->conflict($t);
            $t->skip();
            '(' === $t->peek() && $t->parenthesis();
        }
    }

    /** @param Col $column */
    private function generated(Tokens $t, array &$column): void
    {
        $expression = $t->parenthesis();
        $stored = $t->any('STORED', 'PERSISTENT', 'VIRTUAL');
        $column['generated'] = new Generated($expression, 'STORED' === $stored || 'PERSISTENT' === $stored);
    }

    /** @return array{string, string} the type as the engine's catalog writes it, and its first word */
    public function type(Tokens $t): array
    {
        if (!$t->isName() || ('' !== $t->peek() && \in_array($t->peek(), self::TYPE_ENDS, true))) {
            return ['', ''];
        }
        $from = $t->at;
        $t->name();
        while ($t->take('.')) {
            $t->name();
        }
        while (\in_array(
            $t->peek(),
            ['PRECISION', 'VARYING', 'LARGE', 'OBJECT'],
            true,
        ) || ($this->dialect->wordyTypes && $t->isName() && !$this->endsType($t->peek()))) {
            $t->skip();
        }
        $base = $t->from($from);
        $options = '(' === $t->peek() ? $t->parenthesis() : '';
        $after = $t->at;
        while (!\in_array($t->peek(), self::TYPE_ENDS, true)) {
            if (\in_array($t->peek(), self::TYPE_WORDS, true)) {
                $t->skip();
            } elseif ('[' === $t->peek()) {
                while (!$t->over() && !$t->take(']')) {
                    $t->skip();
                }
            } elseif (!$t->take('WITH', 'TIME', 'ZONE') && !$t->take('WITHOUT', 'TIME', 'ZONE') && !($this->dialect->arrays && $t->take('ARRAY'))) {
                break;
            }
        }

        return [$this->dialect->type($base, $options, $t->from($after)), $base];
    }

    private function endsType(string $word): bool
    {
        return \in_array($word, ['', 'NOT', 'NULL', 'DEFAULT', 'PRIMARY', 'UNIQUE', 'REFERENCES', 'CHECK', 'GENERATED', 'CONSTRAINT', 'COLLATE', 'AS', 'ON'], true);
    }

    /**
     * @param list<IndexPart>       $parts
     * @param array{string, string} $tail
     */
    private function primary(TableBuilder $table, ?string $name, array $parts, array $tail): void
    {
        $columns = self::columnsOf($parts);
        if ([] === $columns) {
            return;
        }
        $table->primary = new Key($this->dialect->primaryKeyName($table->name, $name), $columns);
        if ($this->dialect->keysAreIndexes) {
            $table->indexes[] = new Index($this->dialect->primaryIndexName($table->primary->name), $parts, true, $tail[1] ?: 'btree', $tail[0]);
        }
    }

    /**
     * @param list<IndexPart>       $parts
     * @param array{string, string} $tail  comment and method
     */
    private function unique(TableBuilder $table, ?string $name, array $parts, array $tail): void
    {
        $columns = self::columnsOf($parts);
        if ([] === $columns) {
            return;
        }
        $name ??= $this->dialect->uniqueName($table->name, $columns, array_map(static fn (Index $index): string => $index->name, $table->indexes));
        $whole = [] === array_filter($parts, static fn (IndexPart $part): bool => null !== $part->length);
        if ($whole) {
            $table->unique[] = new Key($name, $columns);
        }
        if ($this->dialect->keysAreIndexes) {
            $table->indexes[] = new Index((string) $name, $parts, true, $tail[1] ?: 'btree', $tail[0]);
        }
    }

    /** @param non-empty-list<string>|list<string> $columns */
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
        $name ??= $this->dialect->foreignKeyName($table->name, $columns, \count($table->foreign) + 1);
        $table->foreign[] = ['name' => $name, 'columns' => $columns, 'schema' => $schema, 'table' => $far, 'far' => $farColumns, 'onDelete' => $onDelete, 'onUpdate' => $onUpdate];
    }

    private function action(Tokens $t): string
    {
        return match (true) {
            $t->take('CASCADE') => 'CASCADE',
            $t->take('RESTRICT') => 'RESTRICT',
            $t->take('SET', 'NULL') => 'SET NULL',
            $t->take('SET', 'DEFAULT') => 'SET DEFAULT',
            $t->take('NO', 'ACTION') => 'NO ACTION',
            default => throw $t->fault('A referential action was expected'),
        };
    }

    private function deferral(Tokens $t): bool
    {
        return $t->take('NOT', 'DEFERRABLE') || $t->take('DEFERRABLE') || $t->take('INITIALLY', 'DEFERRED') || $t->take('INITIALLY', 'IMMEDIATE') || $t->take('NOT', 'VALID') || $t->take('ENABLE') || $t->take('DISABLE');
    }

    private function constraintTail(Tokens $t): void
    {
        while ($this->deferral($t) || $t->take('NO', 'INHERIT') || $t->take('NOT', 'ENFORCED') || $t->take('ENFORCED')) {
            continue;
        }
        $this->conflict($t);
    }

    private function conflict(Tokens $t): void
    {
        if ($t->take('ON', 'CONFLICT')) {
            $t->skip();
        }
    }

    /** @return list<IndexPart> */
    public function parts(Tokens $t): array
    {
        $t->expect('(');
        $parts = [];
        do {
            $from = $t->at;
            $expression = '(' === $t->peek() || '(' === $t->peek(1) && $this->dialect->bareIndexCalls;
            if ($expression) {
                $t->isName() && $t->name();
                $t->parenthesis();
                $what = $t->from($from);
                if (!$this->dialect->bareIndexCalls && str_starts_with($what, '((')) {
                    $what = substr($what, 1, -1);
                }
                $length = null;
            } else {
                $what = $t->name();
                $length = '(' === $t->peek() ? (int) $t->parenthesis() : null;
            }
            while ($t->take('COLLATE') || ($this->dialect->operatorClasses && !\in_array(
                $t->peek(),
                [',', ')', 'ASC', 'DESC', 'NULLS'],
                true,
            ) && !$t->over())) {
                $t->isName() ? $t->qualified() : $t->skip();
            }
            $descending = 'DESC' === $t->any('ASC', 'DESC');
            if ($t->take('NULLS')) {
                $t->any('FIRST', 'LAST');
            }
            $parts[] = new IndexPart($what, $length, $descending);
        } while ($t->take(','));
        $t->expect(')');

        return $parts;
    }

    private function indexMethod(Tokens $t): string
    {
        return $t->take('USING') ? strtolower($t->name()) : '';
    }

    /** @return array{string, string} comment and method of an index or key, as options after its columns say them */
    public function indexTail(Tokens $t): array
    {
        $comment = $method = '';
        while (!$t->over() && ',' !== $t->peek() && ')' !== $t->peek()) {
            if ($t->take('COMMENT')) {
                $t->take('=');
                $comment = $t->text() ?? '';
            } elseif ($t->take('USING')) {
                $method = strtolower($t->name());
            } elseif ($t->take('INCLUDE')) {
                $t->parenthesis();
            } elseif (!$this->deferral($t)) {
                $t->skip();
                '(' === $t->peek() && $t->parenthesis();
            }
        }

        return [$comment, $method];
    }

    /**
     * @param list<IndexPart> $parts
     *
     * @return list<string>
     */
    private static function columnsOf(array $parts): array
    {
        return array_map(static fn (IndexPart $part): string => $part->column, $parts);
    }

    /** @return list<string> the elements of a list, at its commas outside parentheses */
    private static function split(string $list): array
    {
        preg_match_all('/(?:[^,()]++|\((?:[^()]++|(?R))*+\)|\([^)]*\))+/', $list, $m);

        return array_map(trim(...), $m[0]);
    }
}
