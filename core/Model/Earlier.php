<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Join\NameWords;

/** How a question looks back: by which date, through which calendar, and why it cannot. */
final class Earlier
{
    /** Words in the names of fields that a calendar has for each of its days. */
    private const CALENDAR = ['year', 'month', 'quarter', 'week', 'weekday', 'day', 'season', 'holiday', 'fiscal', 'period', 'half', 'decade'];

    /** @var list<string> */
    public array $reasons = [];
    /** @var list<Offer> */
    public array $offers = [];

    public function __construct(private readonly Ground $ground, private readonly Question $question)
    {
    }

    /** Null where nothing is looked at beside what was before, or it cannot be. */
    public function shift(): ?Shift
    {
        $figures = array_values(array_filter($this->question->figures, static fn (Figure $one): bool => $one->as->isBefore()));
        if ([] === $figures) {
            return null;
        }
        $level = $this->date($figures);
        if (null === $level) {
            return null;
        }
        $formula = $this->ground->formula($level->role, $this->ground->model->attribute($level)->expression ?? '');
        $field = $formula->field();
        if (null === $field || TypeFamily::Time !== $formula->family || $field->role !== $level->role) {
            $this->reasons[] = \sprintf('“%s” is no date of its own, so nothing can be looked at before by it.', $this->ground->names()->of($level));
            $this->offerDates($figures);

            return null;
        }
        $dated = array_values(array_filter([...$this->question->by, ...$this->limited()], fn (Level $one): bool => $this->isOf($one, $level, $field)));
        $calendar = $this->isCalendar($level->role, $field);
        $bounded = $this->bounded($level, $field);
        if (!$bounded && [] === array_filter($this->question->by, fn (Level $one): bool => $this->isOf($one, $level, $field))) {
            $name = $this->ground->names()->of($level);
            $this->reasons[] = \sprintf('Nothing here says of when the answer is: it is neither split by %s nor does a condition say up to when.', $name);
            $this->offers[] = new Offer(\sprintf('Ask by %s as well.', $name), $this->question->trial->with(by: [...$this->question->trial->by, $name]));

            return null;
        }
        foreach ($calendar ? [] : $dated as $one) {
            $this->computed($one, $level, $field);
        }
        $spans = [];
        foreach ($figures as $figure) {
            $spans[] = [$figure->many, $figure->span ?? Span::Year];
        }
        $column = $this->ground->column($field->role, $field->column);

        return new Shift($level, $level->role, $field->column, $column->base ?? $column->type ?? '', $calendar,
            $this->ground->unique($level->role, [$field->column]),
            $bounded, array_values(array_unique($spans, \SORT_REGULAR)));
    }

    /** @return list<Level> what conditions on rows are about */
    private function limited(): array
    {
        $levels = [];
        foreach ($this->question->facts() as $fact) {
            $levels = [...$levels, ...$this->question->limitedBy($fact)];
        }

        return $levels;
    }

    /** @param non-empty-list<Figure> $figures */
    private function date(array $figures): ?Level
    {
        $names = $this->ground->names();
        $said = array_unique(array_filter(array_map(static fn (Figure $one): string => $one->along, $figures)));
        if (\count($said) > 1) {
            $this->reasons[] = \sprintf('The answer looks back by %s: one date at a time is looked back by.', implode(' and by ', $said));

            return null;
        }
        if ([] !== $said) {
            return $names->attribute(reset($said));
        }
        $dates = [];
        foreach ([...$this->question->by, ...$this->limited()] as $level) {
            foreach ($this->dates($level->role) as $date) {
                $dates[ModelNames::full($date)] = $date;
            }
        }
        if (1 === \count($dates)) {
            return reset($dates);
        }
        $this->reasons[] = [] === $dates ? 'It is not said by which date to look back.'
            : \sprintf('It is not said by which date to look back: by %s.', implode(' or by ', array_map($names->of(...), array_values($dates))));
        $this->offerDates($figures);

        return null;
    }

    /** @return list<Level> attributes of a role that are dates */
    public function dates(string $role): array
    {
        $dates = [];
        foreach ($this->ground->model->attributesOf($this->ground->role($role)) as $attribute) {
            $formula = $this->ground->formula($role, $attribute->expression);
            if (TypeFamily::Time === $formula->family && $formula->field()?->role === $role) {
                $dates[] = new Level($role, $attribute->name);
            }
        }

        return $dates;
    }

    /** @param list<Figure> $figures */
    private function offerDates(array $figures): void
    {
        $fact = $this->question->facts()[0] ?? '';
        foreach (null === $this->ground->roleNamed($fact) ? [] : $this->ground->ways()->reached($fact) as $role) {
            foreach (1 === \count($this->ground->ways()->between($fact, $role)) ? $this->dates($role) : [] as $date) {
                $name = $this->ground->names()->of($date);
                $this->offers[] = new Offer(\sprintf('Look back by %s.', $name), $this->question->trial->with(figures: array_map(
                    static fn (Figure $one): Figure => \in_array($one, $figures, true)
                        ? new Figure($one->measure, $one->as, $one->within, $name, $one->many, $one->span) : $one,
                    $this->question->figures,
                )));
            }
        }
    }

    /** Whether an attribute says something of a date: it is computed of it, or stands in its calendar, or beyond. */
    public function isOf(Level $level, Level $date, FieldUse $field): bool
    {
        $formula = $this->ground->formula($level->role, $this->ground->model->attribute($level)->expression ?? '');
        foreach ($formula->fields as $use) {
            $column = $this->ground->column($use->role, $use->column);
            $own = $use->role === $field->role && $use->column === $field->column;
            if (!$own && null !== $column && TypeFamily::Time === $this->ground->typeOf($column)->family) {
                return false;
            }
            $reads = $own || ($reads ?? false);
        }
        if ($reads ?? false) {
            return true;
        }
        if (!$this->isCalendar($date->role, $field)) {
            return $level->role === $date->role && $this->isNamedOfCalendar($formula);
        }

        return $level->role === $date->role || [] !== $this->ground->ways()->between($date->role, $level->role) && $this->passes($date->role, $level->role);
    }

    /** Whether two attributes tell of the same thing, so that rows stand in order by both: year and month of a date. */
    public function isAlong(Level $level, Level $along): bool
    {
        if ($level == $along) {
            return true;
        }
        $of = fn (Level $one): array => array_map(
            static fn (FieldUse $use): string => "$use->role\0$use->column",
            $this->ground->formula($one->role, $this->ground->model->attribute($one)->expression ?? '')->fields,
        );
        if ([] !== array_intersect($of($level), $of($along))) {
            return true;
        }
        foreach ($level->role === $along->role ? $this->dates($along->role) : [] as $date) {
            $field = $this->ground->formula($date->role, $this->ground->model->attribute($date)->expression ?? '')->field();
            if (null !== $field && $this->isCalendar($along->role, $field)) {
                return true;
            }
        }

        return false;
    }

    /** Whether the facts of the question come to a role through another. */
    private function passes(string $through, string $role): bool
    {
        foreach ($this->question->facts() as $fact) {
            foreach (null === $this->ground->roleNamed($fact) ? [] : ($this->ground->ways()->between($fact, $role)[0] ?? []) as $way) {
                if ($way->to() === $through) {
                    return true;
                }
            }
        }

        return false;
    }

    /** Whether a role has one row for each date, which says more of it. */
    private function isCalendar(string $role, FieldUse $field): bool
    {
        if (RoleKind::Fact === $this->ground->role($role)->kind) {
            return false;
        }
        if ($this->ground->unique($role, [$field->column])) {
            return true;
        }
        foreach ($this->ground->model->attributesOf($this->ground->role($role)) as $attribute) {
            $formula = $this->ground->formula($role, $attribute->expression);
            if ($formula->field()?->column !== $field->column && $this->isNamedOfCalendar($formula)) {
                return true;
            }
        }

        return false;
    }

    private function isNamedOfCalendar(Formula $formula): bool
    {
        $field = $formula->field();

        return null !== $field && TypeFamily::Time !== $formula->family
            && [] !== array_intersect(NameWords::singular(NameWords::of($field->column)), self::CALENDAR);
    }

    /** Refuses what looks like a part of the date, and stands in a field of its own, in which it would stay as it is. */
    private function computed(Level $level, Level $date, FieldUse $field): void
    {
        $formula = $this->ground->formula($level->role, $this->ground->model->attribute($level)->expression ?? '');
        $own = [] !== array_filter($formula->fields, static fn (FieldUse $use): bool => $use->role === $field->role && $use->column === $field->column);
        if (!$own) {
            $this->reasons[] = \sprintf(
                '“%s” stands in a field of its own and is not computed of %s, so it says nothing of the later date.',
                $this->ground->names()->of($level),
                $this->ground->names()->of($date),
            );
            $this->offers[] = new Offer(\sprintf('Let “%s” be computed of the date, such as EXTRACT(YEAR FROM %s).', $level->attribute, $field->column));
        }
    }

    /** Whether a condition that holds for all facts says up to when. */
    private function bounded(Level $date, FieldUse $field): bool
    {
        foreach ($this->question->facts() as $fact) {
            $bounds = array_filter($this->question->conditionsOf($fact), function (Condition $condition) use ($date, $field): bool {
                if ($condition->test->isOfOthers() || $condition->test->isElsewhere()) {
                    return false;
                }
                $level = $this->question->level($condition);

                return \in_array($condition->test, [Test::Is, Test::During, Test::Between, Test::Under, Test::Most], true)
                    && $this->isOf($level, $date, $field) && $this->isOfTime($level);
            });
            if ([] === $bounds) {
                return false;
            }
        }

        return true;
    }

    /** It is a date, or a year, and no month that comes again each year. */
    private function isOfTime(Level $level): bool
    {
        $text = $this->ground->model->attribute($level)->expression ?? '';
        $formula = $this->ground->formula($level->role, $text);
        $field = $formula->field();

        return TypeFamily::Time === $formula->family || 1 === preg_match('/\b(?:ISO)?YEAR\b/i', $text)
            || null !== $field && \in_array('year', NameWords::of($field->column), true);
    }
}
