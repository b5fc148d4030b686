<?php

declare(strict_types=1);

namespace Fasti\Drift;

use Fasti\Core\Drift\Fate;
use Fasti\Core\Drift\TableDrift;

/**
 * The drift that a survey found, as it is kept with it: the open form of each TableDrift, with what was decided.
 *
 * @phpstan-type Item array{change: string, kind: string, schema: string, name: string, from?: array{schema: string, name: string}, reason?: string,
 *     words?: list<string>, columns?: list<array{change: string, name: string, from?: string, reason?: string, words?: list<string>}>, decided?: string}
 */
final class DriftItems
{
    /**
     * @param list<TableDrift> $drift
     *
     * @return list<array<string, mixed>>
     */
    public static function of(array $drift): array
    {
        return array_map(static fn (TableDrift $item): array => $item->toArray(), $drift);
    }

    /**
     * @param list<array<string, mixed>> $items
     *
     * @return array<string, int> change → how many tables
     */
    public static function counts(array $items): array
    {
        $counts = array_fill_keys(array_map(static fn (Fate $change): string => $change->value, Fate::cases()), 0);
        foreach ($items as $item) {
            $change = $item['change'] ?? '';
            if (\is_string($change) && isset($counts[$change])) {
                ++$counts[$change];
            }
        }

        return $counts;
    }
}
