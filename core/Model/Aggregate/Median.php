<?php

declare(strict_types=1);

namespace Fasti\Core\Model\Aggregate;

use Fasti\Core\Dialect\AskSql;

/** The value in the middle; of two, their mean. */
final class Median extends Aggregate
{
    public function name(): string
    {
        return 'median';
    }

    public function rank(): int
    {
        return 70;
    }

    public function sql(AskSql $sql, ?string $value): ?string
    {
        return $sql->median((string) $value);
    }

    public function overRows(AskSql $sql, string $value, string $over): array
    {
        return [
            ['ROW_NUMBER() OVER ('.trim("$over ORDER BY CASE WHEN $value IS NULL THEN 1 ELSE 0 END, $value").') AS n', "COUNT($value) OVER ($over) AS c"],
            $sql->average('v'),
            '2 * n BETWEEN c AND c + 2',
        ];
    }
}
