<?php

declare(strict_types=1);

namespace Fasti\Core\Engine\Sqlite;

use Fasti\Core\Catalog\Place;
use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Dialect\AskSql;

/** Dates are texts here; functions that are only there when the engine was built with its mathematics are left alone. */
final class SqliteAskSql extends AskSql
{
    private const PARTS = ['YEAR' => '%Y', 'MONTH' => '%m', 'DAY' => '%d', 'HOUR' => '%H', 'MINUTE' => '%M', 'SECOND' => '%S'];

    public function table(Place $place): string
    {
        return $this->name($place->name);
    }

    public function moment(string $text, bool $date): string
    {
        return $this->text($text);
    }

    public function same(string $a, string $b): string
    {
        return "$a IS $b";
    }

    public function divided(string $a, string $b): string
    {
        return "($a) * 1.0 / NULLIF($b, 0)";
    }

    public function median(string $value): ?string
    {
        return null;
    }

    public function extracted(string $part, string $value): string
    {
        return match ($part) {
            'QUARTER' => "((CAST(strftime('%m', $value) AS integer) + 2) / 3)",
            'ISOYEAR' => "CAST(strftime('%Y', date($value, '-3 days', 'weekday 4')) AS integer)",
            'ISODOW' => "((CAST(strftime('%w', $value) AS integer) + 6) % 7 + 1)",
            // The week of a date is that of the Thursday in it (ISO 8601).
            'WEEK' => "((CAST(strftime('%j', date($value, '-3 days', 'weekday 4')) AS integer) - 1) / 7 + 1)",
            default => "CAST(strftime('".self::PARTS[$part]."', $value) AS integer)",
        };
    }

    public function spread(string $function, string $value): null
    {
        return null;
    }

    public function daysBetween(string $from, string $to): string
    {
        return "CAST(julianday(date($to)) - julianday(date($from)) AS integer)";
    }

    public function later(string $moment, int $many, string $of, bool $date): string
    {
        $function = $date ? 'date' : 'datetime';
        $later = "$function($moment, '+$many $of')";
        // A day that a month does not have runs over into the next one here.
        $last = "date($moment, 'start of month', '+".($many + 1)." months', '-1 day')";
        $last = $date ? $last : "$last || ' ' || time($moment)";

        return 'days' === $of ? $later : "MIN($later, $last)";
    }

    public function length(string $value): string
    {
        return "LENGTH($value)";
    }

    public function part(string $value, string $from, ?string $for): string
    {
        return "SUBSTR($value, $from".(null === $for ? '' : ", $for").')';
    }

    public function computed(string $function, string ...$values): string
    {
        [$a, $b] = $values + ['', ''];

        return match ($function) {
            'FLOOR' => "CASE WHEN $a = CAST($a AS integer) OR $a >= 0 THEN CAST($a AS integer) ELSE CAST($a AS integer) - 1 END",
            'CEILING' => "CASE WHEN $a = CAST($a AS integer) OR $a <= 0 THEN CAST($a AS integer) ELSE CAST($a AS integer) + 1 END",
            'MOD' => "(($a) - ($b) * CAST(($a) * 1.0 / NULLIF($b, 0) AS integer))",
            default => parent::computed($function, ...$values),
        };
    }

    public function outermost(string $function, string ...$values): string
    {
        // Its own are none where any value is.
        return ('GREATEST' === $function ? 'MAX' : 'MIN').'('.implode(', ', $values).')';
    }

    public function like(string $value, string $pattern): string
    {
        return "$value LIKE $pattern";
    }

    public function cast(string $value, TypeFamily $to, ?int $length = null, ?int $scale = null): string
    {
        return match ($to) {
            TypeFamily::Whole => "CAST($value AS integer)",
            TypeFamily::Number => null === $length ? "CAST($value AS real)" : "ROUND($value, ".($scale ?? 0).')',
            TypeFamily::Time => "date($value)",
            TypeFamily::Flag => "($value) <> 0",
            default => null === $length ? "CAST($value AS text)" : "SUBSTR(CAST($value AS text), 1, $length)",
        };
    }

    public function limited(int $rows): string
    {
        return "LIMIT $rows";
    }
}
