<?php

declare(strict_types=1);

namespace Fasti\Register\Property;

use Fasti\Text\Property;

final class FieldUnit extends Property
{
    public function topic(): string
    {
        return 'field';
    }

    public function name(): string
    {
        return 'unit';
    }

    public function label(): string
    {
        return 'unit';
    }

    public function blank(): string
    {
        return 'unit: m, km², mg/l';
    }

    public function most(): int
    {
        return 60;
    }

    public function shownAmongFacts(): bool
    {
        return true;
    }

    /** A unit that is known is kept as it is written everywhere; others are kept as they are. */
    public function check(string $value, int $id): void
    {
        if (mb_strlen($value) > 0 && 1 === preg_match('/^\d/', $value)) {
            throw new \Fasti\Text\BadText('A unit has no number before it. Write m, km², mg/l, or a word.');
        }
    }
}
