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

final class AlwaysEmpty implements DataCheck
{
    public function name(): string
    {
        return 'always-empty';
    }

    public function severity(): Severity
    {
        return Severity::Note;
    }

    public function why(): string
    {
        return 'It tells nothing, and whoever meets it looks for what it ought to hold.';
    }

    public function mend(): string
    {
        return 'Say in its meaning why it is empty, or retire it.';
    }

    public function title(string $group, string $one, int $count): string
    {
        return 1 === $count ? $one : Checked::have($count, 'field').' no value in any row';
    }

    public function of(Table $table, TableProfile $profile, Dialect $dialect): iterable
    {
        foreach ($profile->fields as $name => $field) {
            if ('always empty' === $field->likely && $profile->rows > 0) {
                yield new Finding('', 'It is empty in every row', $table->place(), (string) $name);
            }
        }
    }
}
