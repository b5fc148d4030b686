<?php

declare(strict_types=1);

namespace Fasti\Core\Model\Aggregate;

use Fasti\Core\Dialect\AskSql;

/** How far values lie from their mean, as an estimate from a sample: of one value there is none. */
abstract class Dispersion extends Aggregate
{
    /** As the standard has it. */
    abstract protected function function(): string;

    abstract protected function ofVariance(AskSql $sql, string $variance): string;

    public function sql(AskSql $sql, ?string $value): ?string
    {
        return $sql->spread($this->function(), (string) $value);
    }

    public function overRows(AskSql $sql, string $value, string $over): array
    {
        // Around the mean, since sums of squares of great numbers that differ by little lose all their digits.
        return [
            ["AVG($value) OVER ($over) AS a", "COUNT($value) OVER ($over) AS c"],
            $this->ofVariance($sql, 'SUM((v - a) * (v - a)) / NULLIF(MAX(c) - 1, 0)'),
            '',
        ];
    }
}
