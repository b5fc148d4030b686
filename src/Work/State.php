<?php

declare(strict_types=1);

namespace Fasti\Work;

/** Where long work stands. */
enum State: string
{
    case Waiting = 'waiting';
    case Running = 'running';
    case Paused = 'paused';
    case Done = 'done';
    case Failed = 'failed';
    case Cancelled = 'cancelled';

    public function over(): bool
    {
        return self::Waiting !== $this && self::Running !== $this && self::Paused !== $this;
    }
}
