<?php

declare(strict_types=1);

namespace Fasti\Work;

/** The message that brings a job to a worker. */
final readonly class RunJob
{
    public function __construct(public int $jobId)
    {
    }
}
