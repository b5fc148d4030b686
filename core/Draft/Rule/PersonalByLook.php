<?php

declare(strict_types=1);

namespace Fasti\Core\Draft\Rule;

use Fasti\Core\Draft\Draft;
use Fasti\Core\Draft\Field;
use Fasti\Core\Draft\Rule;

/** Whether it holds personal data, by its name and by what its values look like. */
final class PersonalByLook implements Rule
{
    public function name(): string
    {
        return 'personal-by-look';
    }

    public function of(Field $field): iterable
    {
        if (null !== $field->lead()) {
            return;
        }
        $seen = $field->profile?->personal;
        $reason = \Fasti\Core\Privacy\Privacy::known($field->table->name, $field->column->name, $seen, '');
        if ('' !== $reason) {
            yield new Draft('personal', 'yes', match (true) {
                \Fasti\Core\Privacy\Privacy::isSecret($reason) => 0.97,
                null === $seen => 0.8,
                default => 0.88,
            }, [$reason]);
        }
    }
}
