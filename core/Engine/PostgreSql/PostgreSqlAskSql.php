<?php

declare(strict_types=1);

namespace Fasti\Core\Engine\PostgreSql;

use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Dialect\AskSql;

final class PostgreSqlAskSql extends AskSql
{
    public function divided(string $a, string $b): string
    {
        return "CAST($a AS numeric) / NULLIF($b, 0)";
    }

    public function extracted(string $part, string $value): string
    {
        return 'SECOND' === $part ? "FLOOR(EXTRACT(SECOND FROM $value))" : "EXTRACT($part FROM $value)";
    }

    public function later(string $moment, int $many, string $of, bool $date): string
    {
        $later = "$moment + INTERVAL '$many $of'";

        return $date ? "CAST($later AS date)" : $later;
    }

    public function rounded(string $value, ?string $digits): string
    {
        return null === $digits ? "ROUND($value)" : "ROUND(CAST($value AS numeric), $digits)";
    }

    public function computed(string $function, string ...$values): string
    {
        // There is no remainder of approximate numbers.
        return 'MOD' === $function ? 'MOD('.implode(', ', array_map(static fn (string $value): string => "CAST($value AS numeric)", $values)).')'
            : parent::computed($function, ...$values);
    }

    public function none(TypeFamily $family, string $written = ''): string
    {
        return match (true) {
            $family->isNumeric() => 'CAST(NULL AS numeric)',
            TypeFamily::Flag === $family => 'CAST(NULL AS boolean)',
            TypeFamily::Time === $family && '' !== $written => "CAST(NULL AS $written)",
            default => 'CAST(NULL AS text)',
        };
    }

    public function limited(int $rows): string
    {
        return "LIMIT $rows";
    }

    public function cancelling(string $session): string
    {
        return 'SELECT pg_cancel_backend('.(int) $session.')';
    }

    public function session(): string
    {
        return 'SELECT pg_backend_pid() AS session';
    }
}
