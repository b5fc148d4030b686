<?php

declare(strict_types=1);

namespace Fasti\Core\Join;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\ForeignKey;
use Fasti\Core\Catalog\Reference;

/** The joins of a catalog as links between its tables by their number. */
final class CatalogLinks
{
    /**
     * @param list<Proposal> $proposals
     * @param float          $least     confidence that a proposal has at least
     *
     * @return list<Link>
     */
    public static function of(Catalog $catalog, array $proposals = [], float $least = 0.5): array
    {
        $at = [];
        foreach ($catalog->tables as $i => $table) {
            $at[$table->place()->key()] = $i;
        }
        $links = $seen = [];
        foreach ($catalog->tables as $i => $table) {
            foreach ($table->foreignKeys as $key) {
                $to = $at[$key->references->place()->key()] ?? null;
                $known = $i.':'.implode(',', $key->columns).'>'.$to.':'.implode(',', $key->references->columns);
                if (null !== $to && !isset($seen[$known])) {
                    $seen[$known] = true;
                    $links[] = new Link(
                        \count($links),
                        $i,
                        $to,
                        self::pairs($key->columns, $key->references->columns),
                        Cardinality::declared($table, $key),
                        '' === $key->reason ? 1.0 : 0.9,
                    );
                }
            }
        }
        foreach ($proposals as $one) {
            $from = $at[$one->from->key()] ?? null;
            $to = $at[$one->to->key()] ?? null;
            if (null !== $from && null !== $to && $one->confidence >= $least) {
                $key = new ForeignKey(null, $one->columns, new Reference($one->to->schema, $one->to->name, $one->toColumns));
                $links[] = new Link(
                    \count($links), $from, $to, self::pairs(
                        $one->columns,
                        $one->toColumns,
                    ), Cardinality::declared($catalog->tables[$from], $key), $one->confidence, $one->where,
                    ($one->data->orphans ?? 0) > 0,
                );
            }
        }

        return $links;
    }

    /**
     * @param list<string> $near
     * @param list<string> $far
     *
     * @return list<array{string, string}>
     */
    private static function pairs(array $near, array $far): array
    {
        return array_map(static fn (string $one, string $other): array => [$one, $other], $near, $far);
    }
}
