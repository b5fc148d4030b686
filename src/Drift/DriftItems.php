<?php

declare(strict_types=1);

namespace Fasti\Drift;

use Fasti\Core\Catalog\OpenForm;
use Fasti\Core\Drift\DriftItem;
use Fasti\Core\Drift\Fate;
use Fasti\Core\Drift\TableDrift;

/** The drift that a survey found, as it is kept with it. */
final class DriftItems
{
    /**
     * @param list<TableDrift> $drift
     *
     * @return list<DriftItem>
     */
    public static function of(array $drift): array
    {
        return array_map(static fn (TableDrift $item): DriftItem => $item->item(), $drift);
    }

    /**
     * @param array<mixed> $kept
     *
     * @return list<DriftItem>
     */
    public static function read(array $kept): array
    {
        return array_map(DriftItem::read(...), array_values(array_filter($kept, is_array(...))));
    }

    /**
     * @param list<DriftItem> $items
     *
     * @return list<array<string, mixed>>
     */
    public static function kept(array $items): array
    {
        return array_map(OpenForm::of(...), $items);
    }

    /**
     * @param list<DriftItem> $items
     *
     * @return array<string, int> change → how many tables
     */
    public static function counts(array $items): array
    {
        $counts = array_fill_keys(array_map(static fn (Fate $change): string => $change->value, Fate::cases()), 0);
        foreach ($items as $item) {
            ++$counts[$item->change->value];
        }

        return $counts;
    }
}
