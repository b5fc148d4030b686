<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

/** Which measures of a model can be split by which roles, and why not. */
final readonly class Matrix
{
    public function __construct(private Ground $ground)
    {
    }

    /** @return list<string> roles that have something to split by, in the order of the model */
    public function columns(): array
    {
        $model = $this->ground->model;

        return array_values(array_map(
            static fn (Role $role): string => $role->name,
            array_filter($model->roles, static fn (Role $role): bool => [] !== $model->attributesOf($role)),
        ));
    }

    public function cell(Measure $measure, string $role): MatrixCell
    {
        $all = null;
        foreach ($this->ground->model->factsOf($measure) as $fact) {
            $cell = $this->ofFact($measure, $fact, $role);
            if (null === $all || $cell->rank() > $all->rank()) {
                $all = $cell;
            }
        }

        return $all ?? new MatrixCell(MatrixCell::NO, 'It is taken of nothing.');
    }

    private function ofFact(Measure $measure, string $fact, string $role): MatrixCell
    {
        if (null === $this->ground->roleNamed($fact)) {
            return new MatrixCell(MatrixCell::NO, \sprintf('The model has no role “%s”.', $fact));
        }
        $routes = $this->ground->ways()->between($fact, $role);
        $shared = $this->ground->ways()->shared($fact, $role);
        if (1 === \count($shared)) {
            $sharing = array_values(array_filter(array_map(static fn (Way $way): ?Sharing => $way->sharing, $shared[0])))[0] ?? null;

            return new MatrixCell(MatrixCell::YES, Ways::inWords($shared[0]).'. '.($sharing?->inWords() ?? ''));
        }
        if ([] === $routes) {
            foreach ($this->ground->ways()->multiplying($fact) as $join) {
                $other = $join->from === $fact ? $join->to : $join->from;
                if (\in_array($role, $this->ground->ways()->reached($other), true)) {
                    return new MatrixCell(
                        MatrixCell::NO,
                        \sprintf('Several rows of %s stand at one row of %s, so that it would count again for each.', $other, $fact),
                    );
                }
            }

            return new MatrixCell(MatrixCell::NO, \sprintf('No join leads from %s to %s.', $fact, $role));
        }
        if (\count($routes) > 1) {
            return new MatrixCell(MatrixCell::OPEN, \sprintf(
                'There is more than one route: %s. Choose one, or make roles.',
                implode(', or ', array_map(Ways::inWords(...), \array_slice($routes, 0, 3))),
            ));
        }
        $guarded = [] !== array_filter($routes[0], static fn (Way $way): bool => !$way->proven);
        $words = [] === $routes[0] ? 'Its own rows say it.' : Ways::inWords($routes[0]).'.';
        if (Additivity::SemiAdditive === $measure->adds && \in_array($role, $measure->notOver, true)) {
            $instead = Instead::Nothing === $measure->instead || $measure->instant?->role !== $role;

            return new MatrixCell(MatrixCell::POINTS, $instead ? 'Not added up over it: only for one value of it at a time. '.$words
                : \sprintf('Not added up over it: the %s counts. %s', $measure->instead->value, $words));
        }

        return new MatrixCell(
            $guarded ? MatrixCell::GUARDED : MatrixCell::YES,
            $words.($guarded ? ' No key keeps a row from standing twice on the way, so that is looked at before each answer.' : ''),
        );
    }
}
