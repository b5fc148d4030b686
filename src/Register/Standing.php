<?php

declare(strict_types=1);

namespace Fasti\Register;

/** Where an entry, or a diagram, is in its review. */
enum Standing: string
{
    case Open = 'open';
    case InReview = 'in review';
    case Agreed = 'agreed';
    case Retired = 'retired';

    /** @return array<string, string> as a choice has them */
    public static function words(): array
    {
        $words = array_map(static fn (self $standing): string => $standing->value, self::cases());

        return array_combine($words, $words);
    }
}
