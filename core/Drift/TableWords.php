<?php

declare(strict_types=1);

namespace Fasti\Core\Drift;

use Fasti\Core\Catalog\CheckConstraint;
use Fasti\Core\Catalog\Facts;
use Fasti\Core\Catalog\ForeignKey;
use Fasti\Core\Catalog\Index;
use Fasti\Core\Catalog\IndexPart;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Catalog\Place;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\Trigger;
use Fasti\Core\Dialect\Dialect;
use Fasti\Core\Dialect\Grammar;
use Fasti\Core\Sql\Alike;

/** What changed of a table itself, in words: everything that a catalog holds of it but its columns. */
final readonly class TableWords
{
    private ?Grammar $grammar;

    /**
     * @param array<string, string> $renamed columns: old name → new name
     * @param array<string, Place>  $moved   key of the place of a renamed table → its new place
     * @param bool                  $alike   both were read in the same manner, so that what only one says has come or gone
     */
    public function __construct(
        private Table $was, private Table $is, Dialect $dialect, private array $renamed, private array $moved, private bool $alike = true,
    ) {
        $this->grammar = $dialect->grammar();
    }

    /** @return list<string> */
    public function all(): array
    {
        return [...$this->itself(), ...$this->keys(), ...$this->joins(), ...$this->checks(), ...$this->indexes(), ...$this->triggers(), ...$this->rest()];
    }

    /** A body without what says nothing: blanks and comments. */
    public static function body(string $body): string
    {
        return trim((string) preg_replace(['~/\*.*?\*/~s', '/--[^\n]*/', '/\s+/'], ['', '', ' '], $body), '; ');
    }

    private function name(string $column): string
    {
        return $this->renamed[$column] ?? $column;
    }

    /**
     * @param list<string> $was
     * @param list<string> $is
     *
     * @return list<string>
     */
    private static function sets(array $was, array $is, string $added, string $removed): array
    {
        return [
            ...array_map(static fn (string $what): string => \sprintf($added, $what), array_values(array_unique(array_diff($is, $was)))),
            ...array_map(static fn (string $what): string => \sprintf($removed, $what), array_values(array_unique(array_diff($was, $is)))),
        ];
    }

    /** @return list<string> */
    private function itself(): array
    {
        $was = $this->was;
        $is = $this->is;
        $words = [];
        if ($was->kind !== $is->kind) {
            $words[] = \sprintf('it was a %s and is a %s', $was->kind->value, $is->kind->value);
        }
        if ($was->comment !== $is->comment) {
            $words[] = '' === $is->comment
                ? 'its comment was removed'
                : \sprintf('the database says “%s” of it%s', $is->comment, '' === $was->comment ? '' : \sprintf(' (was “%s”)', $was->comment));
        }

        return $words;
    }

    /** @return list<string> */
    private function keys(): array
    {
        $words = [];
        $old = array_map($this->name(...), $this->was->primaryKey->columns ?? []);
        $new = $this->is->primaryKey->columns ?? [];
        if ($old !== $new) {
            $words[] = [] === $new ? \sprintf('it has no primary key any more (was %s)', implode(', ', $old))
                : \sprintf('its primary key is %s%s', implode(', ', $new), [] === $old ? '' : ' (was '.implode(', ', $old).')');
        }
        $unique = fn (Key $key): string => implode(', ', array_map($this->name(...), $key->columns));
        $plain = static fn (Key $key): string => implode(', ', $key->columns);

        return [
            ...$words,
            ...self::sets(
                array_map($unique, $this->was->uniqueKeys),
                array_map($plain, $this->is->uniqueKeys),
                '%s stands only once now',
                '%s may stand more than once now',
            ),
        ];
    }

    /** @return list<string> */
    private function joins(): array
    {
        $leads = function (ForeignKey $key): string {
            $far = $key->references->place();

            // Where the table has gone to another schema, what stood beside it has gone along, known or not.
            $beside = $this->was->schema !== $this->is->schema && $far->schema === $this->was->schema ? new Place($this->is->schema, $far->name) : $far;

            return \sprintf('%s to %s', implode(', ', array_map($this->name(...), $key->columns)), $this->moved[$far->key()] ?? $beside);
        };
        $plain = static fn (ForeignKey $key): string => \sprintf('%s to %s', implode(', ', $key->columns), $key->references->place());
        $oldLeads = array_map($leads, $this->was->foreignKeys);
        $newLeads = array_map($plain, $this->is->foreignKeys);
        $words = self::sets($oldLeads, $newLeads, 'a join leads from %s', 'no join leads from %s any more');
        foreach ($this->is->foreignKeys as $i => $key) {
            // Among several from the same columns to the same table, those with the same name or the same far end belong together.
            $same = array_keys(array_filter($oldLeads, static fn (string $lead): bool => $lead === $newLeads[$i]));
            usort($same, fn (int $a, int $b): int => $this->fits($b, $key) <=> $this->fits($a, $key));
            if ([] === $same) {
                continue;
            }
            $old = $this->was->foreignKeys[$same[0]];
            // Columns of the other table may have new names, which is said there.
            if ($old->references->columns !== $key->references->columns && !isset($this->moved[$old->references->place()->key()])) {
                $words[] = \sprintf(
                    'the join from %s meets %s there (was %s)',
                    $newLeads[$i],
                    implode(', ', $key->references->columns),
                    implode(', ', $old->references->columns),
                );
            }
            if ([$old->onDelete, $old->onUpdate] !== [$key->onDelete, $key->onUpdate]) {
                $words[] = \sprintf(
                    'the join from %s acts otherwise: on delete %s, on update %s',
                    $newLeads[$i],
                    strtolower($key->onDelete),
                    strtolower($key->onUpdate),
                );
            }
        }

        return $words;
    }

    private function fits(int $i, ForeignKey $key): int
    {
        $old = $this->was->foreignKeys[$i];

        return ($old->references->columns === $key->references->columns ? 2 : 0) + ($old->name === $key->name ? 1 : 0);
    }

    /** @return list<string> */
    private function checks(): array
    {
        $old = $this->was->checks;
        $new = $this->is->checks;
        foreach ($new as $i => $check) {
            foreach ($old as $j => $other) {
                if ($this->sameExpression($this->renamedIn($other->expression), $check->expression)) {
                    unset($old[$j], $new[$i]);
                    break;
                }
            }
        }
        $say = static fn (CheckConstraint $check): string => $check->expression;

        return self::sets(
            array_map($say, array_values($old)),
            array_map($say, array_values($new)),
            'it is checked now that %s',
            'it is not checked any more that %s',
        );
    }

    private function sameExpression(string $a, string $b): bool
    {
        return $a === $b || (null !== $this->grammar && Alike::expressions($a, $b, $this->grammar));
    }

    /** An expression with the new names of columns. */
    private function renamedIn(string $expression): string
    {
        foreach ($this->renamed as $was => $is) {
            $expression = (string) preg_replace(
                '/(?<![\w.\'])'.preg_quote((string) $was, '/').'(?![\w\'(])/',
                str_replace(['\\', '$'], ['\\\\', '\\$'], $is),
                $expression,
            );
        }

        return $expression;
    }

    /** @return list<string> */
    private function indexes(): array
    {
        $words = [];
        $old = $this->was->indexes;
        $new = $this->is->indexes;
        $say = fn (Index $index, bool $renamed): string => $this->index($index, $renamed);
        // What is the same but for its name is the same one.
        foreach ($new as $i => $index) {
            foreach ($old as $j => $other) {
                if ($say($other, true) === $say($index, false) && $other->comment === $index->comment) {
                    if ($other->name !== $index->name) {
                        $words[] = \sprintf('the index %s is called %s now', $other->name, $index->name);
                    }
                    unset($old[$j], $new[$i]);
                    break;
                }
            }
        }
        foreach ($new as $i => $index) {
            foreach ($old as $j => $other) {
                if ($other->name === $index->name) {
                    $is = $say($index, false);
                    $was = $say($other, true);
                    if ($is !== $was) {
                        $words[] = \sprintf('the index %s is %s (was %s)', $index->name, $is, $was);
                    } elseif ($other->comment !== $index->comment) {
                        $words[] = '' === $index->comment
                            ? \sprintf('the comment of the index %s was removed', $index->name)
                            : \sprintf('the database says “%s” of the index %s', $index->comment, $index->name);
                    }
                    unset($old[$j], $new[$i]);
                    break;
                }
            }
        }
        $new = array_map(static fn (Index $index): string => $say($index, false), array_values($new));
        $old = array_map(static fn (Index $index): string => $say($index, true), array_values($old));

        return [...$words, ...self::sets($old, $new, 'there is an index %s', 'there is no index %s any more')];
    }

    /** `over at, descending, and the first 10 of note, each value once, by hash, where (closed IS NULL)` */
    private function index(Index $index, bool $renamed): string
    {
        $parts = array_map(fn (IndexPart $part): string => (null === $part->length ? '' : 'the first '.$part->length.' of ')
            .($renamed ? $this->name($part->column) : $part->column).($part->descending ? ' descending' : ''), $index->parts);

        return 'over '.implode(', ', $parts).($index->unique ? ', each value once' : '').('btree' === $index->method ? '' : ', by '.$index->method)
            .(null === $index->where ? '' : ', where '.$index->where);
    }

    /** @return list<string> */
    private function triggers(): array
    {
        $byName = static fn (Table $table): array => array_combine(
            array_map(static fn (Trigger $trigger): string => $trigger->name, $table->triggers),
            $table->triggers,
        );
        $old = $byName($this->was);
        $new = $byName($this->is);
        $words = self::sets(
            array_map(strval(...), array_keys($old)),
            array_map(strval(...), array_keys($new)),
            'the trigger %s runs',
            'the trigger %s does not run any more',
        );
        foreach (array_intersect_key($new, $old) as $name => $trigger) {
            $was = $old[$name];
            if ([$was->timing, $was->event] !== [$trigger->timing, $trigger->event]) {
                $words[] = \sprintf(
                    'the trigger %s runs %s (was %s)',
                    $name,
                    strtolower($trigger->timing.' '.$trigger->event),
                    strtolower($was->timing.' '.$was->event),
                );
            }
            if (self::body($was->body) !== self::body($trigger->body)) {
                $words[] = \sprintf('the trigger %s does something else now', $name);
            }
        }

        return $words;
    }

    /** @return list<string> */
    private function rest(): array
    {
        $was = $this->was;
        $is = $this->is;
        $words = self::sets($was->traits, $is->traits, 'it says of itself: %s', 'it does not say any more: %s');
        if (null !== $was->definition && null !== $is->definition && null !== $this->grammar) {
            if (!Alike::queries($was->definition, $is->definition, $this->grammar)) {
                $words[] = 'its query is another';
            }
        } elseif (preg_replace('/\s+/', ' ', (string) $was->definition) !== preg_replace('/\s+/', ' ', (string) $is->definition)) {
            $words[] = 'its query is another';
        }

        return [...$words, ...Facts::changes($was, $is, $is->kind->isView(), $this->alike)];
    }
}
