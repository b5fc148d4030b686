<?php

declare(strict_types=1);

namespace Fasti\Lineage;

/** Which fields fields come from, or what is made of them, gathered over all sources. */
final class Trace
{
    /** @var array<int, int> field, or below zero a view → how far from the start */
    public array $fields = [];
    /** @var array<string, array{from: int, to: int, part: string}> part: see Part; `said` and `alike` where two sources meet */
    public array $ties = [];
    /** There is more than is shown. */
    public bool $cut = false;

    /** @param list<int> $starts */
    public function __construct(array $starts)
    {
        $this->fields = array_fill_keys($starts, 0);
    }

    public function tie(int $from, int $to, string $part): void
    {
        $this->ties[$from.'/'.$to] ??= ['from' => $from, 'to' => $to, 'part' => $part];
    }

    public function join(self $other): self
    {
        $this->fields += $other->fields;
        $this->ties += $other->ties;
        $this->cut = $this->cut || $other->cut;

        return $this;
    }
}
