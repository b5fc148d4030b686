<?php

declare(strict_types=1);

namespace Fasti\Register;

use Fasti\Text\Editor;
use Fasti\Text\Property;

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

    /** The standing of something, as people set it. */
    public static function property(string $topic): Property
    {
        return new Property($topic, 'standing', most: 12, column: 'standing', editor: Editor::Choice, choices: self::words());
    }
}
