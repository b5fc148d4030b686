<?php

declare(strict_types=1);

namespace Fasti\Core\Dialect;

use Fasti\Core\Catalog\Place;
use Fasti\Core\Catalog\TypeFamily;

/**
 * The SQL in which an engine is asked questions that a model answers: what differs between engines of the same meaning. As it stands here
 * it is that of the standard.
 */
class AskSql
{
    /** Bytes that a name may have. */
    public int $longestName = 60;
    /** What such a database is called where a query is shown. */
    public string $label = 'standard SQL';

    public function __construct(protected readonly Dialect $dialect)
    {
        $this->label = $dialect->label();
    }

    /** A name: as it is where every engine takes it so, otherwise quoted. */
    public function name(string $name): string
    {
        return 1 === preg_match('/^[a-z][a-z0-9_]*$/', $name) && !Reserved::has($name) ? $name : $this->dialect->quoted($name);
    }

    public function table(Place $place): string
    {
        return ('' === $place->schema ? '' : $this->name($place->schema).'.').$this->name($place->name);
    }

    final public function text(string $text): string
    {
        return $this->dialect->literal($text);
    }

    /** A date or an instant that stands in an expression. */
    public function moment(string $text, bool $date): string
    {
        return ($date ? 'DATE ' : 'TIMESTAMP ').$this->text($text);
    }

    public function truth(bool $value): string
    {
        return $value ? 'TRUE' : 'FALSE';
    }

    /** Whether two values are the same, where none is the same as none. */
    public function same(string $a, string $b): string
    {
        return "$a IS NOT DISTINCT FROM $b";
    }

    /** A quotient with its digits after the point; none where it is divided by nothing. */
    public function divided(string $a, string $b): string
    {
        return "CAST($a AS decimal(38,12)) / NULLIF($b, 0)";
    }

    /** The arithmetic mean with all digits that an approximate number has. */
    public function average(string $value): string
    {
        return "AVG($value)";
    }

    /** The middle value of a group as an aggregate of the engine's own; null where it has none. */
    public function median(string $value): ?string
    {
        return "PERCENTILE_CONT(0.5) WITHIN GROUP (ORDER BY $value)";
    }

    /**
     * A spread as an aggregate of the engine's own; null where it has none.
     *
     * @param string $function STDDEV_SAMP or VAR_SAMP
     */
    public function spread(string $function, string $value): ?string
    {
        return "$function($value)";
    }

    /** Whole days from one date or instant to another. */
    public function daysBetween(string $from, string $to): string
    {
        return "(CAST($to AS date) - CAST($from AS date))";
    }

    /** @param string $part YEAR, QUARTER, MONTH, WEEK, DAY, HOUR, MINUTE or SECOND; ISOYEAR, the year of the week; ISODOW, Monday as 1 */
    public function extracted(string $part, string $value): string
    {
        return "EXTRACT($part FROM $value)";
    }

    /**
     * A date or an instant so many days or months later. Of a month that is shorter it is the last day.
     *
     * @param 'days'|'months' $of
     * @param bool            $date it is a date, without a time
     */
    public function later(string $moment, int $many, string $of, bool $date): string
    {
        return "$moment + INTERVAL '$many' ".('days' === $of ? 'DAY' : 'MONTH');
    }

    /** @param list<string> $values */
    public function joined(array $values): string
    {
        return implode(' || ', $values);
    }

    public function length(string $value): string
    {
        return "CHAR_LENGTH($value)";
    }

    public function part(string $value, string $from, ?string $for): string
    {
        return "SUBSTRING($value FROM $from".(null === $for ? '' : " FOR $for").')';
    }

    public function rounded(string $value, ?string $digits): string
    {
        return "ROUND($value".(null === $digits ? '' : ", $digits").')';
    }

    /** @param string $function FLOOR, CEILING, POWER, SQRT, ABS, MOD */
    public function computed(string $function, string ...$values): string
    {
        return $function.'('.implode(', ', $values).')';
    }

    /** @param string $function GREATEST or LEAST; none where any of the values is none */
    public function outermost(string $function, string ...$values): string
    {
        $any = implode(' OR ', array_map(static fn (string $value): string => "$value IS NULL", $values));

        return "CASE WHEN $any THEN NULL ELSE $function(".implode(', ', $values).') END';
    }

    public function like(string $value, string $pattern): string
    {
        return "$value LIKE $pattern ESCAPE ''";
    }

    /** Whether a text holds another one as it is: `%` and `_` stand for themselves. */
    public function holds(string $value, string $text, bool $atStart): string
    {
        $escaped = str_replace(['!', '%', '_'], ['!!', '!%', '!_'], $text);

        return "$value LIKE ".$this->text(($atStart ? '' : '%').$escaped.'%')." ESCAPE '!'";
    }

    /** @param ?int $scale of a number, where it is told */
    public function cast(string $value, TypeFamily $to, ?int $length = null, ?int $scale = null): string
    {
        return match ($to) {
            TypeFamily::Whole => "CAST($value AS bigint)",
            TypeFamily::Number => null === $length ? "CAST($value AS double precision)" : "CAST($value AS decimal($length,".($scale ?? 0).'))',
            TypeFamily::Time => "CAST($value AS date)",
            TypeFamily::Flag => "CAST($value AS boolean)",
            default => null === $length ? "CAST($value AS varchar)" : "CAST($value AS varchar($length))",
        };
    }

    /**
     * None, as a value of the type that such a column has where results stand one below the other.
     *
     * @param string $written the type as the catalog has it, where it is told
     */
    public function none(TypeFamily $family, string $written = ''): string
    {
        return 'NULL';
    }

    /**
     * What rows are put in order by, with those that have no value at the end.
     *
     * @param string $expression what the name stands for, where it may not stand within an expression
     */
    public function ordered(string $name, bool $descending, string $expression = ''): string
    {
        return $name.($descending ? ' DESC' : '').' NULLS LAST';
    }

    public function limited(int $rows): string
    {
        return "FETCH FIRST $rows ROWS ONLY";
    }

    /** What gives up a question that another session asks; null where sessions cannot. */
    public function cancelling(string $session): ?string
    {
        return null;
    }

    /** What tells the session to others. */
    public function session(): ?string
    {
        return null;
    }
}
