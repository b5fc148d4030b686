<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

use Fasti\Core\Model\Aggregate\Computed;

/** A trial with its names looked up in the model. */
final class Question
{
    /** @var list<Measure> as asked for */
    public array $measures = [];
    /** Measures that one may be computed of, one through another; more would be no expression that anybody reads. */
    private const MOST_PARTS = 200;
    private const MOST_BACK = 1000;
    private const MOST_FIGURES = 40;
    private const MOST_CONDITIONS = 500;
    /** Brackets within brackets. */
    private const DEEPEST = 20;

    /** @var list<Measure> those and what others are computed of, none of them computed of measures */
    public array $base = [];
    /** @var list<Level> */
    public array $by = [];
    /** @var list<Figure> what stands beside measures, each once */
    public array $figures = [];
    /** @var list<array{Level|Measure|Figure, bool}> what rows stand in order by, and whether downwards */
    public array $order = [];
    /** @var list<array{Measure|Figure, Condition}> conditions on figures of the answer */
    public array $having = [];
    /** @var list<Level> so many rows are shown for each of their values */
    public array $each = [];
    private int $expanded = 0;
    /** Set by the planner where something is looked at beside what was before. */
    public ?Shift $shift = null;
    /** @var list<Condition> made while it was written, so that no other takes their identity */
    public array $kept = [];
    /** @var list<Branch> set by the planner */
    public array $branches = [];
    /** @var list<Condition> on rows */
    private array $onRows = [];
    /** @var array<int, Level> by the identity of the condition */
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
        foreach ($trial->figures as $figure) {
            $this->figure($figure);
        }
        if (\count($this->figures) > self::MOST_FIGURES) {
            throw new ModelError(\sprintf('An answer has %d figures beside its measures at the most.', self::MOST_FIGURES));
        }
        if ([] === $this->measures && [] === $this->figures) {
            throw new ModelError('Nothing is asked for yet. Choose a measure first.');
        }
        foreach ($trial->by as $name) {
            $level = $names->attribute($name);
            if (!\in_array($level, $this->by, false)) {
                $this->by[] = $level;
            }
        }
        foreach ($trial->where as $condition) {
            $this->condition($condition);
        }
        $this->ordered();
        $this->limited();
        foreach ($this->needed() as $measure) {
            $this->expand($measure, []);
        }
    }

    private function condition(Condition $condition): void
    {
        $names = $this->ground->names();
        $what = $condition->test->isOfOthers() || $condition->test->isElsewhere() ? null
            : ($names->measure($condition->what) ?? $this->figureNamed($condition->what));
        if (null !== $what) {
            if ($what instanceof Measure && !\in_array($what, $this->measures, true)) {
                throw new ModelError(\sprintf('The condition on “%s” is one on the answer, so it has to be asked for.', $what->name));
            }
            $this->having[] = [$what, $condition];
        } else {
            $this->onRows[] = $condition = (new Coding($this->ground))->coded($condition);
            $this->named($condition);
        }
        foreach ($condition->facts as $fact) {
            if (null === $this->ground->roleNamed($fact)) {
                throw new ModelError(
                    \sprintf('The condition on “%s” is to hold for “%s”, which is no role of the model.', $condition->what, $fact),
                );
            }
        }
    }

    private function ordered(): void
    {
        $names = $this->ground->names();
        foreach ($this->trial->order as $sorting) {
            $what = $names->measure($sorting->what) ?? $this->figureNamed($sorting->what) ?? $names->attribute($sorting->what);
            $asked = $what instanceof Figure || ($what instanceof Measure ? \in_array($what, $this->measures, true) : \in_array($what, $this->by, false));
            if (!$asked) {
                throw new ModelError(\sprintf('The answer cannot stand in order of “%s”, since it is not asked for.', $sorting->what));
            }
            $this->order[] = [$what, $sorting->descending];
        }
    }

    /** How many rows are shown, and of what. */
    private function limited(): void
    {
        $trial = $this->trial;
        $names = $this->ground->names();
        if (null !== $trial->limit && $trial->limit < 1) {
            throw new ModelError('The number of rows to show must be 1 or more.');
        }
        foreach ($trial->each as $name) {
            $this->each[] = $level = $names->attribute($name);
            if (!\in_array($level, $this->by, false)) {
                throw new ModelError(\sprintf('So many rows for each “%s” are shown where the answer is split by it. Ask by it as well.', $name));
            }
        }
        if (null === $trial->limit && ($trial->others || [] !== $trial->each)) {
            throw new ModelError('Say how many rows are to be shown: the first 5 of each, or the first 5 and the others.');
        }
    }

    /** @return list<Measure> all that is shown or stands behind what is shown */
    public function needed(): array
    {
        $needed = $this->measures;
        foreach ($this->figures as $figure) {
            $measure = $this->ground->names()->measureNamed($figure->measure);
            if (!\in_array($measure, $needed, true)) {
                $needed[] = $measure;
            }
        }

        return $needed;
    }

    /** One that is asked for twice is shown once. */
    private function figure(Figure $figure): void
    {
        $names = $this->ground->names();
        $within = array_map(static fn (string $one): string => $names->of($names->attribute($one)), $figure->within);
        $along = '' === $figure->along ? '' : $names->of($names->attribute($figure->along));
        if ($figure->as->isBefore() && ($figure->many < 1 || null === $figure->span)) {
            throw new ModelError(\sprintf('Say how long before “%s” is to be looked at: 1 year before, 3 months before.', $figure->measure));
        }
        if ($figure->as->isBefore() && $figure->many > self::MOST_BACK) {
            throw new ModelError(\sprintf('“%s” can be looked at %s spans before at the most.', $figure->measure, number_format(self::MOST_BACK)));
        }
        $named = new Figure($names->measureNamed($figure->measure)->name, $figure->as, $within, $along, $figure->many, $figure->span);
        if (!\in_array($named, $this->figures, false)) {
            $this->figures[] = $named;
        }
    }

    private function figureNamed(string $text): ?Figure
    {
        foreach ($this->figures as $figure) {
            if (ModelNames::folded($figure->inWords()) === ModelNames::folded($text)) {
                return $figure;
            }
        }

        return null;
    }

    /** Whether rows are put together in the answer once more, beyond what is taken of facts. */
    public function isLayered(): bool
    {
        return [] !== $this->figures || [] !== $this->each || $this->trial->others;
    }

    /** @return list<Measure|Figure> what is shown, in the order of the answer */
    public function shown(): array
    {
        $shown = [];
        foreach ($this->measures as $measure) {
            $shown[] = $measure;
            foreach ($this->figures as $figure) {
                if ($figure->measure === $measure->name) {
                    $shown[] = $figure;
                }
            }
        }
        foreach ($this->figures as $figure) {
            if (!\in_array($figure, $shown, true)) {
                $shown[] = $figure;
            }
        }

        return $shown;
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
            throw new ModelError(\sprintf('The measure “%s” is made of itself: %s.', $measure->name, implode(', ', [...$within, $measure->name])));
        }
        if (++$this->expanded > self::MOST_PARTS) {
            throw new ModelError(\sprintf('“%s” is computed of more than %d measures, one through another. Make it of fewer.', $within[0] ?? $measure->name,
                self::MOST_PARTS));
        }
        if ($measure->aggregation instanceof Computed) {
            foreach ($this->ground->formulaOfMeasures($measure->expression)->faults as $fault) {
                throw new ModelError(\sprintf('The measure “%s” is not understood: %s', $measure->name, $fault->inWords($measure->expression)));
            }
        }
        $parts = $this->ground->model->partsOf($measure);
        if ([] === $parts) {
            throw new ModelError(\sprintf('“%s” is computed of no measure. Name those that it is made of.', $measure->name));
        }
        foreach ($parts as $name) {
            $part = $this->ground->names()->measure($name)
                ?? throw new ModelError(\sprintf('“%s” is made of “%s”, which is no measure of the model.', $measure->name, $name));
            $this->expand($part, [...$within, $measure->name]);
        }
    }

    /** Looks up what a condition on rows names. */
    private function named(Condition $condition, int $depth = 0): void
    {
        if ($depth > self::DEEPEST) {
            throw new ModelError(\sprintf('Conditions stand within one another more than %d deep. Say it in fewer.', self::DEEPEST));
        }
        $names = $this->ground->names();
        if ($condition->test->isElsewhere()) {
            foreach ([$condition->what, ...$condition->values] as $role) {
                if (null === $this->ground->roleNamed($role)) {
                    throw new ModelError(\sprintf('The condition “%s” names “%s”, which is no role of the model.', ConditionText::of($condition), $role));
                }
            }
        } elseif (!$condition->test->isOfOthers()) {
            $figure = $names->measure($condition->what) ?? $this->figureNamed($condition->what);
            if (null !== $figure) {
                throw new ModelError(\sprintf(
                    '“%s” is a figure of the answer: a condition on it stands by itself, and not within “or”, brackets or “has”.',
                    $condition->what,
                ));
            }
            $this->levels[spl_object_id($condition)] = $names->attribute($condition->what);
        }
        if (\count($this->levels) > self::MOST_CONDITIONS) {
            throw new ModelError(\sprintf('A question has %d conditions at the most.', self::MOST_CONDITIONS));
        }
        foreach ($condition->of as $part) {
            $this->named($part, $depth + 1);
        }
    }

    /** The same condition, as one on a row of a link. What is not so of any is not so: its opposite holds where it holds of none. */
    public function elsewhere(Condition $condition, Sharing $sharing): Condition
    {
        $opposite = \in_array($condition->test, [Test::IsNot, Test::None], true);
        $test = match ($condition->test) {
            Test::IsNot => Test::Is,
            Test::None => Test::Given,
            default => $condition->test,
        };
        $there = new Condition($condition->what, $test, $condition->values);
        $this->levels[spl_object_id($there)] = $this->level($condition);

        return $this->kept[] = new Condition($sharing->of, $opposite ? Test::HasNo : Test::Has, [$sharing->link], of: [$there]);
    }

    public function level(Condition $condition): Level
    {
        return $this->levels[spl_object_id($condition)] ?? throw new \LogicException('It is no condition on an attribute.');
    }

    /** @return list<Condition> those on rows that hold for a fact */
    public function conditionsOf(string $fact): array
    {
        $all = [];
        foreach ($this->onRows as $condition) {
            $facts = array_map(fn (string $one): ?string => $this->ground->roleNamed($one), $condition->facts);
            if ([] === $facts || \in_array($fact, $facts, true)) {
                $all[] = $condition;
            }
        }

        return $all;
    }

    /** @return list<Level> attributes that any condition on rows is about, here or elsewhere */
    public function conditioned(): array
    {
        return array_values($this->levels);
    }

    /** @return list<Level> attributes that conditions on rows of a fact are about, but for what stands elsewhere */
    public function limitedBy(string $fact): array
    {
        $levels = [];
        foreach ($this->conditionsOf($fact) as $condition) {
            foreach ($condition->leaves() as $leaf) {
                if (!$leaf->test->isElsewhere()) {
                    $levels[] = $this->level($leaf);
                }
            }
        }

        return $levels;
    }

    /** @return list<string> */
    public function facts(): array
    {
        return array_values(array_unique(array_map(static fn (Measure $measure): string => $measure->fact, $this->base)));
    }

    /** @return list<Measure> what a measure is computed of, none of it computed of measures, each once */
    public function parts(Measure $measure): array
    {
        if (!$measure->aggregation->isOfMeasures()) {
            return [$measure];
        }
        $names = $this->ground->names();
        $parts = [];
        foreach ($this->ground->model->partsOf($measure) as $name) {
            foreach ($this->parts($names->measureNamed($name)) as $part) {
                $parts[$part->name] = $part;
            }
        }

        return array_values($parts);
    }

    /**
     * The same, split by less: by nothing for the total, by what comes first for a subtotal.
     *
     * @param list<string> $measures
     * @param list<Figure> $figures  those that mean something of it
     * @param list<Level>  $by
     */
    public function whole(array $measures, array $figures = [], array $by = []): self
    {
        return new self($this->ground, $this->trial->with(
            measures: $measures, by: array_map($this->ground->names()->of(...), $by), order: [], limit: null, where: $this->onRows, figures: $figures,
            each: [], others: false, subtotals: false,
        ));
    }
}
