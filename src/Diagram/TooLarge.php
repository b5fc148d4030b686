<?php

declare(strict_types=1);

namespace Fasti\Diagram;

use Fasti\Core\Wording\Amount;

/** More entries than a picture can show. */
final class TooLarge extends \RuntimeException
{
    public function __construct(public readonly int $entries)
    {
        parent::__construct(\sprintf(
            'A diagram of %s entries would show nothing. Choose a schema, or open an entry and look at its neighbours.',
            Amount::count($entries),
        ));
    }
}
