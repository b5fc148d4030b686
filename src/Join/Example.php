<?php

declare(strict_types=1);

namespace Fasti\Join;

/** A row that refers, and the row it finds. */
final readonly class Example
{
    /**
     * @param list<string>      $near values of the referring row, those that refer first; '···' for a personal one
     * @param list<string>|null $far  values of the other row; null where there is none
     */
    public function __construct(public array $near, public ?array $far)
    {
    }
}
