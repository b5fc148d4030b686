<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

/** A view over tables of a design, from a choice of fields along its joins. */
final readonly class DesignView
{
    /** @param list<array{path: list<string>, attribute: string, as: string}> $shows path: things or roles from the first one on */
    public function __construct(public string $name, public string $of, public array $shows, public string $meaning = '', public int $line = 0)
    {
    }
}
