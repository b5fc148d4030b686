<?php

declare(strict_types=1);

namespace Fasti\Core\Dialect;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Table;

/** The SQL in which an engine is asked about its data. `$name` is a column's name, quoted already. */
interface ProfileSql
{
    public function quoted(string $name): string;

    /** The table as it stands after FROM. */
    public function from(Table $table): string;

    /**
     * The table with a condition that lets rows through by chance.
     *
     * @param float $part of the rows, 0 to 1
     * @param int   $rows there are, about
     */
    public function sampled(Table $table, float $part, int $rows): string;

    /** Whether the engine can tell values of this type apart and put them in order. */
    public function comparable(Column $column): bool;

    /** The column, cut to so many characters where its values may be very long. */
    public function bounded(Column $column, string $name, int $most): string;

    /** The expression whose least and greatest are asked for. */
    public function ordered(Column $column, string $plain): string;

    /** The column as text of so many characters at the most; a mark where there is no text of it. */
    public function asText(Column $column, string $name, int $most): string;

    /**
     * The text by which values of different types are compared: a number as it is written, nothing cut off, nothing padded. Of a list, each
     * of its members, a row for each.
     */
    public function key(Column $column, string $name): string;

    /** How many characters a value has. */
    public function length(string $name): string;

    /** Whether a value is empty or only blanks. */
    public function blank(string $name): string;

    /** A text as it stands in SQL. */
    public function literal(string $text): string;

    /** The column as text that differs where a letter differs, capital or small. */
    public function exact(Column $column, string $name): string;

    /** What rows are grouped by, so that values of a text column that differ in a letter or in their kind are apart. */
    public function apart(Column $column, string $name): string;

    /** Whether the engine may take two texts for the same that differ in a letter: by a collation, or by its type. */
    public function takesAlike(Column $column): bool;

    /** Whether two values of a column are the same to the engine. */
    public function same(Column $column, string $a, string $b): string;

    /**
     * Whether a text as a whole matches a regular expression; see Value\Pattern for what it may hold.
     *
     * @return string '' where the engine cannot tell
     */
    public function matches(string $text, string $expression): string;
}
