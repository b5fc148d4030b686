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
use Fasti\Core\Wording\Amount;

final class NotAllowed implements DataCheck
{
    public function name(): string
    {
        return 'not-allowed';
    }

    public function severity(): Severity
    {
        return Severity::Fault;
    }

    public function why(): string
    {
        return 'What is written here as allowed is not what the data holds: one of the two is wrong.';
    }

    public function mend(): string
    {
        return 'Correct the rows, or what is allowed; a code that is missing can be added to its list.';
    }

    public function title(string $group, string $one, int $count): string
    {
        return 1 === $count ? $one : Checked::have($count, 'field').' values that are not allowed';
    }

    public function of(Table $table, TableProfile $profile, Dialect $dialect): iterable
    {
        foreach ($profile->fields as $name => $field) {
            if (null !== $field->broken && $field->broken > 0) {
                $some = [] === $field->breaking ? '' : ', such as '.implode(', ', \array_slice(array_map(strval(...), array_keys($field->breaking)), 0, 3));
                yield new Finding('', \sprintf('%s%s not “%s”%s', Amount::of($field->broken, 'row'), 1 === $field->broken ? ' is' : ' are',
                    mb_strimwidth($field->allowed, 0, 80, '…'), $some), $table->place(), (string) $name);
            }
        }
    }
}
