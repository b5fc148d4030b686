<?php

declare(strict_types=1);

namespace Fasti\Core\Finding;

use Fasti\Core\Catalog\Catalog;

/** A check over the structure of a source. */
interface CatalogCheck extends Check
{
    /** @return iterable<Finding> */
    public function of(Catalog $catalog): iterable;
}
