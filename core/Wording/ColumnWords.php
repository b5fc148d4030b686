<?php

declare(strict_types=1);

namespace Fasti\Core\Wording;

use Fasti\Core\Catalog\Column;

/** What else there is to say of a column, one word or short phrase each. */
final class ColumnWords
{
    /**
     * @param bool $keyed the column alone is a primary or unique key
     *
     * @return list<string> e.g. ["required", "unique", "numbered by the database"]
     */
    public static function of(Column $column, bool $keyed = false): array
    {
        $words = [];
        if (!$column->nullable) {
            $words[] = 'required';
        }
        if ($keyed) {
            $words[] = 'unique';
        }
        if ($column->autoNumbered) {
            $words[] = 'numbered by the database';
        }
        if (null !== $column->generated) {
            $words[] = 'computed as '.$column->generated->expression.($column->generated->stored ? '' : ' when read');
        }
        if (null !== $column->default && !$column->autoNumbered) {
            $words[] = self::default($column->default);
        }
        if (null !== $column->onUpdate) {
            $words[] = 'set when the row changes';
        }
        if (null !== $column->collation) {
            $words[] = 'sorted as '.$column->collation;
        }

        return $words;
    }

    /** A default in words; the argument is an SQL expression in which a text literal keeps its quotes. */
    public static function default(string $expression): string
    {
        return match (true) {
            1 === preg_match('/^(current_timestamp|now)(\(\d*\))?$/i', $expression) => 'set when the row is made',
            "''" === $expression => 'empty text unless given',
            1 === preg_match("/^'((?:[^']|'')*)'$/", $expression, $m) => str_replace("''", "'", $m[1]).' unless given',
            default => $expression.' unless given',
        };
    }
}
