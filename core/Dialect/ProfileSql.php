<?php

declare(strict_types=1);

namespace Fasti\Core\Dialect;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Table;

/** The SQL in which an engine is asked about its data. `$name` is a column's name, quoted already. */
abstract readonly class ProfileSql
{
    public function __construct(protected Dialect $dialect)
    {
    }

    final public function quoted(string $name): string
    {
        return $this->dialect->quoted($name);
    }

    /** A text as it stands in SQL. */
    final public function literal(string $text): string
    {
        return $this->dialect->literal($text);
    }

    /** The condition that a column holds just this text. */
    final public function is(string $column, string $text): string
    {
        return $this->quoted($column).' = '.$this->literal($text);
    }

    /** The table as it stands after FROM. */
    abstract public function from(Table $table): string;

    /**
     * The table with a condition that lets rows through by chance.
     *
     * @param float $part of the rows, 0 to 1
     * @param int   $rows there are, about
     */
    abstract public function sampled(Table $table, float $part, int $rows): string;

    /** Whether the engine can tell values of this type apart and put them in order. */
    abstract public function comparable(Column $column): bool;

    /** The column, cut to so many characters where its values may be very long. */
    abstract public function bounded(Column $column, string $name, int $most): string;

    /** The expression whose least and greatest are asked for. */
    abstract public function ordered(Column $column, string $plain): string;

    /** The column as text of so many characters at the most; a mark where there is no text of it. */
    abstract public function asText(Column $column, string $name, int $most): string;

    /**
     * The text by which values of different types are compared: a number as it is written, nothing cut off, nothing padded. Of a list, each
     * of its members, a row for each.
     */
    abstract public function key(Column $column, string $name): string;

    /** How many characters a value has. */
    abstract public function length(string $name): string;

    /** Whether a value is empty or only blanks. */
    abstract public function blank(string $name): string;

    /** The column as text that differs where a letter differs, capital or small. */
    abstract public function exact(Column $column, string $name): string;

    /** What rows are grouped by, so that values of a text column that differ in a letter or in their kind are apart. */
    abstract public function apart(Column $column, string $name): string;

    /** Whether the engine may take two texts for the same that differ in a letter: by a collation, or by its type. */
    abstract public function takesAlike(Column $column): bool;

    /** Whether two values of a column are the same to the engine. */
    abstract public function same(Column $column, string $a, string $b): string;

    /**
     * Whether a text as a whole matches a regular expression; see Value\Pattern for what it may hold.
     *
     * @return string '' where the engine cannot tell
     */
    abstract public function matches(string $text, string $expression): string;
}
