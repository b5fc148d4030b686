<?php

declare(strict_types=1);

namespace Fasti\Core\Draft\Rule;

use Fasti\Core\Draft\Draft;
use Fasti\Core\Draft\English;
use Fasti\Core\Draft\Field;
use Fasti\Core\Draft\Rule;

/** The meaning of two fields that belong together: one says of what kind the other is, or into which table it leads. */
final class OfKindBeside implements Rule
{
    public function name(): string
    {
        return 'of-kind-beside';
    }

    private const KINDS = ['kind', 'type', 'class', 'table'];

    public function of(Field $field): iterable
    {
        $raw = $field->name->raw;
        $last = $raw[\count($raw) - 1] ?? '';
        $head = \array_slice($raw, 0, -1);
        if ([] === $head || null !== $field->lead() && 1 === \count($field->material->leadsOf($field->entry, $field->column->name))) {
            return;
        }
        foreach ($field->table->columns as $other) {
            $theirs = \Fasti\Core\Join\NameWords::of($other->name);
            $end = $theirs[\count($theirs) - 1] ?? '';
            if ($other->name === $field->column->name || \array_slice($theirs, 0, -1) !== $head) {
                continue;
            }
            $thing = implode(' ', $head);
            if (\in_array($last, self::KINDS, true) && \in_array($end, ['id', 'ref', 'key', 'no'], true)) {
                $values = $field->values()[0] ?? [];
                $which = [] === $values || \count($values) > 12 ? '' : ': '.implode(', ', $values);
                yield new Draft('meaning', English::sentence("Which kind of thing the $thing is, and so what {$other->name} leads to$which"), 0.84,
                    ["{$other->name} stands beside it"]);
            } elseif (\in_array($end, self::KINDS, true) && \in_array($last, ['id', 'ref', 'key', 'no'], true)) {
                yield new Draft('meaning', English::sentence("The $thing that the {$field->noun()} is about, of the kind that {$other->name} says"), 0.84,
                    ["{$other->name} stands beside it"]);
            }
        }
    }
}
