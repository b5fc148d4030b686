<?php

declare(strict_types=1);

namespace Fasti\Register;

/** Fields of an entry have other names now. Whatever else knows them by their names follows. */
final readonly class FieldsRenamed
{
    /** @param array<string, string> $names old → new */
    public function __construct(public int $entry, public array $names)
    {
    }
}
