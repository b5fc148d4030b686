<?php

declare(strict_types=1);

namespace Fasti\Source;

/** How often a source is surveyed by itself, when the system's scheduler calls fasti:survey-due. */
enum Cadence: string
{
    case Never = '';
    case Day = 'day';
    case Week = 'week';
    case Month = 'month';

    public function inWords(): string
    {
        return self::Never === $this ? 'only when somebody asks' : 'every '.$this->value;
    }

    /** @param ?\DateTimeImmutable $last when it was surveyed last */
    public function isDue(?\DateTimeImmutable $last, \DateTimeImmutable $now): bool
    {
        // An hour of grace: a scheduler that runs at the same time each day is never quite a day later.
        return self::Never !== $this && (null === $last || $last->modify('+1 '.$this->value)->modify('-1 hour') <= $now);
    }
}
