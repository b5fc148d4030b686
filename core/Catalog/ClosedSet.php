<?php

declare(strict_types=1);

namespace Fasti\Core\Catalog;

/** One of a closed set whose members are objects, each of which says all that is asked of it; in its open form it is its name. */
interface ClosedSet
{
    /** @return non-empty-array<string, self> by name, in the order in which they are offered */
    public static function known(): array;

    public function name(): string;
}
