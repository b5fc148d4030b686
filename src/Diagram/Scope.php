<?php

declare(strict_types=1);

namespace Fasti\Diagram;

/** What a diagram is of: a whole source, one of its schemas, or one entry with its neighbours. */
final readonly class Scope
{
    private function __construct(public ?int $source, public ?string $schema, public ?int $entry)
    {
    }

    public static function source(int $source, ?string $schema = null): self
    {
        return new self($source, $schema, null);
    }

    public static function entry(int $entry): self
    {
        return new self(null, null, $entry);
    }
}
