<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

/**
 * What the measures and attributes of a model are called where they are asked for. The full name of an attribute is "month of day seen";
 * where no other role has a "month", that is enough. Capital letters, blanks and underscores make no difference.
 */
final class ModelNames
{
    /** @var array<string, string> names of attributes, folded: many roles have the same */
    private static array $known = [];
    /** @var array<string, list<Level>> folded short name → where */
    private array $short = [];
    /** @var array<string, Level> folded full name → where */
    private array $full = [];
    /** @var array<string, string> folded → name */
    private array $measures = [];

    public function __construct(private readonly Model $model)
    {
        foreach ($model->roles as $role) {
            $of = self::folded($role->name);
            foreach ($model->attributesOf($role) as $attribute) {
                $level = new Level($role->name, $attribute->name);
                $short = self::$known[$attribute->name] ??= self::folded($attribute->name);
                $this->short[$short][] = $level;
                $this->full["$short of $of"] = $level;
                $this->full["$of.$short"] ??= $level;
            }
        }
        foreach ($model->measures as $measure) {
            $this->measures[self::folded($measure->name)] = $measure->name;
        }
        $this->otherWords($model);
    }

    /** Other words for things: a name of its own that something has is meant first, and a word for two of them means none. */
    private function otherWords(Model $model): void
    {
        $words = [];
        foreach ($model->measures as $measure) {
            foreach ($measure->also as $word) {
                $words[self::folded($word)]['m'.$measure->name] = $measure->name;
            }
        }
        foreach ($model->roles as $role) {
            foreach ($model->attributesOf($role) as $attribute) {
                foreach ($attribute->also as $word) {
                    $words[self::folded($word)]['a'.$role->name."\0".$attribute->name] = new Level($role->name, $attribute->name);
                }
            }
        }
        foreach ($words as $word => $of) {
            $one = reset($of);
            if (1 !== \count($of) || isset($this->measures[$word]) || isset($this->short[$word]) || isset($this->full[$word])) {
                continue;
            }
            if ($one instanceof Level) {
                $this->full[(string) $word] = $one;
            } else {
                $this->measures[(string) $word] = (string) $one;
            }
        }
    }

    public static function folded(string $name): string
    {
        return mb_strtolower(trim((string) preg_replace('/[\s_]+/u', ' ', $name)));
    }

    public static function full(Level $level): string
    {
        return $level->attribute.' of '.$level->role;
    }

    /** As short as it may be. */
    public function of(Level $level): string
    {
        $short = self::folded($level->attribute);

        return 1 === \count($this->short[$short] ?? []) && !isset($this->measures[$short]) ? $level->attribute : self::full($level);
    }

    public function measure(string $name): ?Measure
    {
        $known = $this->measures[self::folded($name)] ?? null;

        return null === $known ? null : $this->model->measure($known);
    }

    /** @throws ModelError where there is none, or more than one */
    public function attribute(string $name): Level
    {
        $folded = self::folded($name);
        if (isset($this->full[$folded])) {
            return $this->full[$folded];
        }
        $short = $this->short[$folded] ?? [];
        if (1 === \count($short)) {
            return $short[0];
        }
        if ([] !== $short) {
            throw new ModelError(\sprintf('“%s” may be %s. Say which.', $name, implode(' or ', array_map(self::full(...), $short))));
        }
        throw new ModelError(\sprintf('The model has no attribute “%s”.%s', $name, $this->like($folded, array_keys($this->short + $this->full))));
    }

    /** @throws ModelError */
    public function measureNamed(string $name): Measure
    {
        return $this->measure($name) ?? throw new ModelError(
            \sprintf('The model has no measure “%s”.%s', $name, $this->like(self::folded($name), array_keys($this->measures))),
        );
    }

    public function role(string $name): ?string
    {
        foreach ($this->model->roles as $role) {
            if (self::folded($role->name) === self::folded($name)) {
                return $role->name;
            }
        }

        return null;
    }

    public function has(string $name): bool
    {
        $folded = self::folded($name);

        return isset($this->measures[$folded]) || isset($this->full[$folded]) || isset($this->short[$folded]);
    }

    /** @return list<string> all names under which something can be asked for, folded */
    public function all(): array
    {
        return array_map(strval(...), array_keys($this->measures + $this->full + $this->short));
    }

    /** @param list<array-key> $names */
    private function like(string $name, array $names): string
    {
        $best = [];
        foreach ($names as $one) {
            $far = levenshtein(mb_substr((string) $one, 0, 80), mb_substr($name, 0, 80));
            if ($far <= max(2, mb_strlen($name) / 3) || str_contains((string) $one, $name)) {
                $best[(string) $one] = $far;
            }
        }
        asort($best);

        return [] === $best ? '' : ' Do you mean '.implode(' or ', \array_slice(array_keys($best), 0, 3)).'?';
    }
}
