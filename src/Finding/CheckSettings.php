<?php

declare(strict_types=1);

namespace Fasti\Finding;

use Doctrine\DBAL\Connection;
use Fasti\Core\Finding\Check;
use Fasti\Core\Finding\Severity;
use Fasti\Support\Row;
use Symfony\Contracts\Service\ResetInterface;

/** Which checks run, and how grave what they find is taken. */
final class CheckSettings implements ResetInterface
{
    /** @var array<string, array{bool, ?Severity}>|null */
    private ?array $known = null;

    public function __construct(private readonly Connection $db)
    {
    }

    public function runs(Check $check): bool
    {
        return $this->known()[$check->name()][0] ?? true;
    }

    public function severity(Check $check): Severity
    {
        return $this->known()[$check->name()][1] ?? $check->severity();
    }

    /** @param ?Severity $severity null for that with which the check comes */
    public function set(Check $check, bool $runs, ?Severity $severity): void
    {
        $this->db->executeStatement(
            'INSERT INTO check_setting (check_name, runs, severity) VALUES (?, ?, ?) ON DUPLICATE KEY UPDATE runs = VALUES(runs), severity = VALUES(severity)',
            [$check->name(), $runs ? 1 : 0, $severity?->value],
        );
        $this->known = null;
    }

    public function reset(): void
    {
        $this->known = null;
    }

    /** @return array<string, array{bool, ?Severity}> */
    private function known(): array
    {
        if (null === $this->known) {
            $this->known = [];
            foreach ($this->db->iterateAssociative('SELECT check_name, runs, severity FROM check_setting') as $row) {
                $this->known[Row::text($row, 'check_name')] = [1 === Row::int($row, 'runs'), Severity::tryFrom(Row::text($row, 'severity'))];
            }
        }

        return $this->known;
    }
}
