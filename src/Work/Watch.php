<?php

declare(strict_types=1);

namespace Fasti\Work;

use Symfony\Component\EventDispatcher\Attribute\AsEventListener;
use Symfony\Component\Messenger\Event\WorkerRunningEvent;

/** A worker that has nothing to do looks now and then whether another has died over its job. */
final class Watch
{
    private const EVERY = 5;

    private int $looked = 0;

    public function __construct(private readonly Jobs $jobs)
    {
    }

    #[AsEventListener]
    public function idle(WorkerRunningEvent $event): void
    {
        if ($event->isWorkerIdle() && time() - $this->looked >= self::EVERY) {
            $this->looked = time();
            $this->jobs->endAbandoned();
        }
    }
}
