<?php

declare(strict_types=1);

namespace Fasti\Core\Profile;

/**
 * What the data says about a table.
 *
 * `looked` is how many rows the figures were taken from, `how` says which and what it means, '' when all were. `grain`
 * names the fields that should tell rows apart; `repeated` counts the rows that share them with one before, null where
 * that was not asked.
 */
final readonly class TableProfile
{
    /**
     * @param array<string, FieldProfile> $fields
     * @param list<string>                $grain
     * @param list<string>                $notes
     * @param list<array{values: list<string>, rows: int}> $repeats examples of rows that share their grain: its values, a personal one as '···'
     */
    public function __construct(
        public int $rows,
        public int $looked,
        public string $how,
        public array $fields,
        public array $grain = [],
        public ?int $repeated = null,
        public array $notes = [],
        public float $seconds = 0.0,
        public array $repeats = [],
    ) {
    }
}
