<?php

declare(strict_types=1);

namespace Fasti\Register;

/** A text has been saved. `fieldName` is '' where it is not about a field. */
final readonly class Saved
{
    public function __construct(public Subject $subject, public int $id, public int $entryId, public string $fieldName, public string $property, public string $value)
    {
    }
}
