<?php

declare(strict_types=1);

namespace Fasti\Core\Model\Aggregate;

use Fasti\Core\Dialect\AskSql;

final class Distinct extends Counting
{
    public function name(): string
    {
        return 'distinct count';
    }

    public function rank(): int
    {
        return 30;
    }

    public function sql(AskSql $sql, ?string $value): string
    {
        return "COUNT(DISTINCT $value)";
    }

    /** One value more of the same changes nothing. */
    public function shared(AskSql $sql, ?string $value, string $part): string
    {
        return $this->sql($sql, $value);
    }
}
