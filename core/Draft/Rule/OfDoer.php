<?php

declare(strict_types=1);

namespace Fasti\Core\Draft\Rule;

use Fasti\Core\Draft\Draft;
use Fasti\Core\Draft\English;
use Fasti\Core\Draft\Field;
use Fasti\Core\Draft\Rule;

/** The meaning of a field that says who did something, and leads nowhere that is known. */
final class OfDoer implements Rule
{
    public function name(): string
    {
        return 'of-doer';
    }

    public function of(Field $field): iterable
    {
        $words = $field->name->words;
        if (null !== $field->lead() || \count($words) < 2 || 'by' !== $words[\count($words) - 1]) {
            return;
        }
        $deed = \array_slice($words, 0, -1);
        if (English::isParticiple($deed[\count($deed) - 1])) {
            yield new Draft('meaning', English::sentence("Who it was by whom the {$field->noun()} was ".implode(' ', $deed)), 0.8,
                ['its name says who did something']);
        }
    }
}
