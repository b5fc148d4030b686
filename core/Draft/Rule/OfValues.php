<?php

declare(strict_types=1);

namespace Fasti\Core\Draft\Rule;

use Fasti\Core\Draft\Draft;
use Fasti\Core\Draft\English;
use Fasti\Core\Draft\Field;
use Fasti\Core\Draft\Rule;

/** The meaning of a field that may have few values only: which. */
final class OfValues implements Rule
{
    public function name(): string
    {
        return 'of-values';
    }

    private const SHOWN = 12;

    public function of(Field $field): iterable
    {
        $values = $field->values();
        if (null === $values || null !== $field->lead() || $field->isFlag() || [] === $field->name->words || $field->isTime()) {
            return;
        }
        [$list, $from] = $values;
        $list = array_values(array_filter($list, static fn (string $value): bool => '' !== trim($value)));
        if ([] === $list || \count($list) > self::SHOWN || mb_strlen(implode(', ', $list)) > 160) {
            return;
        }
        $noun = $field->noun();
        $phrase = implode(' ', $field->name->without($noun));
        $which = $field->type->several ? 'any of' : 'one of';
        $head = \in_array($phrase, ['kind', 'type', 'class', 'category', 'sort'], true) ? "Which $phrase of $noun it is" : "The $phrase of the $noun";
        // Words explain themselves; codes of a letter or two do not, so that somebody has to say more.
        $short = max(array_map(mb_strlen(...), $list)) <= 2;
        yield new Draft('meaning', English::sentence("$head: $which ".implode(', ', $list)), $short ? 0.68 : 0.84, [$from]);
    }
}
