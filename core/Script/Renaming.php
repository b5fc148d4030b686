<?php

declare(strict_types=1);

namespace Fasti\Core\Script;

use Fasti\Core\Catalog\CheckConstraint;
use Fasti\Core\Catalog\Generated;
use Fasti\Core\Catalog\Index;
use Fasti\Core\Catalog\IndexPart;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Catalog\Trigger;
use Fasti\Core\Dialect\Grammar;

/** Carries new names to everything that holds the old ones. */
final readonly class Renaming
{
    public function __construct(private Grammar $dialect, private Schemas $made)
    {
    }

    /** A column of a table, of those that inherit it and of its partitions. */
    /** @param ?string $written the new name as the statement writes it, which some engines keep */
    public function column(TableBuilder $table, string $was, string $is, ?string $written = null): void
    {
        $this->within($table, $was, $is, $written);
        foreach ($this->made->below($table) as $below) {
            if (isset($below->columns[$was])) {
                $this->within($below, $was, $is, $written);
            }
        }
        foreach ($this->made->all() as $other) {
            foreach ($other->foreign as $i => $foreign) {
                if ($this->made->leadsTo($other, $foreign, $table->schema, $table->name)) {
                    $other->foreign[$i]['far'] = self::replaced($foreign['far'], $was, $is);
                }
            }
            if ($this->dialect->catalog->keepsReferenceNames && $other->kind->isView() && null !== $other->definition && $this->made->views($other, $table)) {
                $other->definition = Mentions::of($other->definition, $this->dialect)->renamed($was, $is, ['', $table->name], $written);
            }
        }
    }

    private function within(TableBuilder $table, string $was, string $is, ?string $written): void
    {
        $columns = [];
        foreach ($table->columns as $name => $column) {
            $columns[(string) $name === $was ? $is : $name] = $column;
        }
        $table->columns = $columns;
        if (isset($table->columns[$is])) {
            $table->columns[$is]->name = $is;
        }
        $text = fn (string $sql): string => Mentions::of($sql, $this->dialect)->renamed($was, $is, ['', $table->name], $written);
        foreach ($table->columns as $column) {
            if (null !== $column->generated) {
                $column->generated = new Generated($text($column->generated->expression), $column->generated->stored);
            }
        }
        $key = static fn (Key $key): Key => new Key($key->name, self::replaced($key->columns, $was, $is));
        $table->primary = null === $table->primary ? null : $key($table->primary);
        $table->unique = array_map($key, $table->unique);
        $table->indexes = array_map(static fn (Index $index): Index => new Index(
            $index->name,
            array_map(static fn (IndexPart $part): IndexPart => new IndexPart(
                match (true) {
                    $part->column === $was => $is,
                    1 === preg_match('/[^\w]/', $part->column) => $text($part->column),
                    default => $part->column,
                },
                $part->length,
                $part->descending,
            ), $index->parts),
            $index->unique,
            $index->method,
            $index->comment,
            null === $index->where ? null : $text($index->where),
        ), $table->indexes);
        $table->checks = array_map(fn (CheckConstraint $check): CheckConstraint => new CheckConstraint(
            $check->name,
            1 === preg_match("/\x03/", $check->expression) ? str_replace("\x03$was\x03", "\x03$is\x03", $check->expression) : $text($check->expression),
            match (true) {
                $check->column !== $was => $check->column,
                $this->dialect->catalog->oneCheckAColumn => null,
                default => $is,
            },
        ), $table->checks);
        foreach ($table->foreign as $i => $foreign) {
            $table->foreign[$i]['columns'] = self::replaced($foreign['columns'], $was, $is);
        }
        if ($this->dialect->catalog->keepsReferenceNames) {
            $table->triggers = array_map(fn (Trigger $trigger): Trigger => new Trigger(
                $trigger->name,
                $trigger->timing,
                $trigger->event,
                Mentions::of($trigger->body, $this->dialect)->renamed($was, $is, ['', 'new', 'old', $table->name], $written),
            ), $table->triggers);
        }
        if (null !== $table->partitionKey) {
            $table->partitionKey = $text($table->partitionKey);
        }
    }

    /** A table, with what its name is part of. */
    public function table(TableBuilder $table, ?string $schema, string $name): void
    {
        $was = $table->name;
        foreach ($this->made->all() as $other) {
            if ($other->kind->isView() && null !== $other->definition && !$this->dialect->queries->charsetTexts && $this->made->views($other, $table)) {
                $other->definition = $this->viewed($other->definition, $table, $schema ?? $table->schema, $name);
            }
        }
        $this->made->rename($table, $schema, $name);
        $prefix = $this->dialect->queries->charsetTexts ? $was.'_ibfk_' : '';
        foreach ($table->foreign as $i => $foreign) {
            // The engine names these after the table, and goes on doing so.
            if ('' !== $prefix && str_starts_with((string) $foreign['name'], $prefix)) {
                $is = $name.'_ibfk_'.substr((string) $foreign['name'], \strlen($prefix));
                $table->foreign[$i]['name'] = $is;
                $table->served[$is] = true;
            }
        }
    }

    /** The query of a view in which a table is called otherwise, wherever one is named. */
    private function viewed(string $query, TableBuilder $table, string $schema, string $name): string
    {
        $was = preg_quote($table->name, '/');
        $ofSchema = preg_quote($table->schema, '/');
        $place = ($schema === $table->schema && $this->made->schema === $schema ? '' : Mentions::written($schema, $this->dialect).'.')
            .Mentions::written($name, $this->dialect);
        $said = Mentions::written($name, $this->dialect);
        $query = (string) preg_replace('/("?)\b'.$ofSchema.'\1\.("?)\b'.$was.'\b\2/i', Mentions::written($schema, $this->dialect).'.'.$said, $query);
        $query = (string) preg_replace('/\b(FROM|JOIN|,)(\s+)("?)'.$was.'\b\3(?!\s*\()(?!\.)/i', '$1$2'.$place, $query);

        return (string) preg_replace('/(?<![.\w"])("?)\b'.$was.'\b\1(?=\s*\.)/i', $said, $query);
    }

    /**
     * @param array<string> $names
     *
     * @return ($names is non-empty-list<string> ? non-empty-list<string> : list<string>)
     */
    private static function replaced(array $names, string $was, string $is): array
    {
        return array_map(static fn (string $name): string => $name === $was ? $is : $name, array_values($names));
    }
}
