<?php

declare(strict_types=1);

namespace Fasti\Core\Model\Aggregate;

use Fasti\Core\Dialect\AskSql;

/** Of rows, or of values that are there. */
final class Count extends Counting
{
    public function name(): string
    {
        return 'count';
    }

    public function rank(): int
    {
        return 20;
    }

    public function needsValue(): bool
    {
        return false;
    }

    public function adds(): bool
    {
        return true;
    }

    public function sql(AskSql $sql, ?string $value): string
    {
        return null === $value ? 'COUNT(*)' : "COUNT($value)";
    }

    public function shared(AskSql $sql, ?string $value, string $part): string
    {
        return null === $value ? "COALESCE(SUM($part), 0)" : "COALESCE(SUM(CASE WHEN $value IS NOT NULL THEN $part END), 0)";
    }

    public function inParts(AskSql $sql, ?string $value, string $number): array
    {
        return [["m$number" => $this->sql($sql, $value)], "SUM(grouped.m$number)"];
    }
}
