<?php

declare(strict_types=1);

namespace Fasti\Survey;

enum State: string
{
    case Waiting = 'waiting';
    case Running = 'running';
    case Done = 'done';
    case Failed = 'failed';
    case Cancelled = 'cancelled';

    public function over(): bool
    {
        return self::Waiting !== $this && self::Running !== $this;
    }
}
