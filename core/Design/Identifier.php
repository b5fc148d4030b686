<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

/** What tells two rows of a kind apart: attributes, and things to which joins lead (or their roles). */
final readonly class Identifier
{
    /**
     * @param non-empty-list<string> $parts
     * @param ?string                $name  of the constraint, where it is not worked out
     */
    public function __construct(public array $parts, public ?string $name = null, public int $line = 0)
    {
    }
}
