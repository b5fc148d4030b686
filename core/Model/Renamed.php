<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

/** What has another name now, so that whatever names it can follow. */
final readonly class Renamed
{
    /**
     * @param array<string, string> $measures   old → new
     * @param array<string, string> $roles      old → new
     * @param array<string, string> $attributes "role\0old" → new, by the role that says it, under its old name
     */
    public function __construct(public array $measures = [], public array $roles = [], public array $attributes = [])
    {
    }

    public function isNothing(): bool
    {
        return [] === $this->measures && [] === $this->roles && [] === $this->attributes;
    }

    /** A trial of the model before, in the names of the model after. What the model before did not know stays as it is. */
    public function trial(Trial $trial, Model $before, Model $after): Trial
    {
        $old = new ModelNames($before);
        $new = new ModelNames($after);
        $name = function (string $what) use ($old, $new, $before): string {
            $measure = $old->measure($what);
            if (null !== $measure) {
                return $this->measures[$measure->name] ?? $measure->name;
            }
            try {
                $level = $old->attribute($what);
            } catch (ModelError) {
                return $what;
            }

            return $new->of($this->level($level, $before));
        };

        $figure = static fn (Figure $one): Figure => new Figure(
            $name($one->measure), $one->as, array_map($name, $one->within), '' === $one->along ? '' : $name($one->along), $one->many, $one->span,
        );
        $figures = [];
        foreach ($trial->figures as $one) {
            $figures[ModelNames::folded($one->inWords())] = $figure($one)->inWords();
        }
        $name = static fn (string $what): string => $figures[ModelNames::folded($what)] ?? $name($what);

        return $trial->with(
            figures: array_map($figure, $trial->figures),
            each: array_map($name, $trial->each),
            measures: array_map($name, $trial->measures),
            by: array_map($name, $trial->by),
            where: array_map(
                fn (Condition $one): Condition => $one->renamed($name, fn (string $role): string => $this->roles[$role] ?? $role),
                $trial->where,
            ),
            order: array_map(static fn (Sorting $one): Sorting => new Sorting($name($one->what), $one->descending), $trial->order),
        );
    }

    public function level(Level $level, Model $before): Level
    {
        $role = $before->role($level->role);
        $says = null === $role ? $level->role : $before->dimension($role)->name;

        return new Level($this->roles[$level->role] ?? $level->role, $this->attributes[$says."\0".$level->attribute] ?? $level->attribute);
    }
}
