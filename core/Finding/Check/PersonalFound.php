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

final class PersonalFound implements DataCheck
{
    public function name(): string
    {
        return 'personal-data';
    }

    public function severity(): Severity
    {
        return Severity::Note;
    }

    public function why(): string
    {
        return 'Documentation must not show its values, and laws may say who may see it.';
    }

    public function mend(): string
    {
        return 'Say that it is personal, and how sensitive it is.';
    }

    public function title(string $group, string $one, int $count): string
    {
        return 1 === $count ? $one : Checked::have($count, 'field').' personal data, or seem to';
    }

    public function of(Table $table, TableProfile $profile, Dialect $dialect): iterable
    {
        foreach ($profile->fields as $name => $field) {
            if ('' !== $field->personal && \Fasti\Core\Privacy\Privacy::STEWARD_SAYS !== $field->personal) {
                yield new Finding('', 'It seems to hold personal data: '.$field->personal, $table->place(), (string) $name);
            }
        }
    }
}
