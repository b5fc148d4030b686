<?php

declare(strict_types=1);

namespace Fasti\Lineage\Property;

use Fasti\Lineage\Origins;
use Fasti\Text\BadText;
use Fasti\Text\Property;

/** The field of another source from which a field is filled: `source: table.field`. */
final class FieldOrigin extends Property
{
    public function __construct(private readonly Origins $origins)
    {
    }

    public function topic(): string
    {
        return 'field';
    }

    public function name(): string
    {
        return Origins::PROPERTY;
    }

    public function label(): string
    {
        return 'filled from';
    }

    public function most(): int
    {
        return 400;
    }

    public function blank(): string
    {
        return 'source: table.field';
    }

    public function check(string $value, int $id): void
    {
        if ('' === $value) {
            return;
        }
        $found = $this->origins->named($value);
        if (\is_string($found)) {
            throw new BadText($found);
        }
        if ($found === $id) {
            throw new BadText('This is the field itself.');
        }
    }
}
