<?php

declare(strict_types=1);

namespace Fasti\Core\Finding\Check;

use Fasti\Core\Catalog\Table;
use Fasti\Core\Dialect\Dialect;
use Fasti\Core\Finding\Checked;
use Fasti\Core\Finding\DataCheck;
use Fasti\Core\Finding\Finding;
use Fasti\Core\Finding\Severity;
use Fasti\Core\Profile\TableProfile;

final class TypeInText implements DataCheck
{
    public function name(): string
    {
        return 'kept-as-text';
    }

    public function severity(): Severity
    {
        return Severity::Doubt;
    }

    public function why(): string
    {
        return 'Text is not in the order of numbers or days, cannot be reckoned with, and nothing keeps what is none out.';
    }

    public function mend(): string
    {
        return 'Have it kept as what it is; until then, say in its meaning how it is written.';
    }

    public function title(string $group, string $one, int $count): string
    {
        return 1 === $count ? $one : Checked::have($count, 'field').' the type of a text and hold '.$group;
    }

    public function of(Table $table, TableProfile $profile, Dialect $dialect): iterable
    {
        foreach ($profile->fields as $name => $field) {
            if (\in_array($field->likely, ['date kept as text', 'number kept as text'], true) && '' === $field->personal && 'files' !== $dialect->name()) {
                $what = str_starts_with($field->likely, 'date') ? 'days' : 'numbers';
                yield new Finding($what, \sprintf('It is text and holds %s (%d %% of those looked at)', $what, $field->percent), $table->place(),
                    (string) $name);
            }
        }
    }
}
