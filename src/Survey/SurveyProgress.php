<?php

declare(strict_types=1);

namespace Fasti\Survey;

use Doctrine\DBAL\Connection;
use Fasti\Core\Survey\Progress;
use Fasti\Core\Survey\Stopped;

/** Tells how far a survey is, on a connection of its own, and hears whether it shall stop. A few times a second at most. */
final class SurveyProgress implements Progress
{
    private float $told = 0;
    private string $what = '';

    public function __construct(private readonly Connection $progressConnection, private readonly int $surveyId)
    {
    }

    public function at(string $what, int $done, int $total): void
    {
        $now = microtime(true);
        if ($what === $this->what && $now - $this->told < 0.3) {
            return;
        }
        [$this->told, $this->what] = [$now, $what];
        $this->progressConnection->executeStatement('UPDATE survey SET doing = ?, done = ?, total = ?, heard_at = UTC_TIMESTAMP() WHERE id = ?', [$what, $done, $total, $this->surveyId]);
        if (1 === (int) $this->cancelled()) {
            throw new Stopped();
        }
    }

    private function cancelled(): string
    {
        $value = $this->progressConnection->fetchOne('SELECT cancel_asked FROM survey WHERE id = ?', [$this->surveyId]);

        return \is_scalar($value) ? (string) $value : '1';
    }
}
