<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

/** A list of values that several attributes may be of. */
final readonly class ValueList
{
    /** @param array<string, string> $values value → what it means, '' for what says itself */
    public function __construct(public string $name, public array $values = [], public int $line = 0)
    {
    }

    /** @return list<string> */
    public function members(): array
    {
        return array_map(strval(...), array_keys($this->values));
    }
}
