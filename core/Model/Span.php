<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

/** A stretch of the calendar by which what was before is looked at. */
enum Span: string
{
    case Day = 'day';
    case Week = 'week';
    case Month = 'month';
    case Quarter = 'quarter';
    case Year = 'year';

    /** @return array{int, 'days'|'months'} so many of the one that it is counted in: a later day of a shorter month is its last one */
    public function counted(int $many): array
    {
        return match ($this) {
            self::Day => [$many, 'days'],
            self::Week => [7 * $many, 'days'],
            self::Month => [$many, 'months'],
            self::Quarter => [3 * $many, 'months'],
            self::Year => [12 * $many, 'months'],
        };
    }

    public function inWords(int $many): string
    {
        return number_format($many).' '.$this->value.(1 === $many ? '' : 's');
    }
}
