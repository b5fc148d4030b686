<?php

declare(strict_types=1);

namespace Fasti\Text;

/** A text has been written. Sent within the transaction that writes it. */
final readonly class TextSaved
{
    public function __construct(public Subject $subject, public string $property, public string $value)
    {
    }
}
