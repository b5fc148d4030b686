<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

use Fasti\Core\Dialect\AskSql;

/**
 * Which attributes are looked up late: the rows of a big fact are grouped by the key that leads to a dimension, and only the few groups are
 * joined to it. That is so for what people know a row by (its label), of which there is one to a key, or nearly; grouping by the key of
 * anything else could make more groups than there are rows to save. (Eager aggregation: W. P. Yan, P.-Å. Larson, “Eager aggregation and lazy
 * aggregation”, 1995.)
 */
final readonly class Late
{
    /** Rows of a fact from which on it is worth a longer query. */
    private const BIG = 100000;

    public function __construct(private Ground $ground, private Question $question, private AskSql $sql)
    {
    }

    /** @return list<Level> */
    public function levels(Branch $branch): array
    {
        $rows = $this->ground->table($branch->fact)->rowEstimate ?? 0;
        if ('' !== $branch->special || $rows < self::BIG) {
            return [];
        }
        foreach ($branch->measures as $measure) {
            if (null === $measure->aggregation->inParts($this->sql, 'x', '0')) {
                return [];
            }
        }
        $used = $this->usedByOthers($branch);
        $late = [];
        foreach ($this->question->by as $level) {
            $others = $used;
            foreach ($this->question->by as $other) {
                if ($other != $level) {
                    $others += $this->onTheWay($branch->fact, $other->role);
                }
            }
            if (!isset($others[$level->role]) && $this->isKnownBy($level, $branch->fact)) {
                $late[] = $level;
            }
        }

        return $late;
    }

    /** Whether people know the rows of its role by an attribute, and one step by a key leads there. */
    private function isKnownBy(Level $level, string $fact): bool
    {
        $dimension = $this->ground->model->dimension($this->ground->role($level->role));
        $attribute = $this->ground->model->attribute($level);
        $route = $this->ground->ways()->between($fact, $level->role)[0] ?? [];
        if ([] === $route || null === $attribute || '' !== trim($attribute->sorted) || $level->attribute !== $dimension->label) {
            return false;
        }
        $last = $route[\count($route) - 1];
        $fields = $this->ground->formula($level->role, $attribute->expression)->fields;

        return $last->proven && [] === $last->join->where && [] === array_filter($fields, static fn (FieldUse $use): bool => $use->role !== $level->role);
    }

    /** @return array<string, true> roles that conditions and measures need */
    private function usedByOthers(Branch $branch): array
    {
        $used = [];
        foreach ($branch->conditions as $condition) {
            foreach ($condition->leaves() as $leaf) {
                if ($leaf->test->isElsewhere()) {
                    $used += [$leaf->what => true] + $this->onTheWay($branch->fact, (string) $this->ground->roleNamed($leaf->what));
                    continue;
                }
                $level = $this->question->level($leaf);
                $used += $this->onTheWay($branch->fact, $level->role) + $this->readBy(
                    $branch->fact,
                    $level->role,
                    $this->ground->model->attribute($level)->expression ?? '',
                );
            }
        }
        foreach ($branch->measures as $measure) {
            $used += $this->readBy($branch->fact, $branch->fact, $measure->expression) + $this->readBy($branch->fact, $branch->fact, $measure->filter);
        }

        return $used;
    }

    /** @return array<string, true> */
    private function readBy(string $fact, string $role, string $text): array
    {
        $used = [];
        foreach ('' === trim($text) ? [] : $this->ground->formula($role, $text)->fields as $use) {
            $used += $use->role === $fact ? [] : $this->onTheWay($fact, $use->role);
        }

        return $used;
    }

    /** @return array<string, true> */
    private function onTheWay(string $from, string $to): array
    {
        $roles = [];
        foreach ($this->ground->ways()->between($from, $to) as $route) {
            foreach ($route as $way) {
                $roles[$way->to()] = true;
            }
        }

        return $roles;
    }
}
