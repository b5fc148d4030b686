<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

/** One step from a role to the one row of another that belongs to a row of it. */
final readonly class Way
{
    /**
     * @param bool $forth  from the end that holds the reference
     * @param bool $proven constraints see to it that there is one row at the most
     * @param ?Shift   $shift   the row that is found is that of a later date
     * @param ?Sharing $sharing several rows are found, among which the one is shared
     */
    public function __construct(public ModelJoin $join, public bool $forth, public bool $proven, public ?Shift $shift = null, public ?Sharing $sharing = null)
    {
    }

    public function from(): string
    {
        return $this->forth ? $this->join->from : $this->join->to;
    }

    public function to(): string
    {
        return $this->forth ? $this->join->to : $this->join->from;
    }

    /** @return list<array{string, string}> field of the row that is here, field of the row that is found */
    public function pairs(): array
    {
        return array_map(
            fn (string $field, string $key): array => $this->forth ? [$field, $key] : [$key, $field],
            $this->join->fields,
            $this->join->keys,
        );
    }

    /** "day_seen_id of sighting" */
    public function inWords(): string
    {
        return $this->from().' → '.$this->to().' by '.implode(' and ', array_map(static fn (array $pair): string => $pair[0], $this->pairs()));
    }
}
