<?php

declare(strict_types=1);

namespace Fasti\Lineage;

use Fasti\Register\DossierPart;
use Fasti\Register\EntryAt;
use Fasti\Register\EntryStore;
use Fasti\Register\EntryView;
use Fasti\Register\FieldAt;
use Fasti\Register\Fields;
use Fasti\Register\FieldView;
use Fasti\Register\Slot;
use Fasti\Text\SaidStore;

/**
 * What is known of the lineage of entries.
 *
 * @implements DossierPart<Traced>
 */
final readonly class LineagePart implements DossierPart
{
    public function __construct(
        private ReadingStore $store,
        private Fields $fields,
        private EntryStore $entries,
        private Retirements $retirements,
        private Origins $origins,
        private SaidStore $said,
    ) {
    }

    public function gives(): string
    {
        return Traced::class;
    }

    public function of(array $entries): array
    {
        $ids = array_map(static fn (EntryView $entry): int => $entry->id, $entries);
        $of = [];
        foreach ($entries as $entry) {
            foreach ($entry->fields as $field) {
                $of[$field->id] = $entry->id;
            }
        }
        $readings = $this->store->of($ids);
        $behind = $this->store->behindViews($ids);
        $depending = $this->store->dependingOn(array_keys($of));
        $origins = $this->said->of('field', array_keys($of), [Origins::PROPERTY]);
        $filled = array_filter($this->origins->said(), static fn (int $from, int $to): bool => isset($of[$from]) || isset($of[$to]), \ARRAY_FILTER_USE_BOTH);
        $placed = $this->fields->placed([
            ...array_column($behind, 'from'), ...array_column($depending, 'field'), ...array_keys($filled), ...array_values($filled),
        ]);
        $views = $this->entries->placed(array_values(array_unique(array_column($depending, 'entry'))));
        $traces = array_map(static fn (): FieldTrace => new FieldTrace(), $of);
        [$conditions, $users] = $this->edges(
            $behind,
            $depending,
            $traces,
            $placed,
            array_map(static fn (EntryAt $view): string => $view->place->name, $views),
            $of,
        );
        $this->mark($traces, $filled, $placed);
        $retired = $this->retirements->of('entry', $ids);
        $given = [];
        foreach ($entries as $entry) {
            $reading = $readings[$entry->id] ?? null;
            $own = array_intersect_key($traces, array_flip(array_map(static fn (FieldView $field): int => $field->id, $entry->fields)));
            foreach ($entry->fields as $field) {
                $own[$field->id]->expression = $reading?->expression($field->name);
                $own[$field->id]->origin = $origins[$field->id][Origins::PROPERTY] ?? '';
            }
            $known = null !== $reading || isset($users[$entry->id]) || isset($retired[$entry->id]) || 'retired' === $entry->standing
                || [] !== array_filter($own, static fn (FieldTrace $trace): bool => $trace->isKnown());
            if (!$known) {
                continue;
            }
            [$places, $fieldIds] = self::named($behind, $entry->id, $placed);
            $given[$entry->id] = new Traced(
                $reading,
                $own,
                $places,
                $fieldIds,
                $conditions[$entry->id] ?? [],
                $users[$entry->id] ?? [],
                $retired[$entry->id] ?? new Retirement(false),
            );
        }

        return $given;
    }

    /**
     * What is filled from what, and what is retired.
     *
     * @param array<int, FieldTrace> $traces
     * @param array<int, int>        $filled field → where its values come from
     * @param array<int, FieldAt>    $placed
     */
    private function mark(array $traces, array $filled, array $placed): void
    {
        foreach ($filled as $to => $from) {
            if (isset($traces[$to], $placed[$from])) {
                $traces[$to]->filledFrom = $placed[$from];
            }
            if (isset($traces[$from], $placed[$to])) {
                $traces[$from]->fills[] = $placed[$to];
            }
        }
        foreach ($this->retirements->of('field', array_keys($traces)) as $field => $retirement) {
            $traces[$field]->retirement = $retirement;
        }
    }

    /**
     * @param list<array{entry: int, field: int, from: int, part: string}> $behind
     * @param list<array{entry: int, field: int, from: int, part: string}> $depending
     * @param array<int, FieldTrace>                                       $traces
     * @param array<int, FieldAt>                                          $placed
     * @param array<int, string>                                           $views
     * @param array<int, int>                                              $of     field → entry
     *
     * @return array{array<int, list<FieldAt>>, array<int, array<int, string>>} what decides about rows of each entry, and the views made of it
     */
    private function edges(array $behind, array $depending, array $traces, array $placed, array $views, array $of): array
    {
        $conditions = $users = [];
        foreach ($behind as $edge) {
            $from = $placed[$edge['from']] ?? null;
            if (null === $from) {
                continue;
            }
            if (0 === $edge['field']) {
                if (Part::Condition->value === $edge['part']) {
                    $conditions[$edge['entry']][] = $from;
                }
            } elseif (isset($traces[$edge['field']])) {
                if (Part::Value->value === $edge['part']) {
                    $traces[$edge['field']]->values[] = $from;
                } else {
                    $traces[$edge['field']]->conditions[] = $from;
                }
            }
        }
        foreach ($depending as $edge) {
            $users[$of[$edge['from']]][$edge['entry']] = $views[$edge['entry']] ?? '';
            if ($edge['field'] > 0 && Part::Value->value === $edge['part'] && isset($placed[$edge['field']])) {
                $traces[$edge['from']]->made[] = $placed[$edge['field']];
            } elseif (Part::Value->value !== $edge['part']) {
                $traces[$edge['from']]->deciding[$edge['entry']] = $views[$edge['entry']] ?? '';
            }
        }

        return [$conditions, $users];
    }

    /**
     * @param list<array{entry: int, field: int, from: int, part: string}> $behind
     * @param array<int, FieldAt>                                          $placed
     *
     * @return array{array<string, int>, array<string, array{int, int}>}
     */
    private static function named(array $behind, int $entry, array $placed): array
    {
        $places = $fields = [];
        foreach ($behind as $edge) {
            $from = $edge['entry'] === $entry ? $placed[$edge['from']] ?? null : null;
            if (null !== $from) {
                $places[$from->place->place()->key()] = $from->entry;
                $fields[$from->place->key()] = [$from->entry, $from->id];
            }
        }

        return [$places, $fields];
    }

    public function partials(): array
    {
        return [
            Slot::Head->value => 'lineage/_retired.html.twig',
            Slot::FieldTags->value => 'lineage/_tags.html.twig',
            Slot::FieldMore->value => 'lineage/_field.html.twig',
            Slot::FieldFacts->value => 'lineage/_facts.html.twig',
            Slot::Count->value => 'lineage/_count.html.twig',
            Slot::Below->value => 'lineage/_below.html.twig',
        ];
    }
}
