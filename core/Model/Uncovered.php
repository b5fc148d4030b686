<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

/** Days that a calendar does not have, although something is looked at from them. */
final readonly class Uncovered
{
    /** @param string $sql gives one row: how many there are (`days`), the first (`since`) and the last (`until`) */
    public function __construct(public string $role, public string $span, public string $sql)
    {
    }

    public function inWords(int $days, string $since, string $until): string
    {
        return \sprintf(
            '“%s” has no row for %s from %s to %s: what was %s before is in no row, so that a period that goes on into them is compared with less.',
            $this->role,
            1 === $days ? 'a day' : number_format($days).' days',
            substr($since, 0, 10),
            substr($until, 0, 10),
            $this->span,
        );
    }
}
