<?php

declare(strict_types=1);

namespace Fasti\Core\Model\Aggregate;

use Fasti\Core\Dialect\AskSql;

/** The arithmetic mean. */
final class Average extends Aggregate
{
    private const NAMED = ['mean', 'avg', 'average', 'median', 'rate', 'ratio', 'share', 'percent', 'percentage', 'pct', 'score', 'temperature', 'temp',
        'ph', 'price', 'level', 'speed', 'age', 'height', 'depth', 'width', 'concentration', 'humidity', 'pressure', 'rating', 'grade'];

    public function name(): string
    {
        return 'average';
    }

    public function rank(): int
    {
        return 40;
    }

    public function isMean(): bool
    {
        return true;
    }

    public function sql(AskSql $sql, ?string $value): string
    {
        return $sql->average((string) $value);
    }

    public function inParts(AskSql $sql, ?string $value, string $number): array
    {
        return [
            ["m$number" => "SUM($value)", "c$number" => "COUNT($value)"],
            $sql->divided("SUM(grouped.m$number)", "SUM(grouped.c$number)"),
        ];
    }

    public function namedBy(): array
    {
        return self::NAMED;
    }

    public function why(): string
    {
        return 'it is no amount that adds up';
    }
}
