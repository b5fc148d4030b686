<?php

declare(strict_types=1);

namespace Fasti\Edition;

use Doctrine\DBAL\Connection;
use Symfony\Component\EventDispatcher\Attribute\AsEventListener;
use Symfony\Component\Messenger\Event\WorkerStartedEvent;

/** An edition that was being made when the worker died will never be finished; it says so. */
final readonly class Unfinished
{
    public function __construct(private Connection $db)
    {
    }

    #[AsEventListener]
    public function workerStarted(WorkerStartedEvent $event): void
    {
        $this->db->executeStatement("UPDATE edition SET state = 'failed', error = 'The worker stopped in the middle. Publish again.' WHERE state = 'running'");
    }
}
