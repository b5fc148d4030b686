<?php

declare(strict_types=1);

namespace Fasti\Core\Model\Aggregate;

use Fasti\Core\Catalog\TypeFamily;

/** Says how many there are, whatever they are. */
abstract class Counting extends Aggregate
{
    public function needsNumbers(): bool
    {
        return false;
    }

    public function tellsOfValues(): bool
    {
        return false;
    }

    public function family(TypeFamily $values): TypeFamily
    {
        return TypeFamily::Whole;
    }

    public function unit(string $values): string
    {
        return '';
    }

    public function ofNothing(): string
    {
        return '0';
    }
}
