<?php

declare(strict_types=1);

namespace Fasti\Core\Model\Aggregate;

use Fasti\Core\Dialect\AskSql;

/** One measure divided by another: what of rows goes into it, those two say. */
final class Ratio extends Aggregate
{
    public function name(): string
    {
        return 'ratio';
    }

    public function rank(): int
    {
        return 80;
    }

    public function isOfMeasures(): bool
    {
        return true;
    }

    public function needsValue(): bool
    {
        return false;
    }

    public function needsNumbers(): bool
    {
        return false;
    }

    public function tellsOfValues(): bool
    {
        return false;
    }

    public function unit(string $values): string
    {
        return '';
    }

    public function sql(AskSql $sql, ?string $value): never
    {
        throw new \LogicException('A ratio is taken of measures.');
    }
}
