<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Dialect\AskSql;
use Fasti\Core\Wording\Enumeration;

/**
 * Plans how a trial is answered, so that no row can count twice: the rows of each fact are brought to the asked grain on their own, along
 * routes on which each has at most one row on the other side, and only these results are brought together, by the attributes they share.
 * What cannot be answered so is refused, with what could be asked instead.
 */
final class Planner
{
    /** Rows that an answer has at most. */
    public const MOST_ROWS = 10000;

    private readonly AskSql $sql;
    /** @var list<string> */
    private array $reasons = [];
    /** @var list<Offer> */
    private array $offers = [];

    public function __construct(private readonly Ground $ground, private readonly \DateTimeImmutable $today)
    {
        $this->sql = $ground->sql();
    }

    /**
     * @throws Unanswerable
     * @throws ModelError   where a name or a value is not understood
     */
    public function plan(Trial $trial): Plan
    {
        $question = new Question($this->ground, Parameters::filled($trial));
        $this->reasons = [];
        $this->offers = [];
        $branches = $this->branches($question);
        $this->beside($question, $branches);
        $this->refuse();

        $named = (new NamedValues($this->ground, $this->sql))->of($question);

        return $this->composed($question, $branches)->with(
            total: [] === $question->by || $this->picksParts($question) ? null : $this->lesser($question, []),
            subtotals: $this->picksParts($question) ? [] : $this->subtotals($question),
            named: $named,
            notes: $this->notes($question),
        );
    }

    /**
     * What stands beside measures, and how many rows are shown of each: whether it means anything.
     *
     * @param list<Branch> $branches
     */
    private function beside(Question $question, array $branches): void
    {
        $beside = new Beside($this->ground, $question);
        $beside->look($branches);
        $this->reasons = [...$this->reasons, ...$beside->reasons];
        $this->offers = [...$this->offers, ...$beside->offers];
    }

    /** @throws Unanswerable where anything has been found that speaks against it */
    private function refuse(): void
    {
        $reasons = array_values(array_unique($this->reasons));
        if ([] !== $reasons) {
            throw new Unanswerable($reasons, $this->offers);
        }
    }

    /** @return list<Branch> */
    private function branches(Question $question): array
    {
        $branches = [];
        foreach ($question->base as $measure) {
            $this->sound($measure, $question);
            $special = $this->special($measure, $question);
            $key = $measure->fact."\0".('' === $special ? '' : $special.$measure->name);
            $branches[$key] ??= new Branch($measure->fact, $special, $question->conditionsOf($measure->fact));
            $branches[$key]->measures[] = $measure;
        }
        $question->branches = array_values($branches);
        $facts = [];
        foreach ($branches as $branch) {
            $facts[$branch->fact] = true;
            $this->shared($branch, $question);
        }
        foreach (array_map(strval(...), array_keys($facts)) as $fact) {
            foreach ($question->by as $level) {
                $this->reach($fact, $level, $question, null);
            }
            foreach ($question->conditionsOf($fact) as $condition) {
                $this->conditioned($fact, $condition, $condition, $question);
            }
        }

        return array_values($branches);
    }

    /** Of what belongs to several, how it counts among them: whether such a figure can be taken so. */
    private function shared(Branch $branch, Question $question): void
    {
        foreach (null === $this->ground->roleNamed($branch->fact) ? [] : $question->by as $level) {
            $sharing = null;
            foreach ($this->ground->ways()->shared($branch->fact, $level->role)[0] ?? [] as $way) {
                $sharing ??= $way->sharing;
            }
            if (null !== $sharing && null !== $branch->sharing && $sharing != $branch->sharing) {
                $this->reasons[] = \sprintf('%s is shared by %s and by %s: an answer is split by one of them at a time.', ucfirst($branch->fact),
                    $branch->sharing->link, $sharing->link);
            }
            $branch->sharing ??= $sharing;
        }
        $sharing = $branch->sharing;
        if (null === $sharing) {
            return;
        }
        foreach ($branch->measures as $measure) {
            $parted = Shared::InEach !== $sharing->how && null === $measure->aggregation->shared($this->sql, 'x', 'y');
            if ($parted || 'points' === $branch->special) {
                $this->reasons[] = \sprintf('“%s” is not shared among several of %s: %s.', $measure->name, $sharing->link,
                    $parted ? 'only sums and counts are' : 'it stands at instants');
            }
        }
        if (Shared::ByWeight === $sharing->how) {
            $formula = $this->ground->formula($sharing->link, $sharing->weight);
            foreach ($formula->faults as $fault) {
                $this->reasons[] = \sprintf('The weight by which %s is shared is not understood: %s', $sharing->of, $fault->inWords($sharing->weight));
            }
            if ([] === $formula->faults && (!$formula->family->isNumeric()
                || [] !== array_filter($formula->fields, static fn (FieldUse $use): bool => $use->role !== $sharing->link))) {
                $this->reasons[] = \sprintf('The weight by which %s is shared, %s, is no number of %s.', $sharing->of, $sharing->weight, $sharing->link);
            }
        }
        if ($question->trial->others) {
            $this->reasons[] = \sprintf('What is shared by %s is not put together for the others.', $sharing->link);
            $this->offers[] = new Offer('Ask without the others.', $question->trial->with(others: false));
        }
    }

    /**
     * Whether a fact leads to what a condition is about.
     *
     * @param Condition $whole that it is a part of
     */
    private function conditioned(string $fact, Condition $condition, Condition $whole, Question $question): void
    {
        if ($condition->test->isElsewhere()) {
            $elsewhere = new Elsewhere($this->ground, $condition);
            $why = $elsewhere->why($fact);
            if ('' !== $why) {
                $this->reasons[] = $why;
                $this->offers[] = new Offer(\sprintf('Leave out the condition “%s”.', ConditionText::of($whole)), $question->trial->with(
                    where: array_values(array_filter($question->trial->where, static fn (Condition $one): bool => $one !== $whole)),
                ));

                return;
            }
            foreach ($condition->of as $part) {
                $this->conditioned($elsewhere->from(), $part, $whole, $question);
            }
        } elseif ($condition->test->isOfOthers()) {
            foreach ($condition->of as $part) {
                $this->conditioned($fact, $part, $whole, $question);
            }
        } else {
            $this->reach($fact, $question->level($condition), $question, $whole);
        }
    }

    /** @return list<string> how what belongs to several counts, for whoever reads the answer */
    private function notes(Question $question): array
    {
        $notes = [];
        foreach ($question->branches as $branch) {
            $sharing = $branch->sharing;
            foreach ($branch->measures as $measure) {
                if (null === $sharing) {
                    continue;
                }
                $notes[] = \sprintf(
                    Shared::InEach === $sharing->how
                        ? '“%s” is counted in each: a row of %2$s that has several of %3$s counts in all, so that the rows add up to more than the total.'
                        : '“%s” is shared: of a row of %2$s that has several of %3$s each has a part (%4$s), so that the rows add up to the total.',
                    $measure->name, $sharing->of, $sharing->link, $sharing->how->inWords(),
                );
            }
        }

        return $notes;
    }

    /** A measure that can be computed: its fact is there, its expressions are understood, what they read is reached. */
    private function sound(Measure $measure, Question $question): void
    {
        if (null === $this->ground->roleNamed($measure->fact)) {
            $this->reasons[] = \sprintf('The measure “%s” is taken of “%s”, which is no role of the model.', $measure->name, $measure->fact);

            return;
        }
        if (null === $this->ground->table($measure->fact)) {
            $this->reasons[] = \sprintf('The entry of “%s” is not there any more, so “%s” cannot be computed.', $measure->fact, $measure->name);

            return;
        }
        foreach (array_filter([$measure->expression, $measure->filter], static fn (string $text): bool => '' !== trim($text)) as $text) {
            $formula = $this->ground->formula($measure->fact, $text);
            foreach ($formula->faults as $fault) {
                $this->reasons[] = \sprintf('The measure “%s” is not understood: %s', $measure->name, $fault->inWords($text));
            }
            foreach ($formula->fields as $use) {
                if ($use->role !== $measure->fact && 1 !== \count($this->ground->ways()->between($measure->fact, $use->role))) {
                    $this->reasons[] = \sprintf(
                        'The measure “%s” reads %s of “%s”, to which %s leads by no single route.',
                        $measure->name,
                        $use->column,
                        $use->role,
                        $measure->fact,
                    );
                }
            }
        }
        $expression = '' === trim($measure->expression) ? null : $this->ground->formula($measure->fact, $measure->expression);
        if (null === $expression && $measure->aggregation->needsValue()) {
            $this->reasons[] = \sprintf('The measure “%s” says no field of which the %s is taken.', $measure->name, $measure->aggregation->name());
        }
        if (null !== $expression && $measure->aggregation->needsNumbers() && !$expression->family->isNumeric() && [] === $expression->faults) {
            $this->reasons[] = \sprintf(
                'The measure “%s” takes the %s of what is a %s.',
                $measure->name,
                $measure->aggregation->name(),
                FormulaReader::word($expression->family),
            );
        }
        if ('' !== trim($measure->filter) && TypeFamily::Flag !== $this->ground->formula($measure->fact, $measure->filter)->family) {
            $this->reasons[] = \sprintf('The filter of “%s” is no condition.', $measure->name);
        }
        $this->grained($measure, $question);
        $this->additive($measure, $question);
    }

    /** Refuses to count what stands in a parent once for each of its rows here. */
    private function grained(Measure $measure, Question $question): void
    {
        $grain = $this->ground->grains()->of($measure);
        if (null !== $grain->mixed) {
            [$fact, $role] = $grain->mixed;
            $this->reasons[] = \sprintf(
                '“%s” adds what stands in %2$s to what stands in %3$s, where one row of %2$s has several of %3$s: it would count once for each of them.',
                $measure->name,
                $role,
                $fact,
            );
            $this->offers[] = new Offer(\sprintf('Make two measures of it, one of %s and one of %s, and ask for both.', $fact, $role));
        }
        if ([] === $grain->elsewhere) {
            return;
        }
        $role = $grain->elsewhere[0];
        $this->reasons[] = \sprintf(
            'The amounts of “%s” stand in %s, and are taken of %3$s: each would count once for each of its rows of %3$s.',
            $measure->name,
            Enumeration::of($grain->elsewhere),
            $measure->fact,
        );
        foreach ($this->takenOf($role, $measure) as $other) {
            $measures = array_map(static fn (string $name): string => $name === $measure->name ? $other : $name, $question->trial->measures);
            $this->offers[] = new Offer(\sprintf('Ask for “%s”, which is taken of %s.', $other, $role), $question->trial->with(measures: $measures));
        }
        $this->offers[] = new Offer(\sprintf('Make %s a fact, and take “%s” of it.', $role, $measure->name));
    }

    /** @return list<string> measures of a role that are what another is, but for where it is taken of */
    private function takenOf(string $role, Measure $measure): array
    {
        $own = static fn (string $text): string => ModelNames::folded((string) preg_replace('/(?:"[^"]*"|\b[\w ]+)\s*\.\s*(?=["\w])/u', '', $text));
        $alike = array_filter($this->ground->model->measures, static fn (Measure $one): bool => $one->fact === $role
            && $one->aggregation->name() === $measure->aggregation->name() && $own($one->expression) === $own($measure->expression));

        return array_values(array_map(static fn (Measure $one): string => $one->name, $alike));
    }

    /** Refuses to add up what must not be added. */
    private function additive(Measure $measure, Question $question): void
    {
        if (!$measure->aggregation->adds() || Additivity::Additive === $measure->adds) {
            return;
        }
        $why = '' === $measure->reason ? '' : ' ('.$measure->reason.')';
        if (Additivity::NonAdditive === $measure->adds) {
            $key = $this->ground->role($measure->fact)->key;
            $asked = [];
            foreach ($question->by as $level) {
                $field = $this->attribute($level)->field();
                if (null !== $field && $level->role === $measure->fact) {
                    $asked[] = $field->column;
                }
            }
            if ([] === $key || [] !== array_diff($key, $asked)) {
                $this->reasons[] = \sprintf(
                    '“%s” must not be added up%s, and each row of this answer would hold several rows of %s.',
                    $measure->name,
                    $why,
                    $measure->fact,
                );
            }

            return;
        }
        foreach ($measure->notOver as $role) {
            if ([] === $this->ground->ways()->between($measure->fact, $role) || $this->fixed($measure, $role, $question)) {
                continue;
            }
            if (Instead::Nothing !== $measure->instead && $measure->instant?->role === $role) {
                continue;
            }
            $this->reasons[] = \sprintf('“%s” must not be added up over %s%s.', $measure->name, $role, $why);
            $dimension = $this->ground->model->dimension($this->ground->role($role));
            $label = $measure->instant?->role === $role ? $measure->instant->attribute : $dimension->label;
            if (null !== $dimension->attribute($label)) {
                $name = $this->ground->names()->of(new Level($role, $label));
                $this->offers[] = new Offer(\sprintf('Ask by %s as well.', $name), $question->trial->with(by: [...$question->trial->by, $name]));
            }
            $this->offers[] = new Offer(\sprintf(
                'Say at “%s” what stands there instead over %s: the last or the first (of each or of all), the average, the least or the greatest.',
                $measure->name,
                $role,
            ));
        }
    }

    /** Whether each row of the answer, or the whole of it, is of one row of a role alone. */
    private function fixed(Measure $measure, string $role, Question $question): bool
    {
        $dimension = $this->ground->model->dimension($this->ground->role($role));
        $tells = function (Level $level) use ($measure, $role, $dimension): bool {
            if ($level->role !== $role) {
                return false;
            }
            $field = $this->attribute($level)->field();

            return $measure->instant == $level || (null !== $field && ([$field->column] === $dimension->key || $this->ground->unique($role, [$field->column])));
        };
        foreach ($question->by as $level) {
            if ($tells($level)) {
                return true;
            }
        }
        foreach ($question->conditionsOf($measure->fact) as $condition) {
            if (Test::Is === $condition->test && 1 === \count($condition->values) && $tells($question->level($condition))) {
                return true;
            }
        }

        return false;
    }

    /** A measure that needs a query of its own: `ranked` where the engine has no such aggregate, `points` where it stands at instants; '' for none. */
    private function special(Measure $measure, Question $question): string
    {
        if (null === $measure->aggregation->sql($this->sql, 'x')) {
            return 'ranked';
        }
        $instant = $measure->instant;
        $points = Additivity::SemiAdditive === $measure->adds && $measure->aggregation->adds() && Instead::Nothing !== $measure->instead && null !== $instant
            && null !== $this->ground->roleNamed($instant->role) && !$this->fixed($measure, $instant->role, $question);
        if ($points) {
            $this->readable($this->attribute($instant), $instant, ModelNames::full($instant));
        }
        if ($points && 1 !== \count($this->ground->ways()->between($measure->fact, $instant->role))) {
            $this->reasons[] = \sprintf('“%s” stands at %s, to which %s leads by no single route.', $measure->name, ModelNames::full($instant), $measure->fact);
        }

        return $points ? 'points' : '';
    }

    private function attribute(Level $level): Formula
    {
        $attribute = $this->ground->model->attribute($level) ?? throw new ModelError(\sprintf('The model has no attribute “%s”.', ModelNames::full($level)));

        return $this->ground->formula($level->role, $attribute->expression);
    }

    /** Says what of an expression of an attribute is not understood, or is not led to by one route. */
    private function readable(Formula $formula, Level $level, string $name): void
    {
        foreach ($formula->faults as $fault) {
            $this->reasons[] = \sprintf('The attribute “%s” is not understood: %s', $name, $fault->inWords($formula->text));
        }
        foreach ($formula->fields as $use) {
            if ($use->role !== $level->role && 1 !== \count($this->ground->ways()->between($level->role, $use->role))) {
                $this->reasons[] = \sprintf(
                    'The attribute “%s” reads %s of “%s”, to which %s leads by no single route.',
                    $name,
                    $use->column,
                    $use->role,
                    $level->role,
                );
            }
        }
    }

    /** Says why a fact does not lead to an attribute, or leads there in more than one way. */
    private function reach(string $fact, Level $level, Question $question, ?Condition $condition): void
    {
        $name = $this->ground->names()->of($level);
        $formula = $this->attribute($level);
        if ([] === $formula->faults && [] === $formula->fields) {
            $this->reasons[] = \sprintf('The attribute “%s” reads no field, so it splits nothing.', $name);
        }
        $sorted = null === $condition ? trim($this->ground->model->attribute($level)->sorted ?? '') : '';
        foreach ([$formula, ...'' === $sorted ? [] : [$this->ground->formula($level->role, $sorted)]] as $one) {
            $this->readable($one, $level, $name);
        }
        if (null === $this->ground->roleNamed($fact) || null === $this->ground->table($fact)) {
            return;
        }
        $routes = $this->ground->ways()->between($fact, $level->role);
        if (1 === \count($routes)) {
            return;
        }
        $shared = $this->ground->ways()->shared($fact, $level->role);
        if (1 === \count($shared)) {
            return;
        }
        if ([] !== $routes || [] !== $shared) {
            $routes = [...$routes, ...$shared];
            $this->reasons[] = \sprintf(
                'From %s to %s there is more than one route: %s. Their rows may differ.',
                $fact,
                $level->role,
                implode(', or ', array_map(Ways::inWords(...), \array_slice($routes, 0, 3))),
            );
            foreach (\array_slice($routes, 0, 3) as $route) {
                $this->offers[] = new Offer(\sprintf('Let the model take %s, or make two roles of %s.', Ways::inWords($route), $level->role));
            }

            return;
        }
        $this->reasons[] = $this->unreached($fact, $level, $condition);
        $this->offerOthers($fact, $level, $question, $condition);
    }

    private function unreached(string $fact, Level $level, ?Condition $condition): string
    {
        $name = $this->ground->names()->of($level);
        $why = '';
        foreach ($this->ground->ways()->reached($fact) as $role) {
            foreach ($this->ground->ways()->multiplying($role) as $join) {
                $other = $join->from === $role ? $join->to : $join->from;
                if (\in_array($level->role, $this->ground->ways()->reached($other), true)) {
                    $why = \sprintf(' A row of %s has several rows of %s, and each of them would count it again.', $role, $other);
                }
            }
        }

        return null === $condition
            ? \sprintf('%s cannot be split by %s: no join leads from %s to %s.%s', ucfirst($fact), $name, $fact, $level->role, $why)
            : \sprintf('The condition on %s cannot hold for %s: no join leads from there to %s.%s', $name, $fact, $level->role, $why);
    }

    private function offerOthers(string $fact, Level $level, Question $question, ?Condition $condition): void
    {
        $name = $this->ground->names()->of($level);
        $trial = $question->trial;
        if (null !== $condition) {
            $others = array_values(array_filter($question->facts(), static fn (string $other): bool => $other !== $fact
                && ([] === $condition->facts || \in_array($other, $condition->facts, true))));
            $reach = array_values(array_filter($others, fn (string $other): bool => [] !== $this->ground->ways()->between($other, $level->role)));
            $where = array_map(
                static fn (Condition $one): Condition => $one === $condition ? new Condition($one->what, $one->test, $one->values, $reach) : $one,
                $trial->where,
            );
            if ([] !== $reach) {
                $this->offers[] = new Offer(\sprintf('Let it hold for %s alone.', implode(' and ', $reach)), $trial->with(where: $where));
            }
            $this->offers[] = new Offer(\sprintf('Leave out the condition on %s.', $name), $trial->with(
                where: array_values(array_filter($trial->where, static fn (Condition $one): bool => $one !== $condition)),
            ));

            return;
        }
        $kept = array_values(array_filter($trial->measures, fn (string $one): bool => !\in_array(
            $fact,
            $this->ground->model->factsOf($this->ground->names()->measureNamed($one)),
            true,
        )));
        if ([] !== $kept && \count($kept) < \count($trial->measures)) {
            $this->offers[] = new Offer(\sprintf('Ask for %s without what is taken of %s.', implode(' and ', $kept), $fact), $trial->with(measures: $kept));
        }
        $fewer = array_values(array_filter($trial->by, fn (string $one): bool => $this->ground->names()->attribute($one) != $level));
        $this->offers[] = new Offer(\sprintf('Ask without %s.', $name), $trial->with(by: $fewer));
        $near = $this->nearest($fact, $level);
        if (null !== $near) {
            $this->offers[] = new Offer(\sprintf('Ask by %s, which %s has.', $near, $fact), $trial->with(by: [...$fewer, $near]));
        }
        $this->offers[] = new Offer(\sprintf('A join from %s to %s would make it answerable, where the data has one.', $fact, $level->role));
    }

    /** An attribute of the same name in another role of the same dimension, to which the fact does lead. */
    private function nearest(string $fact, Level $level): ?string
    {
        $dimension = $this->ground->model->dimension($this->ground->role($level->role))->name;
        foreach ($this->ground->model->roles as $role) {
            if ($role->name !== $level->role && $this->ground->model->dimension($role)->name === $dimension
                && 1 === \count($this->ground->ways()->between($fact, $role->name))) {
                return $this->ground->names()->of(new Level($role->name, $level->attribute));
            }
        }

        return null;
    }

    /** @param list<Branch> $branches */
    private function composed(Question $question, array $branches): Plan
    {
        return (new Composer($this->ground, $this->sql, new ConditionSql($this->sql, $this->today), $question))->plan($branches);
    }

    /** The whole, as somebody would ask for it who trusts every join: what a key that stands twice would make of the total. */
    public function naive(Trial $trial): Plan
    {
        $question = new Question($this->ground, Parameters::filled($trial));
        $whole = $question->whole(array_map(static fn (Measure $one): string => $one->name, $question->needed()));
        $branches = array_values(array_filter($this->branches($whole), static fn (Branch $branch): bool => '' === $branch->special));
        $this->reasons = [];
        $this->offers = [];

        return (new Composer($this->ground, $this->sql, new ConditionSql($this->sql, $this->today), $whole, $question->by))->plan($branches);
    }

    /** A condition that is met by some parts of what is shared, and not by others: in all it would be met by the whole of each. */
    private function picksParts(Question $question): bool
    {
        foreach ($question->branches as $branch) {
            foreach (null === $branch->sharing ? [] : $question->limitedBy($branch->fact) as $level) {
                if ([] !== $this->ground->ways()->shared($branch->fact, $level->role)) {
                    return true;
                }
            }
        }

        return false;
    }

    /** @return list<Plan> those of what comes first, of the first two, and so on */
    private function subtotals(Question $question): array
    {
        $plans = [];
        for ($n = 1; $question->trial->subtotals && $n < \count($question->by); ++$n) {
            $plans[] = $this->lesser($question, \array_slice($question->by, 0, $n));
        }

        return array_values(array_filter($plans));
    }

    /**
     * The same, split by less: computed of the rows once more, of the measures for which that means something.
     *
     * @param list<Level> $by
     */
    private function lesser(Question $question, array $by): ?Plan
    {
        $whole = $question->whole(array_map(static fn (Measure $one): string => $one->name, $question->needed()), [], $by);
        $sound = [];
        foreach ($question->needed() as $measure) {
            $this->reasons = [];
            $this->offers = [];
            foreach ($whole->parts($measure) as $part) {
                $this->additive($part, $whole);
            }
            if ([] === $this->reasons) {
                $sound[] = $measure->name;
            }
        }
        $this->reasons = [];
        $this->offers = [];
        $before = array_values(array_filter(
            $question->figures,
            static fn (Figure $figure): bool => true === $question->shift?->bounded && $figure->as->isBefore() && \in_array($figure->measure, $sound, true),
        ));
        $shown = array_values(array_intersect($sound, array_map(static fn (Measure $one): string => $one->name, $question->measures)));
        if ([] === $shown && [] === $before) {
            return null;
        }
        $whole = $question->whole($shown, $before, $by);
        $branches = $this->branches($whole);
        (new Beside($this->ground, $whole))->look($branches);

        return $this->composed($whole, $branches);
    }
}
