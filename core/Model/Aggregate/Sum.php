<?php

declare(strict_types=1);

namespace Fasti\Core\Model\Aggregate;

use Fasti\Core\Dialect\AskSql;
use Fasti\Core\Model\Additivity;

final class Sum extends Aggregate
{
    public function name(): string
    {
        return 'sum';
    }

    public function rank(): int
    {
        return 10;
    }

    public function adds(): bool
    {
        return true;
    }

    public function isTotal(): bool
    {
        return true;
    }

    public function sql(AskSql $sql, ?string $value): string
    {
        return "SUM($value)";
    }

    public function shared(AskSql $sql, ?string $value, string $part): string
    {
        return "SUM(($value) * $part)";
    }

    public function inParts(AskSql $sql, ?string $value, string $number): array
    {
        return [["m$number" => "SUM($value)"], "SUM(grouped.m$number)"];
    }

    public function additivity(): Additivity
    {
        return Additivity::Additive;
    }

    public function why(): string
    {
        return 'a number that adds up';
    }
}
