<?php

declare(strict_types=1);

namespace Fasti\Join;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\ForeignKey;
use Fasti\Core\Catalog\Place;
use Fasti\Core\Catalog\Reference;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Join\Link;
use Fasti\Core\Join\Proposal;
use Fasti\Core\Join\Proposals;
use Fasti\Register\EntryAt;
use Fasti\Register\EntryStore;
use Fasti\Register\JoinKind;
use Fasti\Register\Joins;
use Fasti\Register\JoinView;
use Fasti\Register\RegisterCatalog;

/** A source as the register has it, with its joins, for whatever is worked out from them. */
final readonly class SourceGraph
{
    /** A join that is only proposed counts for routes and kinds from here. */
    public const LIKELY = 0.5;

    public function __construct(private RegisterCatalog $catalogs, private EntryStore $entries, private Joins $joins, private JoinEvidences $evidences)
    {
    }

    /**
     * What there is now.
     *
     * @return array{Catalog, array<int, int>} table of the catalog → entry
     */
    public function catalog(int $source): array
    {
        [$catalog, $gone] = $this->catalogs->of($source);
        $tables = array_values(array_filter($catalog->tables, static fn (Table $table): bool => !isset($gone[$table->place()->key()]) && !$table->planned));
        $places = $this->entries->places($source);

        return [$catalog->with(tables: $tables), array_map(static fn (Table $table): int => $places[$table->place()->key()] ?? 0, $tables)];
    }

    /**
     * The same, with the joins that people state as if they were declared, and without those that were only worked out.
     *
     * @return array{Catalog, array<int, int>, array<string, true>} and the identities of what was dismissed
     */
    public function known(int $source): array
    {
        [$catalog, $ids] = $this->catalog($source);
        $at = array_flip($ids);
        $more = $dismissed = [];
        $all = $this->joins->ofSource($source, true);
        $standings = $this->joins->standings(array_map(static fn (JoinView $join): int => $join->id, $all));
        foreach ($all as $join) {
            $from = $at[$join->fromId] ?? null;
            $to = $at[$join->toId] ?? null;
            if (null === $from || null === $to || [] === $join->pairs) {
                continue;
            }
            $there = $catalog->tables[$to]->place();
            if (JoinKind::Documented === $join->kind && null === $join->where) {
                $more[$from][] = new ForeignKey(
                    null,
                    array_column($join->pairs, 0),
                    new Reference($there->schema, $there->name, array_column($join->pairs, 1)),
                );
            } elseif (JoinProperties::DISMISSED === $standings[$join->id]->stated && JoinKind::Declared !== $join->kind) {
                $dismissed[Proposals::identity(new Proposal(
                    $catalog->tables[$from]->place(), array_column($join->pairs, 0), $there, array_column($join->pairs, 1), 0.0, [], $join->where,
                ))] = true;
            }
        }
        $tables = [];
        foreach ($catalog->tables as $i => $table) {
            $declared = array_values(array_filter($table->foreignKeys, static fn (ForeignKey $key): bool => '' === $key->reason));
            $tables[] = $table->with(foreignKeys: [...$declared, ...$more[$i] ?? []]);
        }

        return [$catalog->with(tables: $tables), $ids, $dismissed];
    }

    /**
     * The joins of all sources, or of one, as routes go over them; nodes are entries.
     *
     * @return list<Link>
     */
    public function links(int $source = 0, float $least = self::LIKELY): array
    {
        $links = [];
        $views = 0 === $source ? $this->joins->everywhere() : $this->joins->ofSource($source);
        $known = $this->evidences->of(array_map(static fn (JoinView $join): int => $join->id, $views));
        foreach ($views as $join) {
            $certainty = self::certainty($join);
            if ($certainty >= $least && [] !== $join->pairs) {
                $figures = ($known[$join->id] ?? null)?->figures;
                $links[] = new Link(
                    $join->id,
                    $join->fromId,
                    $join->toId,
                    $join->pairs,
                    $join->cardinality,
                    $certainty,
                    $join->where,
                    ($figures->orphans ?? 0) > 0,
                );
            }
        }

        return $links;
    }

    public static function certainty(JoinView $join): float
    {
        return match ($join->kind) {
            JoinKind::Declared => 1.0,
            JoinKind::Documented => 0.99,
            JoinKind::Proposed => $join->confidence ?? 0.9,
        };
    }

    /**
     * @param list<int> $entries
     *
     * @return array<int, Place>
     */
    public function places(array $entries): array
    {
        return array_map(static fn (EntryAt $placed): Place => $placed->place, $this->entries->placed($entries));
    }
}
