<?php

declare(strict_types=1);

namespace Fasti\Core\Finding;

use Fasti\Core\Catalog\Table;
use Fasti\Core\Dialect\Dialect;
use Fasti\Core\Profile\TableProfile;

/** A check over what the data of a table says. */
interface DataCheck extends Check
{
    /** @return iterable<Finding> */
    public function of(Table $table, TableProfile $profile, Dialect $dialect): iterable;
}
