<?php

declare(strict_types=1);

namespace Fasti\Core\Draft\Rule;

use Fasti\Core\Draft\Draft;
use Fasti\Core\Draft\English;
use Fasti\Core\Draft\Field;
use Fasti\Core\Draft\Rule;

/** What the database says, where that is a sentence rather than a sign. */
final class FromComment implements Rule
{
    public function name(): string
    {
        return 'from-comment';
    }

    public function of(Field $field): iterable
    {
        $comment = trim(preg_replace("/\s+/u", ' ', $field->column->comment) ?? '');
        if (preg_match_all("/\p{L}{3,}/u", $comment) < 2) {
            return;
        }
        $sure = str_contains($comment, '?') || 1 === preg_match("/\b(?:todo|fixme|tbd|xxx|deprecated|obsolete|do not use)\b/i", $comment) ? 0.4 : 0.8;
        yield new Draft('meaning', mb_strlen($comment) > 400 ? $comment : English::sentence($comment), $sure, ['the database says so']);
    }
}
