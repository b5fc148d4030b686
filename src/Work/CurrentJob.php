<?php

declare(strict_types=1);

namespace Fasti\Work;

/** The job that this process is at, if any: whoever waits for something outside asks it now and then whether to go on. */
final class CurrentJob
{
    private ?Running $running = null;

    public function begin(Running $running): void
    {
        $this->running = $running;
    }

    public function end(): void
    {
        $this->running = null;
    }

    /** @throws \Fasti\Core\Survey\Stopped where somebody asked the job to stop */
    public function listen(): void
    {
        $this->running?->listen();
    }
}
