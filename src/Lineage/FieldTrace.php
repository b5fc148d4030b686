<?php

declare(strict_types=1);

namespace Fasti\Lineage;

use Fasti\Register\FieldAt;

/** What is known of the lineage of one field: where it comes from and what is made of it, one step away. */
final class FieldTrace
{
    public ?string $expression = null;
    public ?Retirement $retirement = null;
    /** @var list<FieldAt> fields that it is computed from */
    public array $values = [];
    /** @var list<FieldAt> fields that decide about it */
    public array $conditions = [];
    /** @var list<FieldAt> fields of views that are computed from it */
    public array $made = [];
    /** @var array<int, string> views in which it only decides about rows, or is named: entry → name */
    public array $deciding = [];
    public string $origin = '';
    public ?FieldAt $filledFrom = null;
    /** @var list<FieldAt> fields of other sources that are filled from it */
    public array $fills = [];

    /** How many views it is in. */
    public function views(): int
    {
        return \count(array_unique([...array_map(static fn (FieldAt $at): int => $at->entry, $this->made), ...array_keys($this->deciding)]));
    }

    public function isKnown(): bool
    {
        return $this->isUsed() || null !== $this->filledFrom || '' !== $this->origin || null !== $this->retirement;
    }

    public function isUsed(): bool
    {
        return [] !== $this->made || [] !== $this->deciding || [] !== $this->fills;
    }
}
