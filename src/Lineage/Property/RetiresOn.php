<?php

declare(strict_types=1);

namespace Fasti\Lineage\Property;

use Fasti\Text\BadText;
use Fasti\Text\Property;

/** The last day on which something that is retired may be used. */
abstract class RetiresOn extends Property
{
    public function name(): string
    {
        return 'retiresOn';
    }

    public function label(): string
    {
        return 'until';
    }

    public function most(): int
    {
        return 10;
    }

    public function blank(): string
    {
        return 'until when? 2027-03-31';
    }

    public function check(string $value, int $id): void
    {
        $day = \DateTimeImmutable::createFromFormat('!Y-m-d', $value);
        if ('' !== $value && (false === $day || $day->format('Y-m-d') !== $value)) {
            throw new BadText('Write a day as year-month-day: 2027-03-31.');
        }
    }
}
