<?php

declare(strict_types=1);

namespace Fasti\Core\Finding;

/** Something a check noticed: what it is, why it matters, and where. */
final readonly class Finding
{
    /**
     * @param list<array{schema: string, table: string, column: string|null}> $places
     */
    public function __construct(public string $check, public string $title, public string $why, public array $places)
    {
    }
}
