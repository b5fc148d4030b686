<?php

declare(strict_types=1);

namespace Fasti\Core\Diagram;

/** A field on a tablet: `name` is what joins point to, `label` what is shown. */
final readonly class TabletRow
{
    public function __construct(public string $name, public string $label, public bool $key = false, public string $tooltip = '')
    {
    }
}
