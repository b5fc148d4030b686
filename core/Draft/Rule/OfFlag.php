<?php

declare(strict_types=1);

namespace Fasti\Core\Draft\Rule;

use Fasti\Core\Draft\Draft;
use Fasti\Core\Draft\English;
use Fasti\Core\Draft\Field;
use Fasti\Core\Draft\Rule;

/** The meaning of a yes or no, with how it is written. */
final class OfFlag implements Rule
{
    public function name(): string
    {
        return 'of-flag';
    }

    public function of(Field $field): iterable
    {
        if (!$field->isFlag() || [] === $field->name->words) {
            return;
        }
        $noun = $field->noun();
        $words = $field->name->without($noun);
        $phrase = implode(' ', $words);
        $last = $words[\count($words) - 1];
        $text = match (true) {
            'has' === $field->name->asks => "Whether the $noun has $phrase",
            'can' === $field->name->asks => "Whether the $noun can $phrase",
            'was' === $field->name->asks => "Whether the $noun was $phrase",
            English::isAdjective($last) => "Whether the $noun is $phrase",
            \in_array($words[0], ['below', 'above', 'under', 'over', 'within', 'out', 'in', 'on', 'at'], true) => "Whether the $noun is $phrase",
            English::isDone($words[0]) && \count($words) > 1 => "Whether the $noun ".English::does($words[0]).' '.implode(' ', \array_slice($words, 1)),
            default => "Whether “{$phrase}” is true of the $noun",
        };
        $written = match (true) {
            [] !== $field->type->members => implode(' or ', $field->type->members),
            \Fasti\Core\Catalog\TypeFamily::Whole === $field->type->family => '1 for yes, 0 for no',
            \Fasti\Core\Catalog\TypeFamily::Text === $field->type->family
                && null !== $field->profile && [] !== $field->profile->frequent => 'written '.implode(' or ', array_keys($field->profile->frequent)),
            default => '',
        };
        if (str_contains($text, '“') && ('' === $written || \in_array($last, ['status', 'state', 'type', 'kind', 'mode', 'level', 'name', 'code'], true))) {
            // No more than its name and its type; or the name is not that of a question.
            return;
        }
        yield new Draft('meaning', English::sentence($text.('' === $written ? '' : ': '.$written)), 0.84, ['it holds yes or no']);
    }
}
