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

final class Constant implements DataCheck
{
    public function name(): string
    {
        return 'constant';
    }

    public function severity(): Severity
    {
        return Severity::Note;
    }

    public function why(): string
    {
        return 'It tells no row from another; perhaps it was meant to, or is a trace of something older.';
    }

    public function mend(): string
    {
        return 'Say in its meaning why, or retire it.';
    }

    public function title(string $group, string $one, int $count): string
    {
        return 1 === $count ? $one : Checked::have($count, 'field').' the same value in every row';
    }

    public function of(Table $table, TableProfile $profile, Dialect $dialect): iterable
    {
        foreach ($profile->fields as $name => $field) {
            if ('constant' === $field->likely && $profile->rows >= 20) {
                $value = '' === $field->personal && null !== $field->least ? ', '.$field->least : '';
                yield new Finding('', "It holds the same value in every row$value", $table->place(), (string) $name);
            }
        }
    }
}
