<?php

declare(strict_types=1);

namespace Fasti\Join;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Dialect\Dialect;
use Fasti\Core\Join\Observing;
use Fasti\Core\Privacy\Privacy;
use Fasti\Core\Survey\Progress;
use Fasti\Core\Survey\Rows;
use Fasti\Core\Survey\SourceError;
use Fasti\Profile\Profiles;
use Fasti\Register\EntryKnown;
use Fasti\Register\Fields;
use Fasti\Register\Joins;
use Fasti\Register\JoinView;
use Fasti\Source\Source;
use Symfony\Contracts\EventDispatcher\EventDispatcherInterface;

/** Asks the data about joins: examples, and how many rows stand at each end. Each is kept as soon as it is known. */
final readonly class JoinLook
{
    public function __construct(
        private SourceGraph $graph,
        private Joins $joins,
        private JoinEvidences $evidences,
        private Profiles $profiles,
        private Fields $fields,
        private EventDispatcherInterface $events,
    ) {
    }

    /** @return list<string> what could not be asked, in sentences */
    public function all(Source $source, Rows $rows, Dialect $dialect, Progress $progress): array
    {
        [$catalog, $ids] = $this->graph->catalog($source->id());
        $at = array_flip($ids);
        $closed = $this->closed($catalog, $ids);
        $observing = new Observing($rows, $dialect);
        $examples = new Examples($rows, $dialect);
        $notes = [];
        $joins = array_values(
            array_filter(
                $this->joins->ofSource($source->id()),
                static fn (JoinView $join): bool => isset($at[$join->fromId], $at[$join->toId]) && [] !== $join->pairs,
            ),
        );
        foreach ($joins as $done => $join) {
            $from = $catalog->tables[$at[$join->fromId]];
            $to = $catalog->tables[$at[$join->toId]];
            $progress->at(\sprintf('Counting the rows of %s and %s', $from->name, $to->name), $done, \count($joins));
            $pairs = $join->pairs;
            if ([] === $pairs || null !== $from->column($pairs[0][0]) && $dialect->typeOf($from->column($pairs[0][0]))->array) {
                continue;
            }
            $near = $closed[$at[$join->fromId]] ?? [];
            $far = $closed[$at[$join->toId]] ?? [];
            $masked = [] !== array_filter($pairs, static fn (array $pair): bool => isset($near[$pair[0]]) || isset($far[$pair[1]]));
            try {
                $this->evidences->example($join->id, $examples->of($from, $to, $pairs, $join->where, $near, $far));
                if ($join->kind->counts() || ($join->confidence ?? 1.0) >= SourceGraph::LIKELY) {
                    $this->evidences->observe($join->id, $observing->of($from, $to, $pairs, $join->where, $masked));
                }
            } catch (SourceError $e) {
                if (SourceError::LOST === $e->what) {
                    throw $e;
                }
                // A table that is dropped or closed meanwhile, a question that takes too long: the others are asked all the same.
                $notes[] = \sprintf('%s by %s: %s', $from->place(), $join->columns(), $e->inWords());
            }
        }

        foreach (array_unique(array_map(static fn (JoinView $join): int => $join->fromId, $joins)) as $entry) {
            $this->events->dispatch(new EntryKnown($entry));
        }

        return $notes;
    }

    /**
     * @param array<int, int> $ids
     *
     * @return array<int, array<string, true>> table → fields whose values are not asked for
     */
    private function closed(Catalog $catalog, array $ids): array
    {
        $profiles = $this->profiles->all(array_values($ids));
        $closed = [];
        foreach ($catalog->tables as $i => $table) {
            $decisions = $this->fields->decisions($ids[$i]);
            foreach ($table->columns as $column) {
                $seen = ($profiles[$ids[$i]] ?? null)?->field($column->name)?->personal;
                if ('' !== Privacy::known($table->name, $column->name, $seen, $decisions[$column->name] ?? '')) {
                    $closed[$i][$column->name] = true;
                }
            }
        }

        return $closed;
    }
}
