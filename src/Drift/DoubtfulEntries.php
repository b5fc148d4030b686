<?php

declare(strict_types=1);

namespace Fasti\Drift;

use Fasti\Finding\Findings;
use Fasti\Register\EntryFilter;

final class DoubtfulEntries implements EntryFilter
{
    public function key(): string
    {
        return 'doubtful';
    }

    public function words(): string
    {
        return 'Doubtful since a change';
    }

    public function condition(): string
    {
        return Findings::entriesWith(DoubtfulText::NAME);
    }
}
