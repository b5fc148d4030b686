<?php

declare(strict_types=1);

namespace Fasti\Lineage;

use Fasti\Register\FieldAt;
use Fasti\Register\Fields;

/**
 * Follows fields down to where they come from and up to what is made of them, and says what breaks. Where conditions are
 * followed too, the number of a view below zero stands for the rows that it has.
 */
final readonly class Lineages
{
    private const MOST = 600;

    public function __construct(private ReadingStore $store, private Origins $origins, private Fields $fields)
    {
    }

    /**
     * @param list<int> $starts
     * @param bool      $conditions follow those too that only decide about a field
     */
    public function down(array $starts, bool $conditions = false): Trace
    {
        $said = $this->origins->said();

        return $this->trace($starts, function (array $front) use ($said, $conditions): iterable {
            foreach ($conditions ? $this->rowsOf($front) : [] as $edge) {
                yield [$edge['from'], -$edge['entry'], Part::Condition->value, $edge['from']];
            }
            foreach ($this->store->behind($front) as $edge) {
                if (Part::Value->value === $edge['part'] || ($conditions && Part::Condition->value === $edge['part'])) {
                    yield [$edge['from'], $edge['field'], $edge['part'], $edge['from']];
                }
            }
            foreach ($front as $field) {
                if (isset($said[$field])) {
                    yield [$said[$field], $field, 'said', $said[$field]];
                }
            }
            foreach ($this->origins->alike($front) as $pair) {
                if (\in_array($pair['to'], $front, true)) {
                    yield [$pair['from'], $pair['to'], 'alike', $pair['from']];
                }
            }
        });
    }

    /**
     * @param list<int> $starts
     * @param bool      $proposed follow those too that only seem to be filled from one another
     */
    public function up(array $starts, bool $conditions = false, bool $proposed = true): Trace
    {
        $filled = [];
        foreach ($this->origins->said() as $field => $of) {
            $filled[$of][] = $field;
        }

        return $this->trace($starts, function (array $front) use ($filled, $conditions, $proposed): iterable {
            foreach ($this->store->dependingOn($front) as $edge) {
                if (0 === $edge['field'] && $conditions && Part::Condition->value === $edge['part']) {
                    yield [$edge['from'], -$edge['entry'], $edge['part'], -$edge['entry']];
                } elseif ($edge['field'] > 0 && (Part::Value->value === $edge['part'] || ($conditions && Part::Condition->value === $edge['part']))) {
                    yield [$edge['from'], $edge['field'], $edge['part'], $edge['field']];
                }
            }
            foreach ($front as $field) {
                foreach ($filled[$field] ?? [] as $other) {
                    yield [$field, $other, 'said', $other];
                }
            }
            foreach ($proposed ? $this->origins->alike($front) : [] as $pair) {
                if (\in_array($pair['from'], $front, true)) {
                    yield [$pair['from'], $pair['to'], 'alike', $pair['to']];
                }
            }
        });
    }

    /**
     * What decides which rows the views have that these fields belong to.
     *
     * @param list<int> $fields
     *
     * @return list<array{entry: int, field: int, from: int, part: string}>
     */
    private function rowsOf(array $fields): array
    {
        $views = array_values(array_unique(array_map(static fn (FieldAt $at): int => $at->entry, $this->fields->placed($fields))));

        return array_values(array_filter(
            $this->store->behindViews($views),
            static fn (array $edge): bool => 0 === $edge['field'] && Part::Condition->value === $edge['part'],
        ));
    }

    /**
     * @param list<int>                                               $starts
     * @param callable(list<int>): iterable<array{int, int, string, int}> $next ties of the front: from, to, part, and which of them is new
     */
    private function trace(array $starts, callable $next): Trace
    {
        $trace = new Trace($starts);
        $front = $starts;
        for ($away = 1; [] !== $front; ++$away) {
            $new = [];
            foreach ($next($front) as [$from, $to, $part, $other]) {
                if (!isset($trace->fields[$other])) {
                    if (\count($trace->fields) >= self::MOST) {
                        $trace->cut = true;
                        continue;
                    }
                    $trace->fields[$other] = $away;
                    $new[] = $other;
                }
                $trace->tie($from, $to, $part);
            }
            $front = $new;
        }

        return $trace;
    }

    /**
     * The views that no longer work, or say something else, when fields change or go: those that name one of them, and those
     * that name such a view. Where two sources meet it is the filling that fails.
     *
     * @param list<int> $fields
     *
     * @return array<int, Broken> by view, the nearest first
     */
    public function breaks(array $fields): array
    {
        $broken = [];
        $front = $fields;
        for ($away = 1; [] !== $front; ++$away) {
            $next = [];
            foreach ($this->store->dependingOn($front) as $edge) {
                $view = $edge['entry'];
                if (!isset($broken[$view])) {
                    $broken[$view] = new Broken($view, $away);
                    $next[] = $view;
                }
                if ($broken[$view]->away === $away) {
                    $broken[$view]->by($edge['from'], $edge['field'], Part::from($edge['part']));
                }
            }
            // One view that fails takes all its fields along.
            $front = array_merge([], ...array_map(array_values(...), array_values($this->fields->ids($next))));
        }

        return $broken;
    }

    /**
     * The one field that each field of a view is made of, where there is one only.
     *
     * @param list<int> $views entries
     *
     * @return array<int, int> field of a view → field
     */
    public function single(array $views): array
    {
        $of = [];
        foreach ([] === $views ? [] : $this->store->behindViews($views) as $edge) {
            if (Part::Value->value === $edge['part'] && 0 !== $edge['field']) {
                $of[$edge['field']][$edge['from']] = true;
            }
        }

        return array_map(static fn (array $from): int => (int) array_key_first($from), array_filter($of, static fn (array $from): bool => 1 === \count($from)));
    }
}
