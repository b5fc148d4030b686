<?php

declare(strict_types=1);

namespace Fasti\Core\Model\Aggregate;

use Fasti\Core\Dialect\AskSql;

final class StandardDeviation extends Dispersion
{
    public function name(): string
    {
        return 'standard deviation';
    }

    public function rank(): int
    {
        return 71;
    }

    protected function function(): string
    {
        return 'STDDEV_SAMP';
    }

    protected function ofVariance(AskSql $sql, string $variance): string
    {
        return $sql->computed('SQRT', $variance);
    }
}
