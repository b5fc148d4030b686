<?php

declare(strict_types=1);

namespace Fasti\Support;

use Doctrine\DBAL\Connection;

/** Many rows in few statements. */
final class Batch
{
    public const SIZE = 500;

    /**
     * @param string                      $head  up to VALUES
     * @param list<list<string|int|null>> $rows
     * @param int<1, max>                 $batch
     */
    public static function insert(Connection $db, string $head, array $rows, string $tail = '', int $batch = self::SIZE): void
    {
        foreach (array_chunk($rows, $batch) as $chunk) {
            $one = '('.implode(', ', array_fill(0, \count($chunk[0]), '?')).')';
            $db->executeStatement($head.' '.implode(', ', array_fill(0, \count($chunk), $one)).' '.$tail, array_merge(...$chunk));
        }
    }

    public static function json(mixed $value): string
    {
        return json_encode(
            $value,
            \JSON_THROW_ON_ERROR | \JSON_INVALID_UTF8_SUBSTITUTE | \JSON_UNESCAPED_UNICODE | \JSON_UNESCAPED_SLASHES | \JSON_PRESERVE_ZERO_FRACTION,
        );
    }
}
