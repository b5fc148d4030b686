<?php

declare(strict_types=1);

namespace Fasti\Core\Finding\Check;

use Fasti\Core\Catalog\Table;
use Fasti\Core\Dialect\Dialect;
use Fasti\Core\Finding\DataCheck;
use Fasti\Core\Finding\Finding;
use Fasti\Core\Finding\Severity;
use Fasti\Core\Profile\TableProfile;
use Fasti\Core\Wording\Amount;

/** The grain is not unique: rows share what should tell them apart. */
final class RepeatedRows implements DataCheck
{
    public function name(): string
    {
        return 'repeated-rows';
    }

    public function severity(): Severity
    {
        return Severity::Doubt;
    }

    public function why(): string
    {
        return 'What one row stands for is not what the fields say that tell rows apart, or rows were entered twice.';
    }

    public function mend(): string
    {
        return 'Correct the fields that tell rows apart, or the rows.';
    }

    public function title(string $group, string $one, int $count): string
    {
        return 1 === $count ? $one : Amount::of($count, 'table').' hold rows that repeat another';
    }

    public function of(Table $table, TableProfile $profile, Dialect $dialect): iterable
    {
        if (($profile->repeated ?? 0) > 0) {
            $rows = Amount::of($profile->repeated ?? 0, 'row').(1 === $profile->repeated ? ' repeats' : ' repeat');
            $whole = \count($profile->grain) >= \count($table->columns);
            yield new Finding('', \sprintf('%s another in %s', $rows, $whole ? 'every field' : implode(', ', $profile->grain)), $table->place());
        }
    }
}
