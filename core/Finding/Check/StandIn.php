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

final class StandIn implements DataCheck
{
    public function name(): string
    {
        return 'stand-in-value';
    }

    public function severity(): Severity
    {
        return Severity::Doubt;
    }

    public function why(): string
    {
        return 'Sums, averages and spans take it for what was meant.';
    }

    public function mend(): string
    {
        return 'Say in its meaning what the value stands for, and leave it out of what is counted.';
    }

    public function title(string $group, string $one, int $count): string
    {
        return 1 === $count ? $one : Checked::have($count, 'field').' a value that seems to stand for something else';
    }

    public function of(Table $table, TableProfile $profile, Dialect $dialect): iterable
    {
        foreach ($profile->fields as $name => $field) {
            $column = $table->column((string) $name);
            if (null === $column || '' !== $field->personal || $field->filled() < 20 || 'code' === $field->likely && ($field->distinct ?? 99) < 12) {
                continue;
            }
            $family = $dialect->typeOf($column)->family;
            foreach (\array_slice($field->frequent, 0, 20, true) as $value => $rows) {
                $value = (string) $value;
                $text = self::standsIn($value, $family->isNumeric(),
                    \Fasti\Core\Catalog\TypeFamily::Time === $family || 'date kept as text' === $field->likely);
                $end = $value === $field->greatest || $value === $field->least;
                if ($text || $family->isNumeric() && $end && $rows >= 5 && $rows > 0.001 * $field->frequentOf && self::isRound($value)) {
                    yield new Finding('', \sprintf('%s stands in %s of %s values looked at, as if for something else', $value, Amount::count($rows),
                        Amount::count($field->frequentOf)), $table->place(), (string) $name);
                    break;
                }
            }
        }
    }

    private static function standsIn(string $value, bool $number, bool $time): bool
    {
        if ($number) {
            return false;
        }
        if ($time) {
            return 1 === preg_match('/^(?:1900-01-01|1899-12-3[01]|1970-01-01(?:[ T]00:00(?::00)?)?|9999-12-31|0000-00-00|2099-12-31|1753-01-01|2999-12-31)/',
                $value);
        }

        return 1 === preg_match(
            "~^(?:n/?a|none|null|nil|unknown|unbekannt|tbd|tba|xxx+|\?+|-+|\.+|test|dummy|not (?:known|available|applicable)|keine?|99999+|00000+)$~i",
            trim($value),
        );
    }

    /** All nines, or a single digit and zeros or nines: 9999.99, -999. */
    private static function isRound(string $value): bool
    {
        $digits = str_replace(['-', '.', ','], '', $value);

        return \strlen($digits) >= 3 && 1 === preg_match('/^(?:9+|9+0+)$/', $digits) || '-1' === $value;
    }
}
