<?php

declare(strict_types=1);

namespace Fasti\Core\Engine\PostgreSql;

/**
 * Chooses among functions and operators of one name by the types of their arguments, as PostgreSQL does (its documentation,
 * “Type Conversion”: functions, operators, and UNION, CASE and related constructs). All types are short names.
 *
 * @phpstan-type Candidate array{list<string>, string, string, int, bool, array<string, string>}
 */
final readonly class Overloads
{
    private const UNKNOWN = 'unknown';

    public function __construct(public TypeCatalog $catalog, private PostgreSqlTyping $typing)
    {
    }

    /** @param list<string> $types */
    public function call(string $name, array $types): ?string
    {
        $chosen = $this->chosen($name, $types);

        return null === $chosen ? null : $this->result($chosen[1], $chosen[0], $types);
    }

    /**
     * @param list<string> $types
     *
     * @return Candidate|null with as many arguments as there are types
     */
    public function chosen(string $name, array $types): ?array
    {
        $candidates = [];
        $count = \count($types);
        foreach ($this->catalog->functions[$name] ?? [] as $function) {
            $arguments = $function[0];
            if ($function[4] && $count >= \count($arguments)) {
                $last = (string) array_pop($arguments);
                // What is repeated is the element; “any” and a list that is handed over whole stand for themselves.
                $element = 'any' === $last ? 'any' : $this->generic($last) ?? $this->catalog->types[$last][4] ?? $last;
                $arguments = array_pad($arguments, $count, $element);
            }
            if (\count($arguments) > $count && \count($arguments) - $function[3] <= $count) {
                $arguments = \array_slice($arguments, 0, $count);
            }
            if (\count($arguments) === $count) {
                if ($arguments === $types) {
                    return [$arguments] + $function;
                }
                $candidates[] = [$arguments] + $function;
            }
        }

        return $this->best($candidates, $types);
    }

    /** @param list<string> $types of one or two operands */
    public function operator(string $sign, array $types): ?string
    {
        $chosen = $this->chosenOperator($sign, $types);
        if (null === $chosen) {
            return null;
        }
        $arguments = 1 === \count($types) ? [$chosen[1]] : [$chosen[0], $chosen[1]];

        return $this->result($chosen[2], $arguments, $types);
    }

    /**
     * @param list<string> $types
     *
     * @return array{string, string, string}|null left, right and result
     */
    public function chosenOperator(string $sign, array $types): ?array
    {
        [$left, $right] = 1 === \count($types) ? ['', $types[0]] : $types;
        $exact = $this->exact($sign, $left, $right);
        if (null !== $exact) {
            return $exact;
        }
        if ('' !== $left) {
            // A text of no type is first taken for one of the other operand's.
            $l = self::UNKNOWN === $left ? $right : $left;
            $r = self::UNKNOWN === $right ? $left : $right;
            $found = $this->exact($sign, $l, $r) ?? ($this->typing->based($l) === $this->typing->based($r) ? $this->exact(
                $sign,
                $this->typing->based($l),
                $this->typing->based($r),
            ) : null);
            if (null !== $found && (self::UNKNOWN === $left || self::UNKNOWN === $right)) {
                return $found;
            }
        }
        $candidates = [];
        foreach ($this->catalog->operators[$sign] ?? [] as $operator) {
            if (('' === $operator[0]) === ('' === $left)) {
                $candidates[] = ['' === $left ? [$operator[1]] : [$operator[0], $operator[1]], $operator[2], 'o', 0, false, []];
            }
        }
        $best = $this->best($candidates, '' === $left ? [$right] : [$left, $right]);

        return null === $best ? null : ['' === $left ? '' : $best[0][0], $best[0]['' === $left ? 0 : 1], $best[1]];
    }

    /** @return array{string, string, string}|null */
    private function exact(string $sign, string $left, string $right): ?array
    {
        foreach ($this->catalog->operators[$sign] ?? [] as $operator) {
            if ($operator[0] === $left && $operator[1] === $right) {
                return $operator;
            }
        }

        return null;
    }

    /** @param list<string> $types short names without domains */
    public function common(array $types): ?string
    {
        $chosen = $types[0];
        foreach (\array_slice($types, 1) as $type) {
            if (self::UNKNOWN === $type || $type === $chosen) {
                continue;
            }
            if (self::UNKNOWN === $chosen) {
                $chosen = $type;
            } elseif ($this->category($type) !== $this->category($chosen)) {
                return null;
            } elseif (!$this->preferred($chosen) && $this->coerces($chosen, $type) && !$this->coerces($type, $chosen)) {
                $chosen = $type;
            }
        }

        return self::UNKNOWN === $chosen ? 'text' : $chosen;
    }

    /**
     * @param list<Candidate> $candidates
     * @param list<string>    $types
     *
     * @return Candidate|null
     */
    private function best(array $candidates, array $types): ?array
    {
        $candidates = array_values(array_filter($candidates, fn (array $candidate): bool => $this->fits($candidate[0], $types)));
        if (\count($candidates) < 2) {
            return $candidates[0] ?? null;
        }
        $based = array_map($this->typing->based(...), $types);
        $candidates = self::most($candidates, static fn (array $candidate): int => \count(array_filter(
            $candidate[0],
            static fn (string $type, int $i): bool => self::UNKNOWN !== $based[$i] && $type === $based[$i],
            \ARRAY_FILTER_USE_BOTH,
        )));
        if (\count($candidates) > 1) {
            $candidates = self::most($candidates, fn (array $candidate): int => \count(array_filter(
                $candidate[0],
                fn (string $type, int $i): bool => self::UNKNOWN !== $based[$i] && ($type === $based[$i]
                    || ($this->preferred($type) && $this->category($type) === $this->category($based[$i]))),
                \ARRAY_FILTER_USE_BOTH,
            )));
        }
        if (\count($candidates) > 1 && \in_array(self::UNKNOWN, $based, true)) {
            $candidates = $this->byCategory($candidates, $based);
        }
        if (\count($candidates) > 1) {
            $known = array_values(array_unique(array_filter($based, static fn (string $type): bool => self::UNKNOWN !== $type)));
            if (1 === \count($known) && \in_array(self::UNKNOWN, $based, true)) {
                $same = array_fill(0, \count($based), $known[0]);
                $fitting = array_values(array_filter($candidates, fn (array $candidate): bool => $this->fits($candidate[0], $same)));
                $candidates = 1 === \count($fitting) ? $fitting : $candidates;
            }
        }

        return 1 === \count($candidates) ? $candidates[0] : null;
    }

    /**
     * For each argument of no type, the category that the candidates want there; text where any takes it.
     *
     * @param list<Candidate> $candidates
     * @param list<string>    $types
     *
     * @return list<Candidate>
     */
    private function byCategory(array $candidates, array $types): array
    {
        $wanted = [];
        foreach ($types as $i => $type) {
            if (self::UNKNOWN !== $type) {
                continue;
            }
            $categories = array_unique(array_map(fn (array $candidate): string => $this->category($candidate[0][$i]), $candidates));
            $wanted[$i] = match (true) {
                \in_array('S', $categories, true) => 'S',
                1 === \count($categories) => reset($categories),
                default => null,
            };
            if (null === $wanted[$i]) {
                return $candidates;
            }
        }
        $left = array_values(array_filter($candidates, function (array $candidate) use ($wanted, $candidates): bool {
            foreach ($wanted as $i => $category) {
                $type = $candidate[0][$i];
                if ($this->category($type) !== $category) {
                    return false;
                }
                $preferred = [] !== array_filter(
                    $candidates,
                    fn (array $other): bool => $this->category($other[0][$i]) === $category && $this->preferred($other[0][$i]),
                );
                if ($preferred && !$this->preferred($type)) {
                    return false;
                }
            }

            return true;
        }));

        return [] === $left ? $candidates : $left;
    }

    /**
     * @param list<Candidate>           $candidates
     * @param callable(Candidate): int $score
     *
     * @return list<Candidate> those of the highest
     */
    private static function most(array $candidates, callable $score): array
    {
        $scores = array_map($score, $candidates);
        $best = max([0, ...$scores]);

        return array_values(array_filter($candidates, static fn (int $i): bool => $scores[$i] === $best, \ARRAY_FILTER_USE_KEY));
    }

    /**
     * @param list<string> $wanted
     * @param list<string> $given
     */
    private function fits(array $wanted, array $given): bool
    {
        foreach ($wanted as $i => $type) {
            if (!$this->coerces($given[$i], $type)) {
                return false;
            }
        }

        return $this->agree($wanted, $given);
    }

    private function coerces(string $from, string $to): bool
    {
        if ($from === $to || self::UNKNOWN === $from || 'any' === $to) {
            return true;
        }
        if (str_starts_with($to, 'any')) {
            return $this->takes($to, $this->typing->based($from));
        }
        $base = $this->typing->based($from);
        if ($base === $to || 'i' === ($this->catalog->casts[$base][$to] ?? '')) {
            return true;
        }
        if ('record' === $to && !isset($this->catalog->types[$base]) && !str_starts_with($base, '_') && !$this->typing->isEnum($base)) {
            return true;
        }

        return str_starts_with($base, '_') && str_starts_with($to, '_') && isset($this->catalog->types[$to]) && $this->coerces(
            substr($base, 1),
            substr($to, 1),
        );
    }

    /** Whether a type that stands for many takes this one. */
    private function takes(string $generic, string $type): bool
    {
        return match ($generic) {
            'anyarray', 'anycompatiblearray' => 'A' === $this->category($type),
            'anynonarray', 'anycompatiblenonarray' => 'A' !== $this->category($type),
            'anyenum' => $this->typing->isEnum($type),
            'anyrange', 'anycompatiblerange' => 'r' === ($this->catalog->types[$type][5] ?? ''),
            'anymultirange', 'anycompatiblemultirange' => 'm' === ($this->catalog->types[$type][5] ?? ''),
            default => true,
        };
    }

    /**
     * Whether all arguments that stand for one type among many can be it together.
     *
     * @param list<string> $wanted
     * @param list<string> $given
     */
    private function agree(array $wanted, array $given): bool
    {
        $elements = $compatible = [];
        foreach ($wanted as $i => $type) {
            if (!str_starts_with($type, 'any') || 'any' === $type || self::UNKNOWN === $given[$i]) {
                continue;
            }
            $of = $this->elementFor($type, $this->typing->based($given[$i]));
            if (str_starts_with($type, 'anycompatible')) {
                $compatible[] = $of;
            } else {
                $elements[$of] = true;
            }
        }

        return \count($elements) < 2 && ([] === $compatible || null !== $this->common(array_map($this->typing->based(...), $compatible)));
    }

    private function elementFor(string $generic, string $type): string
    {
        return match (true) {
            str_ends_with($generic, 'array') && !str_ends_with($generic, 'nonarray') => str_starts_with($type, '_') ? substr($type, 1)
                : ($this->catalog->types[$type][4] ?? $type),
            str_ends_with($generic, 'range') => $this->catalog->types[$type][6] ?? $type,
            default => $type,
        };
    }

    /**
     * @param list<string> $wanted
     * @param list<string> $given
     */
    private function result(string $result, array $wanted, array $given): ?string
    {
        if (!str_starts_with($result, 'any')) {
            return $result;
        }
        $family = str_starts_with($result, 'anycompatible') ? 'anycompatible' : 'any';
        $elements = [];
        $ranges = [];
        foreach ($wanted as $i => $type) {
            if (!str_starts_with($type, 'any') || 'any' === $type || self::UNKNOWN === $given[$i]
                || (('anycompatible' === $family) !== str_starts_with($type, 'anycompatible'))) {
                continue;
            }
            $base = 'any' === $family && (!str_contains($type, 'array') || str_contains($type, 'nonarray')) && !str_contains($type, 'range')
                ? $given[$i] : $this->typing->based($given[$i]);
            $elements[] = $this->elementFor($type, $base);
            if (str_contains($type, 'range')) {
                $ranges[] = $base;
            }
        }
        $element = match (true) {
            [] === $elements => 'text',
            'anycompatible' === $family => $this->common(array_map($this->typing->based(...), $elements)),
            default => $elements[0],
        };
        if (null === $element) {
            return null;
        }
        if (str_ends_with($result, 'nonarray') || !str_ends_with($result, 'array')) {
            return str_ends_with($result, 'range') ? $this->ranged($result, $ranges, $element) : $element;
        }

        return $this->catalog->types[$element][3] ?? '_'.$element;
    }

    /** @param list<string> $ranges */
    private function ranged(string $result, array $ranges, string $element): ?string
    {
        $kind = str_ends_with($result, 'multirange') ? 'm' : 'r';
        foreach ($ranges as $range) {
            if ($kind === ($this->catalog->types[$range][5] ?? '')) {
                return $range;
            }
        }
        foreach ($this->catalog->types as $name => $type) {
            if ($kind === $type[5] && $element === $type[6]) {
                return $name;
            }
        }

        return null;
    }

    private function category(string $type): string
    {
        $type = $this->typing->based($type);
        if (isset($this->catalog->types[$type])) {
            return $this->catalog->types[$type][1];
        }

        return match (true) {
            str_starts_with($type, '_') => 'A',
            $this->typing->isEnum($type) => 'E',
            default => 'U',
        };
    }

    private function preferred(string $type): bool
    {
        return $this->catalog->types[$this->typing->based($type)][2] ?? false;
    }

    /** The element that a repeated argument of a generic list stands for; null where the list is of one type. */
    private function generic(string $list): ?string
    {
        return ['anyarray' => 'anyelement', 'anycompatiblearray' => 'anycompatible'][$list] ?? null;
    }
}
