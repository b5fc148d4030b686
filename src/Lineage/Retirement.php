<?php

declare(strict_types=1);

namespace Fasti\Lineage;

/** That something must not be used any more. */
final readonly class Retirement
{
    public function __construct(public bool $retired, public string $replacedBy = '', public string $until = '')
    {
    }

    /** @return string `retired; use day_date instead, at the latest after 31 March 2027` without its beginning */
    public function words(): string
    {
        return implode(', ', array_filter([
            '' === $this->replacedBy ? '' : 'replaced by '.$this->replacedBy,
            '' === $this->until
                ? ''
                : 'to be used until '.
                    (\DateTimeImmutable::createFromFormat('!Y-m-d', $this->until) ?: new \DateTimeImmutable())->format('j F Y').' at the latest',
        ]));
    }
}
