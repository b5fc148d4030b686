<?php

declare(strict_types=1);

namespace Fasti\Survey;

use Doctrine\DBAL\Connection;
use Symfony\Component\EventDispatcher\Attribute\AsEventListener;
use Symfony\Component\Messenger\Event\WorkerStartedEvent;

/** There is one worker. When it starts, whatever still counts as running died with the one before it. */
final readonly class Interrupted
{
    public const WORDS = 'The worker stopped in the middle. Nothing was applied, and the register is as it was. Survey again.';

    public function __construct(private Connection $db)
    {
    }

    #[AsEventListener]
    public function workerStarted(WorkerStartedEvent $event): void
    {
        $this->db->executeStatement("UPDATE survey SET state = 'failed', ended_at = UTC_TIMESTAMP(), error = ? WHERE state = 'running'", [self::WORDS]);
    }
}
