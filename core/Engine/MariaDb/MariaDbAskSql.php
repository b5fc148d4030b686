<?php

declare(strict_types=1);

namespace Fasti\Core\Engine\MariaDb;

use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Dialect\AskSql;

/** MariaDB and MySQL. Their quotients and means of exact numbers have four digits more than their operands; approximate ones have all. */
final class MariaDbAskSql extends AskSql
{
    public function same(string $a, string $b): string
    {
        return "$a <=> $b";
    }

    /** Of exact numbers exactly, to twelve places and more than the dividend has: an approximate one would round 2.5 to 2. */
    public function divided(string $a, string $b): string
    {
        return "($a) * 1.000000000000 / NULLIF($b, 0)";
    }

    public function average(string $value): string
    {
        return "SUM($value) * 1.000000000000 / COUNT($value)";
    }

    public function median(string $value): ?string
    {
        return null;
    }

    public function extracted(string $part, string $value): string
    {
        return match ($part) {
            // WEEK here would begin on Sundays.
            'WEEK' => "WEEK($value, 3)",
            'ISOYEAR' => "(YEARWEEK($value, 3) DIV 100)",
            'ISODOW' => "(WEEKDAY($value) + 1)",
            default => "EXTRACT($part FROM $value)",
        };
    }

    /** Of exact numbers it would keep four digits more than they have. */
    public function spread(string $function, string $value): string
    {
        return "$function(($value) * 1e0)";
    }

    public function daysBetween(string $from, string $to): string
    {
        return "DATEDIFF($to, $from)";
    }

    public function later(string $moment, int $many, string $of, bool $date): string
    {
        return "$moment + INTERVAL $many ".('days' === $of ? 'DAY' : 'MONTH');
    }

    public function joined(array $values): string
    {
        return 'CONCAT('.implode(', ', $values).')';
    }

    public function cast(string $value, TypeFamily $to, ?int $length = null, ?int $scale = null): string
    {
        return match ($to) {
            TypeFamily::Whole => "CAST($value AS SIGNED)",
            TypeFamily::Number => null === $length ? "CAST($value AS double)" : "CAST($value AS decimal($length,".($scale ?? 0).'))',
            TypeFamily::Time => "CAST($value AS date)",
            TypeFamily::Flag => "($value) <> 0",
            default => null === $length ? "CAST($value AS char)" : "CAST($value AS char($length))",
        };
    }

    public function ordered(string $name, bool $descending, string $expression = ''): string
    {
        return ('' === $expression ? $name : $expression)." IS NULL, $name".($descending ? ' DESC' : '');
    }

    public function limited(int $rows): string
    {
        return "LIMIT $rows";
    }

    public function cancelling(string $session): string
    {
        return 'KILL QUERY '.(int) $session;
    }

    public function session(): string
    {
        return 'SELECT CONNECTION_ID() AS session';
    }
}
