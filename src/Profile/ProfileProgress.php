<?php

declare(strict_types=1);

namespace Fasti\Profile;

use Doctrine\DBAL\Connection;
use Fasti\Core\Survey\Progress;
use Fasti\Core\Survey\Stopped;

/** Tells what a profile run is doing, and hears whether it shall pause or stop. */
final class ProfileProgress implements Progress
{
    private float $told = 0;

    public function __construct(private readonly Connection $progressConnection, private readonly int $runId)
    {
    }

    public function at(string $what, int $done, int $total): void
    {
        $now = microtime(true);
        if ($now - $this->told < 0.4) {
            return;
        }
        $this->told = $now;
        $this->progressConnection->executeStatement('UPDATE profile_run SET doing = ?, heard_at = UTC_TIMESTAMP() WHERE id = ?', [mb_strimwidth($what, 0, 390, '…'), $this->runId]);
        if ('' !== $this->asked()) {
            throw new Stopped();
        }
    }

    /** @return string '', pause or cancel */
    public function asked(): string
    {
        $asked = $this->progressConnection->fetchOne('SELECT asked FROM profile_run WHERE id = ?', [$this->runId]);

        return \is_string($asked) ? $asked : 'cancel';
    }
}
