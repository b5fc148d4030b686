<?php

declare(strict_types=1);

namespace Fasti\Profile;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Profile\TableProfile;

/** What was seen of a target. */
final readonly class Looked
{
    /**
     * @param array<int, TableProfile> $profiles by the number of the table; empty where the data was not looked at
     * @param list<string>             $notes    what could not be read, and why
     */
    public function __construct(public Catalog $catalog, public array $profiles, public array $notes)
    {
    }
}
