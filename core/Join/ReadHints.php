<?php

declare(strict_types=1);

namespace Fasti\Core\Join;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\FieldPlace;
use Fasti\Core\Catalog\Place;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Sql\Reading;
use Fasti\Core\Sql\Readings;

/** The joins that views, triggers and routines make, and queries that were handed in, as far as they can be read. */
final class ReadHints
{
    /** Bodies beyond this length are left unread. */
    private const LONGEST = 200000;

    /** @var list<Hint> */
    private array $hints = [];
    /** @var array<string, Table> */
    private array $tables = [];

    /** @param array<string, string> $queries name → text */
    private function __construct(private readonly Catalog $catalog, private readonly array $queries)
    {
        foreach ($catalog->tables as $table) {
            $this->tables[$table->place()->key()] = $table;
        }
    }

    /** @param array<string, string> $queries that were handed in: name → text */
    public static function of(Catalog $catalog, array $queries = []): Hints
    {
        $has = [] !== $queries || [] !== $catalog->routines;
        foreach ($catalog->tables as $table) {
            $has = $has || $table->kind->isView() || [] !== $table->triggers;
        }

        return new Hints($has ? (new self($catalog, $queries))->all() : []);
    }

    /** @return list<Hint> */
    private function all(): array
    {
        $readings = new Readings($this->catalog);
        foreach ($readings->all() as $key => $reading) {
            $this->take($reading, Feature::VIEW, Place::ofKey($key)->name);
        }
        foreach ($this->catalog->tables as $table) {
            foreach ($table->triggers as $trigger) {
                $this->body($readings, $trigger->body, $table->schema, $trigger->name, $table);
            }
        }
        foreach ($this->catalog->routines as $routine) {
            $this->body($readings, (string) $routine->body, $routine->schema, $routine->name, null);
        }
        foreach ($this->queries as $name => $text) {
            $this->take($readings->query($text), Feature::QUERY, $name);
        }

        return $this->hints;
    }

    /** The queries within a body; in a trigger, NEW and OLD are rows of its table. */
    private function body(Readings $readings, string $body, string $schema, string $name, ?Table $table): void
    {
        if (\strlen($body) > self::LONGEST) {
            return;
        }
        foreach (explode(';', $body) as $statement) {
            $at = stripos($statement, 'select');
            if (false === $at || !str_contains(strtolower($statement), 'from')) {
                continue;
            }
            $query = self::balanced(substr($statement, $at));
            if (null !== $table && 1 === preg_match('/\b(?:NEW|OLD)\s*\./i', $query)) {
                $query = (string) preg_replace('/:?\b(?:NEW|OLD)\s*\.\s*/i', 'fasti_row.', $query);
                // What a query within does not find in its own tables, it finds in the row.
                $query = 'SELECT 1 FROM '.$this->quoted($table->name).' fasti_row WHERE EXISTS ('.$query.')';
            }
            $this->take($readings->query($query, $schema), Feature::ROUTINE, $name);
        }
    }

    private function quoted(string $name): string
    {
        return Dialects::ofCatalog($this->catalog)->quoted($name);
    }

    /** Up to the bracket that closes what was open before. */
    private static function balanced(string $text): string
    {
        $depth = 0;
        $n = \strlen($text);
        for ($i = 0; $i < $n; ++$i) {
            $depth += match (true) {
                '(' === $text[$i] => 1,
                ')' === $text[$i] => -1,
                default => 0,
            };
            if ($depth < 0) {
                return substr($text, 0, $i);
            }
        }

        return $text;
    }

    private function take(Reading $reading, string $feature, string $where): void
    {
        foreach ($reading->joins as $join) {
            $byTables = [];
            foreach ($join->pairs as [$one, $other]) {
                $byTables[$one->place()->key()."\1".$other->place()->key()][] = [$one, $other];
            }
            foreach ($byTables as $pairs) {
                $this->directed($pairs, $feature, $where);
            }
        }
    }

    /** @param non-empty-list<array{FieldPlace, FieldPlace}> $pairs */
    private function directed(array $pairs, string $feature, string $where): void
    {
        $near = array_map(static fn (array $pair): FieldPlace => $pair[0], $pairs);
        $far = array_map(static fn (array $pair): FieldPlace => $pair[1], $pairs);
        $here = $this->tables[$near[0]->place()->key()] ?? null;
        $there = $this->tables[$far[0]->place()->key()] ?? null;
        if (null === $here || null === $there || $here->kind->isView() || $there->kind->isView()) {
            return;
        }
        $forth = self::isKey($there, $far);
        $back = self::isKey($here, $near);
        if ($forth && (!$back || [] !== $here->foreignKeys)) {
            $this->add($near, $far, $feature, $where);
        }
        if ($back && (!$forth || $near[0]->column !== $far[0]->column)) {
            $this->add($far, $near, $feature, $where);
        }
    }

    /** @param non-empty-list<FieldPlace> $fields */
    private static function isKey(Table $table, array $fields): bool
    {
        $names = array_map(static fn (FieldPlace $field): string => $field->column, $fields);
        foreach (JoinKey::of($table) as $key) {
            if ([] === array_diff($key->columns, $names) && \count($key->columns) === \count($names)) {
                return true;
            }
        }

        return false;
    }

    /**
     * @param non-empty-list<FieldPlace> $from
     * @param non-empty-list<FieldPlace> $to
     */
    private function add(array $from, array $to, string $feature, string $where): void
    {
        $name = static fn (FieldPlace $field): string => $field->column;
        $this->hints[] = new Hint($from[0]->place(), array_map($name, $from), $to[0]->place(), array_map($name, $to), $feature, $where);
    }
}
