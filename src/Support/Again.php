<?php

declare(strict_types=1);

namespace Fasti\Support;

use Doctrine\DBAL\Connection;
use Doctrine\DBAL\Exception\RetryableException;

/** A transaction that the database may take back because of another at the same moment; it is made again from the start then. */
final class Again
{
    private const TRIES = 8;

    /**
     * @template T
     *
     * @param \Closure(): T $change
     *
     * @return T
     */
    public static function transaction(Connection $db, \Closure $change): mixed
    {
        for ($try = 1;; ++$try) {
            try {
                return $db->transactional($change);
            } catch (RetryableException $e) {
                if ($try >= self::TRIES || $db->isTransactionActive()) {
                    throw $e;
                }
                usleep(random_int(5000, 20000) * $try);
            }
        }
    }
}
