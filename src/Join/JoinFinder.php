<?php

declare(strict_types=1);

namespace Fasti\Join;

use Doctrine\DBAL\Connection;
use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\ForeignKey;
use Fasti\Core\Catalog\Reference;
use Fasti\Core\Join\Cardinality;
use Fasti\Core\Join\Kinds;
use Fasti\Core\Join\Link;
use Fasti\Core\Join\Proposal;
use Fasti\Core\Join\Proposals;
use Fasti\Core\Survey\Progress;
use Fasti\Core\Survey\Rows;
use Fasti\Lineage\KeptQueries;
use Fasti\Profile\Profiles;
use Fasti\Register\Fields;
use Fasti\Register\Joins;
use Fasti\Source\Source;

/** Finds what joins a source may have, and keeps them as proposals; what kind each entry seems to be follows from that. */
final readonly class JoinFinder
{
    /** What is less likely is not shown to a steward. */
    private const SHOWN = 0.25;
    /** Of one source. */
    private const MOST = 1000;
    /** Of one field. */
    private const MOST_OF_FIELD = 3;

    public function __construct(
        private Connection $db,
        private SourceGraph $graph,
        private Fields $fields,
        private Joins $joins,
        private JoinEvidences $evidences,
        private EntryRoles $roles,
        private KeptQueries $queries,
        private Profiles $profiles,
    ) {
    }

    /** @return list<string> what could not be looked at, in sentences */
    public function find(Source $source, ?Rows $rows, Progress $progress, float $budget = 300.0): array
    {
        [$catalog, $ids, $dismissed] = $this->graph->known($source->id());
        $queries = [];
        foreach ($this->queries->all() as $query) {
            if ($query->source->id() === $source->id()) {
                $queries[$query->name] = $query->text;
            }
        }
        $proposing = new Proposals($budget);
        $found = $proposing->of($catalog, $rows, $queries, [], $progress);
        // What was dismissed is found as before: it comes back where its evidence has changed, and lowers what is like it.
        $found = self::shown($proposing->lowered($found, $dismissed));
        $this->db->transactional(function () use ($source, $found, $catalog, $ids): void {
            $this->keep($source->id(), $found, $catalog, $ids);
        });
        $this->kinds($source->id(), $catalog, $ids);

        return $proposing->notes;
    }

    /**
     * @param list<Proposal> $found
     *
     * @return list<Proposal>
     */
    private static function shown(array $found): array
    {
        $shown = $times = [];
        foreach ($found as $one) {
            $field = $one->from->key()."\0".implode("\0", $one->columns);
            $times[$field] = ($times[$field] ?? 0) + (null === $one->where ? 1 : 0);
            if ($one->confidence >= self::SHOWN && $times[$field] <= self::MOST_OF_FIELD && \count($shown) < self::MOST) {
                $shown[] = $one;
            }
        }

        return $shown;
    }

    /**
     * @param list<Proposal>  $found
     * @param array<int, int> $ids
     */
    private function keep(int $source, array $found, Catalog $catalog, array $ids): void
    {
        $at = [];
        foreach ($catalog->tables as $i => $table) {
            $at[$table->place()->key()] = $i;
        }
        $fields = $this->fields->ids(array_values($ids));
        $proposals = $evidence = [];
        foreach ($found as $one) {
            $from = $at[$one->from->key()];
            $here = $fields[$ids[$from]] ?? [];
            $there = $fields[$ids[$at[$one->to->key()]]] ?? [];
            $pairs = [];
            foreach ($one->columns as $i => $column) {
                if (!isset($here[$column], $there[$one->toColumns[$i]])) {
                    continue 2;
                }
                $pairs[] = [$here[$column], $there[$one->toColumns[$i]]];
            }
            $where = null === $one->where || !isset($here[$one->where[0]]) ? null : [$here[$one->where[0]], $one->where[1]];
            $key = new ForeignKey(null, $one->columns, new Reference($one->to->schema, $one->to->name, $one->toColumns));
            $proposals[] = [
                'from' => $ids[$from], 'to' => $ids[$at[$one->to->key()]], 'pairs' => $pairs, 'where' => $where,
                'cardinality' => Cardinality::declared($catalog->tables[$from], $key), 'confidence' => $one->confidence,
            ];
            $evidence[Joins::identity($pairs, $where)] = $one->evidence;
        }
        $joins = $this->joins->propose($source, $proposals);
        $byJoin = [];
        foreach ($joins as $identity => $join) {
            $byJoin[$join] = $evidence[$identity] ?? [];
        }
        foreach ($this->evidences->keep($byJoin) as $changed) {
            $this->joins->reopen($changed);
        }
    }

    /** Kinds alone, from the joins that are known already. */
    public function refresh(int $source): void
    {
        [$catalog, $ids] = $this->graph->catalog($source);
        $this->kinds($source, $catalog, $ids);
    }

    /** @param array<int, int> $ids */
    private function kinds(int $source, Catalog $catalog, array $ids): void
    {
        $at = array_flip($ids);
        $links = [];
        foreach ($this->graph->links($source) as $link) {
            if (isset($at[$link->from], $at[$link->to])) {
                $links[] = new Link(
                    $link->id,
                    $at[$link->from],
                    $at[$link->to],
                    $link->pairs,
                    $link->cardinality,
                    $link->certainty,
                    $link->where,
                    $link->orphans,
                );
            }
        }
        $rows = [];
        foreach ($this->profiles->all(array_values($ids)) as $entry => $profiled) {
            if (isset($at[$entry])) {
                $rows[$at[$entry]] = $profiled->profile->rows;
            }
        }
        $guesses = [];
        foreach ((new Kinds($catalog, $links, $rows))->all() as $i => $guess) {
            $guesses[$ids[$i]] = $guess;
        }
        $this->roles->keep($guesses);
    }
}
