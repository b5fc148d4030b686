<?php

declare(strict_types=1);

namespace Fasti\Core\Value;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Dialect\ProfileSql;

/** One thing that is said of the values a field may hold. */
interface Part
{
    public function fits(string $value): bool;

    /** @return string a condition that holds for values that fit; '' where the engine cannot tell */
    public function sql(ProfileSql $sql, Column $column, TypeFamily $family): string;

    /** As it is written. */
    public function words(): string;
}
