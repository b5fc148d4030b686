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

final class NeverEmpty implements DataCheck
{
    public function name(): string
    {
        return 'optional-never-empty';
    }

    public function severity(): Severity
    {
        return Severity::Note;
    }

    public function why(): string
    {
        return 'Who reads the structure provides for what never happens.';
    }

    public function mend(): string
    {
        return 'Say in its meaning whether it may be empty, or have it required.';
    }

    public function title(string $group, string $one, int $count): string
    {
        return 1 === $count ? $one : Checked::have($count, 'field').' no empty value, though one is allowed';
    }

    public function of(Table $table, TableProfile $profile, Dialect $dialect): iterable
    {
        foreach ($profile->fields as $name => $field) {
            $column = $table->column((string) $name);
            if (null !== $column && $column->nullable && null === $column->generated && $profile->rows >= 200 && $field->filled() === $field->rows
                && $profile->rows === $profile->looked && !$table->kind->isView() && null === $column->seen) {
                yield new Finding('', 'It may be empty, and never is', $table->place(), (string) $name);
            }
        }
    }
}
