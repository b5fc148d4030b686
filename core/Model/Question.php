<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

/** A trial with its names looked up in the model. */
final class Question
{
    /** @var list<Measure> as asked for */
    public array $measures = [];
    /** @var list<Measure> those and what ratios are made of, none of them a ratio */
    public array $base = [];
    /** @var list<Level> */
    public array $by = [];
    /** @var list<array{Level|Measure, bool}> what rows stand in order by, and whether downwards */
    public array $order = [];
    /** @var list<array{Measure, Condition}> conditions on figures of the answer */
    public array $figures = [];
    /** @var array<string, array{string, string}> ratios that are asked for or are part of such, with their parts */
    public array $ratios = [];
    /** @var array<int, Level> by the number of the condition */
    private array $levels = [];

    /** @throws ModelError */
    public function __construct(private readonly Ground $ground, public readonly Trial $trial)
    {
        $names = $ground->names();
        foreach ($trial->measures as $name) {
            $measure = $names->measureNamed($name);
            if (!\in_array($measure, $this->measures, true)) {
                $this->measures[] = $measure;
            }
        }
        if ([] === $this->measures) {
            throw new ModelError('Nothing is asked for yet. Choose a measure first.');
        }
        foreach ($trial->by as $name) {
            $level = $names->attribute($name);
            if (!\in_array($level, $this->by, false)) {
                $this->by[] = $level;
            }
        }
        foreach ($trial->where as $i => $condition) {
            $measure = $names->measure($condition->what);
            if (null !== $measure) {
                if (!\in_array($measure, $this->measures, true)) {
                    throw new ModelError(
                        \sprintf('The condition on “%s” is one on the answer, so it has to be asked for.', $measure->name),
                    );
                }
                $this->figures[] = [$measure, $condition];
            } else {
                $this->levels[$i] = $names->attribute($condition->what);
            }
            foreach ($condition->facts as $fact) {
                if (null === $ground->roleNamed($fact)) {
                    throw new ModelError(
                        \sprintf('The condition on “%s” is to hold for “%s”, which is no role of the model.', $condition->what, $fact),
                    );
                }
            }
        }
        foreach ($trial->order as $sorting) {
            $what = $names->measure($sorting->what) ?? $names->attribute($sorting->what);
            $asked = $what instanceof Measure ? \in_array($what, $this->measures, true) : \in_array($what, $this->by, false);
            if (!$asked) {
                throw new ModelError(\sprintf('The answer cannot stand in order of “%s”, since it is not asked for.', $sorting->what));
            }
            $this->order[] = [$what, $sorting->descending];
        }
        if (null !== $trial->limit && $trial->limit < 1) {
            throw new ModelError('The number of rows to show must be 1 or more.');
        }
        foreach ($this->measures as $measure) {
            $this->expand($measure, []);
        }
    }

    /** @param list<string> $within */
    private function expand(Measure $measure, array $within): void
    {
        if (!$measure->aggregation->isOfMeasures()) {
            if (!\in_array($measure, $this->base, true)) {
                $this->base[] = $measure;
            }

            return;
        }
        if (\in_array($measure->name, $within, true)) {
            throw new ModelError(\sprintf('The ratio “%s” is made of itself: %s.', $measure->name, implode(', ', [...$within, $measure->name])));
        }
        $this->ratios[$measure->name] = [$measure->of, $measure->by];
        foreach ([$measure->of, $measure->by] as $name) {
            $part = $this->ground->names()->measure($name)
                ?? throw new ModelError(\sprintf('The ratio “%s” is made of “%s”, which is no measure of the model.', $measure->name, $name));
            $this->expand($part, [...$within, $measure->name]);
        }
    }

    public function level(Condition $condition): Level
    {
        $i = array_search($condition, $this->trial->where, true);

        return $this->levels[$i] ?? throw new \LogicException('It is a condition on a figure.');
    }

    /** @return list<Condition> those on rows that hold for a fact */
    public function conditionsOf(string $fact): array
    {
        $all = [];
        foreach (array_keys($this->levels) as $i) {
            $condition = $this->trial->where[$i];
            $facts = array_map(fn (string $one): ?string => $this->ground->roleNamed($one), $condition->facts);
            if ([] === $facts || \in_array($fact, $facts, true)) {
                $all[] = $condition;
            }
        }

        return $all;
    }

    /** @return list<string> */
    public function facts(): array
    {
        return array_values(array_unique(array_map(static fn (Measure $measure): string => $measure->fact, $this->base)));
    }

    /** @return list<Measure> what a measure is made of, none of it a ratio */
    public function parts(Measure $measure): array
    {
        if (!$measure->aggregation->isOfMeasures()) {
            return [$measure];
        }
        $names = $this->ground->names();

        return [...$this->parts($names->measureNamed($measure->of)), ...$this->parts($names->measureNamed($measure->by))];
    }

    /**
     * The same, not split by anything.
     *
     * @param list<string> $measures
     */
    public function whole(array $measures): self
    {
        $where = [];
        foreach (array_keys($this->levels) as $i) {
            $where[] = $this->trial->where[$i];
        }

        return new self($this->ground, $this->trial->with(measures: $measures, by: [], order: [], limit: null, where: $where));
    }
}
