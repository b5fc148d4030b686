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
use Fasti\Core\Wording\TypeWords;

final class NearLimit implements DataCheck
{
    public function name(): string
    {
        return 'near-limit';
    }

    public function severity(): Severity
    {
        return Severity::Fault;
    }

    public function why(): string
    {
        return 'Greater values are refused or cut off without a word.';
    }

    public function mend(): string
    {
        return 'Have its type made wider.';
    }

    public function title(string $group, string $one, int $count): string
    {
        return 1 === $count ? $one : Checked::have($count, 'field').' a value near the limit of the type';
    }

    public function of(Table $table, TableProfile $profile, Dialect $dialect): iterable
    {
        foreach ($profile->fields as $name => $field) {
            $column = $table->column((string) $name);
            if (null === $column || null === $field->greatest || '' !== $field->personal) {
                continue;
            }
            $type = $dialect->typeOf($column);
            $most = match (true) {
                $type->array => null,
                \Fasti\Core\Catalog\TypeFamily::Whole === $type->family
                    && null !== $type->bits && $type->bits >= 8
                        && $type->bits <= 64 && 1 !== $type->length => 2 ** ($type->unsigned ? $type->bits : $type->bits - 1) - 1,
                \Fasti\Core\Catalog\TypeFamily::Number === $type->family && null !== $type->length && null !== $type->scale && \in_array($type->name,
                    ['decimal', 'numeric', 'dec'], true) => (float) TypeWords::greatest($type->length, $type->scale),
                default => null,
            };
            if (null !== $most && is_numeric($field->greatest) && (float) $field->greatest >= 0.95 * $most && $most > 1) {
                yield new Finding('', \sprintf('Its greatest value is %s; its type ends at %s', Amount::decimal($field->greatest),
                    Amount::decimal((string) $most)), $table->place(), (string) $name);
            }
        }
    }
}
