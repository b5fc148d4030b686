<?php

declare(strict_types=1);

namespace Fasti\Core\Script;

use Fasti\Core\Catalog\Index;
use Fasti\Core\Catalog\IndexPart;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Dialect\Grammar;
use Fasti\Core\Dialect\TypeText;
use Fasti\Core\Sql\Lexer;
use Fasti\Core\Sql\Tokens;

/** Indexes and their parts, within a table and by themselves. */
final readonly class IndexDefinitions
{
    public function __construct(private Grammar $dialect, private Schemas $made, private Definitions $all)
    {
    }

    /** `KEY name (…)` and its kin within a table of MySQL's family. */
    public function inlineIndex(Tokens $t, TableBuilder $table): bool
    {
        if (!$this->dialect->structure->inlineIndexes) {
            return $this->dialect->structure->looseInlineIndexes && $this->looseIndex($t, $table);
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
        $parts = $this->all->keys->keyParts($t, $table);
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
        if ($this->dialect->catalog->indexesForeignKeys) {
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
    public function replaceMade(TableBuilder $table, array $columns, array $parts): void
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
        return $this->all->keys->keyParts($t, $table);
    }

    /** @return list<IndexPart> */
    public function parts(Tokens $t): array
    {
        $t->expect('(');
        $parts = [];
        do {
            $parts[] = $this->part($t);
            if ($this->dialect->catalog->rowids) {
                $t->take('AUTOINCREMENT');
            }
        } while ($t->take(','));
        $t->expect(')');

        return $parts;
    }

    public function part(Tokens $t): IndexPart
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
            || ($this->dialect->structure->operatorClasses && \in_array($t->kind(1), [Lexer::WORD, Lexer::QUOTED], true)));
        if ($plain) {
            $what = $t->name();
        } elseif (!$this->dialect->structure->bareIndexCalls && $t->isName() && '(' === $after) {
            $what = $t->name();
            $length = (int) $t->parenthesis();
        } else {
            $what = $this->all->columns->upTo($t, 0) ?? throw $t->fault('A column or an expression was expected');
        }
        if ($t->take('COLLATE')) {
            $t->text() ?? $t->qualified();
        }
        if ($this->dialect->structure->operatorClasses && $t->isName() && !\in_array($t->peek(), ['ASC', 'DESC', 'NULLS', 'WITH'], true)) {
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

    public function indexMethod(Tokens $t): string
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
                $this->all->keys->conflict($t);
            } elseif ('' !== ($word = $t->any('KEY_BLOCK_SIZE', 'ENGINE_ATTRIBUTE', 'SECONDARY_ENGINE_ATTRIBUTE', 'CLUSTERING', 'ALGORITHM', 'LOCK'))) {
                $t->take('=');
                $t->skip();
            } elseif ($t->take('WITH', 'PARSER')) {
                $t->name();
            } elseif ('' !== $t->any('VISIBLE', 'INVISIBLE', 'IGNORED', 'CLUSTERED', 'NONCLUSTERED', 'COMPRESS', 'LOGGING', 'NOLOGGING', 'REVERSE', 'ONLINE')
                || $t->take('NOT', 'IGNORED')) {
                continue;
            } elseif ($this->all->keys->deferral($t)) {
                continue;
            } elseif ($short || $this->dialect->structure->looseLists) {
                break;
            } elseif ($this->dialect->structure->looseOptions) {
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
