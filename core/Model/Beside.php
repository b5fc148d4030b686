<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

/** Whether what stands beside measures means anything in an answer, and what could be asked instead. */
final class Beside
{
    /** @var list<string> */
    public array $reasons = [];
    /** @var list<Offer> */
    public array $offers = [];

    public function __construct(private readonly Ground $ground, private readonly Question $question)
    {
    }

    /** @param list<Branch> $branches */
    public function look(array $branches): void
    {
        foreach ($this->question->figures as $figure) {
            $this->parted($figure);
            if ($figure->as->adds()) {
                $this->added($figure);
            }
        }
        $earlier = new Earlier($this->ground, $this->question);
        $this->question->shift = $shift = $earlier->shift();
        $this->reasons = [...$this->reasons, ...$earlier->reasons];
        $this->offers = [...$this->offers, ...$earlier->offers];
        foreach ($branches as $branch) {
            if (null !== $shift) {
                $this->compared($shift, $branch);
            }
        }
        if ($this->question->trial->others) {
            $this->together($branches);
        }
    }

    /** What it is within, and what it runs along, must be asked by. */
    private function parted(Figure $figure): void
    {
        foreach ([...$figure->within, ...$figure->as->runs() ? [$figure->along] : []] as $name) {
            if (!\in_array($this->ground->names()->attribute($name), $this->question->by, false)) {
                $this->reasons[] = \sprintf('“%s” needs %s, by which the answer is not split.', $figure->inWords(), $name);
                $this->offers[] = new Offer(\sprintf('Ask by %s as well.', $name), $this->question->trial->with(by: [...$this->question->trial->by, $name]));
            }
        }
    }

    private function added(Figure $figure): void
    {
        $names = $this->ground->names();
        $within = array_map($names->attribute(...), $figure->within);
        $over = [];
        foreach ($this->question->by as $level) {
            if (!\in_array($level, $within, false) && (!$figure->as->runs() || $names->of($level) === $figure->along)) {
                $over[] = $level->role;
            }
        }
        foreach ($this->question->branches as $branch) {
            foreach (null === $this->ground->roleNamed($branch->fact) ? [] : array_unique($over) as $role) {
                foreach ($this->ground->ways()->shared($branch->fact, $role)[0] ?? [] as $way) {
                    if (Shared::InEach === $way->sharing?->how) {
                        $this->reasons[] = \sprintf('There is no “%s”: what belongs to several of %s is counted in each, and would be added more than once.',
                            $figure->inWords(), $way->sharing->link);
                        $this->without($figure);

                        return;
                    }
                }
            }
        }
        $why = (new Adding($this->ground))->why($names->measureNamed($figure->measure), array_values(array_unique($over)));
        if ('' === $why) {
            return;
        }
        $this->reasons[] = \sprintf('There is no “%s”: %s.', $figure->inWords(), $why);
        $this->without($figure);
    }

    private function without(Figure $figure): void
    {
        $trial = $this->question->trial;
        $left = array_values(array_filter($trial->figures, static fn (Figure $one): bool => $one->inWords() !== $figure->inWords()));
        if ([] !== $left || [] !== $trial->measures) {
            $this->offers[] = new Offer(\sprintf('Ask without %s.', $figure->inWords()), $trial->with(
                figures: $left,
                order: array_values(array_filter($trial->order, static fn (Sorting $one): bool => $one->what !== $figure->inWords())),
                where: array_values(array_filter($trial->where, static fn (Condition $one): bool => $one->what !== $figure->inWords())),
            ));
        }
    }

    /** The facts of what is looked at from later lead to the date by one route, and are taken in one query. */
    private function compared(Shift $shift, Branch $branch): void
    {
        $figures = $this->lookedBackAt($branch);
        if ([] === $figures) {
            return;
        }
        foreach ($figures as $figure) {
            if ('' !== $branch->special) {
                $this->reasons[] = \sprintf(
                    '“%s” needs a query of its own, since %s, so it is not looked at beside what was before.',
                    $figure->measure,
                    'points' === $branch->special ? 'it stands at instants' : 'the engine has no such figure',
                );
                $this->without($figure);
            }
        }
        $routes = null === $this->ground->roleNamed($branch->fact) ? [[]] : $this->ground->ways()->between($branch->fact, $shift->role);
        if (1 !== \count($routes)) {
            $this->reasons[] = \sprintf('From %s to %s there is %s, by which “%s” would be looked at before.', $branch->fact, $shift->role,
                [] === $routes ? 'no route' : 'more than one route', $figures[0]->measure);
            $this->without($figures[0]);
        }
        $branch->shift = $shift;
    }

    /** @return list<Figure> that look back at a measure that is taken in a query */
    private function lookedBackAt(Branch $branch): array
    {
        $names = $this->ground->names();

        return array_values(array_filter($this->question->figures, fn (Figure $figure): bool => $figure->as->isBefore()
            && [] !== array_uintersect(
                $this->question->parts($names->measureNamed($figure->measure)),
                $branch->measures,
                static fn (Measure $a, Measure $b): int => $a->name <=> $b->name,
            )));
    }

    /** @param list<Branch> $branches */
    private function together(array $branches): void
    {
        $trial = $this->question->trial;
        $offer = new Offer('Ask without the others.', $trial->with(others: false));
        $first = $this->question->order[0][0] ?? null;
        if (!$first instanceof Measure) {
            $this->reasons[] = 'Which are the first and which the others, an order by a measure says.';
            $measure = $this->question->measures[0] ?? null;
            $this->offers[] = null === $measure ? $offer : new Offer(
                \sprintf('In order of %s, the greatest first.', $measure->name),
                $trial->with(order: [new Sorting($measure->name, true), ...$trial->order]),
            );
        }
        foreach ($branches as $branch) {
            foreach ($branch->measures as $measure) {
                if ('' !== $branch->special || null === $measure->aggregation->inParts($this->ground->sql(), 'x', '0')) {
                    $this->reasons[] = \sprintf('“%s” of the others does not come of what each of them has.', $measure->name);
                    $this->offers[] = $offer;
                }
            }
            if (null !== $branch->shift) {
                $this->reasons[] = 'What was before is not put together for the others.';
                $this->offers[] = $offer;
            }
        }
    }
}
