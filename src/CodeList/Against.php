<?php

declare(strict_types=1);

namespace Fasti\CodeList;

/** A code list held against the data of the fields that use it. */
final readonly class Against
{
    /**
     * @param array<array-key, int> $found   value → rows, over all fields
     * @param array<array-key, int> $missing those that are no code of the list
     * @param list<string>          $unused  codes that stand in no row; empty where that is not known
     * @param int                   $looked  fields whose values are known
     * @param bool                  $known   whether all values of all fields are known, so that a code that was not found is not used
     */
    private function __construct(public array $found, public array $missing, public array $unused, public int $looked, public bool $known)
    {
    }

    /**
     * @param list<string>       $codes
     * @param array<int, Values> $values by field
     * @param int                $fields that use the list
     */
    public static function of(array $codes, array $values, int $fields): self
    {
        $found = [];
        $known = $fields > 0 && \count($values) === $fields;
        foreach ($values as $one) {
            $known = $known && $one->complete && !$one->personal;
            foreach ($one->personal ? [] : $one->counts as $value => $rows) {
                if ('' !== trim((string) $value)) {
                    $found[$value] = ($found[$value] ?? 0) + $rows;
                }
            }
        }
        arsort($found);
        $has = array_fill_keys($codes, true);

        return new self(
            $found, array_diff_key($found, $has), $known ? array_values(array_filter($codes, static fn (string $code): bool => !isset($found[$code]))) : [],
            \count($values), $known,
        );
    }
}
