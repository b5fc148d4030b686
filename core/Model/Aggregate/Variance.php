<?php

declare(strict_types=1);

namespace Fasti\Core\Model\Aggregate;

use Fasti\Core\Dialect\AskSql;

/** The square of the standard deviation. */
final class Variance extends Dispersion
{
    public function name(): string
    {
        return 'variance';
    }

    public function rank(): int
    {
        return 72;
    }

    public function unit(string $values): string
    {
        return '' === $values ? '' : $values.'²';
    }

    protected function function(): string
    {
        return 'VAR_SAMP';
    }

    protected function ofVariance(AskSql $sql, string $variance): string
    {
        return $variance;
    }
}
