<?php

declare(strict_types=1);

namespace Fasti\Core\Join;

use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Wording\Naming;

/** Where several fields together may lead. */
final class CompositeCandidates
{
    private const NAMING = ['name', 'title', 'description', 'type', 'kind', 'status', 'value', 'label', 'text'];

    public function __construct(private readonly Candidates $all)
    {
    }

    /** @return array<string, list<Candidate>> */
    public function composites(int $i, Hints $hints): array
    {
        $table = $this->all->tables[$i];
        $counts = [];
        foreach ($table->columns as $column) {
            $names = array_unique([Naming::folded($column->name), Naming::folded($this->all->names->stripped($column->name, $i))]);
            $words = NameWords::of($column->name);
            for ($n = 1; $n < \count($words); ++$n) {
                $names[] = implode('', \array_slice($words, $n));
            }
            $near = [];
            foreach ($names as $name) {
                $near += \count($this->all->composite[$name] ?? []) > 2 * Candidates::MOST ? [] : $this->all->composite[$name] ?? [];
            }
            foreach ($this->all->names->answers($column->name, $i) as $j => $match) {
                $near[$j] = true;
            }
            foreach ($near as $j => $true) {
                $counts[$j] = ($counts[$j] ?? 0) + 1;
            }
        }
        $units = [];
        foreach ($counts as $j => $n) {
            foreach ($j === $i && $n < 2 ? [] : $this->all->keys[$j] as $key) {
                foreach ($key->single() ? [] : $this->composed($i, $j, $key) as $found) {
                    $units[Candidates::unit($i, $found->columns)][] = $found;
                }
            }
        }
        foreach ($hints->composite($table->place()->key()) as $hint) {
            $j = $this->all->at[$hint->to->key()] ?? null;
            if (null === $j) {
                continue;
            }
            foreach ($this->all->keys[$j] as $key) {
                $order = array_map(static fn (string $column): int|false => array_search($column, $hint->toColumns, true), $key->columns);
                if (!$key->single() && !\in_array(false, $order, true)) {
                    $columns = array_map(static fn (int|false $at): string => $hint->columns[(int) $at], $order);
                    $unit = Candidates::unit($i, $columns);
                    $known = array_values(array_filter($units[$unit] ?? [], static fn (Candidate $one): bool => $one->key->id() === $key->id()));
                    if ([] === $known) {
                        $units[$unit][] = $known[] = new Candidate($i, $columns, $key, $j, [Feature::ANY => 1.0, Feature::COMPOSITE => 1.0]);
                    }
                    $known[0]->features[$hint->feature] = 1.0;
                    $known[0]->quoted[] = $hint->where;
                }
            }
        }

        return $units;
    }

    /**
     * For each field of the key the field here that answers to it best; again for each role that fields have before the key's
     * name: `from_zone, from_place` and `to_zone, to_place`.
     *
     * @return list<Candidate>
     */
    private function composed(int $i, int $j, JoinKey $key): array
    {
        $answers = $roles = [];
        foreach ($key->columns as $at => $name) {
            $answers[$at] = $this->answers($i, $j, $name);
            if ([] === $answers[$at]) {
                return [];
            }
            foreach ($answers[$at] as [, $score, $role]) {
                if ($score >= 0.7) {
                    $roles[$role] = ($roles[$role] ?? 0) + 1;
                }
            }
        }
        $found = [];
        arsort($roles);
        foreach (\array_slice($roles, 0, 6, true) as $role => $times) {
            $columns = $scores = [];
            foreach ($answers as $of) {
                $best = self::best($of, (string) $role, $columns);
                if (null === $best) {
                    continue 2;
                }
                $columns[] = $best[0];
                $scores[] = $best[1];
            }
            $candidate = $this->composite($i, $j, $key, $columns, $scores);
            if (null !== $candidate && '' !== (string) $role && $this->areAll($i, $j, $columns, $key, (string) $role)) {
                $candidate->features[Feature::SAME_ROLE] = 1.0;
            }
            if (null !== $candidate) {
                $found[implode("\0", $columns)] ??= $candidate;
            }
        }

        return array_values($found);
    }

    /**
     * Whether each field has the same role before the name of its field of the key.
     *
     * @param non-empty-list<string> $columns
     */
    private function areAll(int $i, int $j, array $columns, JoinKey $key, string $role): bool
    {
        foreach ($columns as $at => $column) {
            if ($this->roleBefore($i, $column, $j, $key->columns[$at]) !== $role) {
                return false;
            }
        }

        return true;
    }

    /** @return list<array{string, float, string}> fields of a table that may answer to a field of a key, how well, and in what role */
    private function answers(int $i, int $j, string $name): array
    {
        $answers = [];
        foreach ($this->all->tables[$i]->columns as $column) {
            if ($i === $j && $column->name === $name) {
                continue;
            }
            $fit = TypeFit::of($this->all->types[$i][$column->name], $this->all->types[$j][$name]);
            if (null === $fit || TypeFit::Loose === $fit) {
                continue;
            }
            $score = $this->answer($i, $column->name, $j, $name) - (TypeFit::Size === $fit ? 0.05 : 0.0);
            if ($score >= 0.3) {
                $answers[] = [$column->name, $score, $this->roleBefore($i, $column->name, $j, $name)];
            }
        }

        return $answers;
    }

    /**
     * The best of the answers in a role: a field of the same role first; what several roles share is without one.
     *
     * @param list<array{string, float, string}> $answers
     * @param list<string>                       $taken
     *
     * @return array{string, float}|null null where it would be a field of another role
     */
    private static function best(array $answers, string $role, array $taken): ?array
    {
        $best = null;
        $most = 0.0;
        foreach ($answers as [$column, $score, $before]) {
            $favour = match ($before) {
                $role => 0.5,
                '' => 0.2,
                default => 0.0,
            };
            if ($score + $favour > $most && !\in_array($column, $taken, true)) {
                $most = $score + $favour;
                $best = [$column, $score, $before];
            }
        }

        return null === $best || ('' !== $best[2] && $best[2] !== $role) ? null : [$best[0], $best[1]];
    }

    /** What stands before the name of the key's field: `from` of `from_zone`. */
    private function roleBefore(int $i, string $column, int $j, string $keyColumn): string
    {
        $near = Naming::folded($this->all->names->stripped($column, $i));
        // `from_order_no` for `no` of order: the role is what stands before the table.
        $match = $this->all->names->answers($column, $i)[$j] ?? null;
        if (null !== $match && \in_array($match->how, [NameMatch::EQUAL, NameMatch::ROLE], true) && '' !== $match->ending
            && str_ends_with(Naming::folded($keyColumn), $match->ending)) {
            return implode('', $match->role);
        }
        foreach ([Naming::folded($keyColumn), Naming::folded($this->all->names->stripped($keyColumn, $j))] as $far) {
            if (\strlen($far) > 1 && str_ends_with($near, $far)) {
                return substr($near, 0, -\strlen($far));
            }
        }

        return '';
    }

    /**
     * @param non-empty-list<string> $columns
     * @param non-empty-list<float>  $scores
     */
    private function composite(int $i, int $j, JoinKey $key, array $columns, array $scores): ?Candidate
    {
        $array = [] !== array_filter($columns, fn (string $column): bool => $this->all->types[$i][$column]->array) ? 1.0 : 0.0;
        $others = $scores;
        sort($others);
        if (max($scores) < 0.55 || ($others[1] ?? 0.0) < 0.55 || $others[0] < 0.5 && ($others[1] < 0.7 || 0.0 === $array)) {
            return null;
        }
        $sure = \count(array_filter($scores, static fn (float $score): bool => $score >= 0.85));
        $by = [Feature::ANY => 1.0, Feature::COMPOSITE => 1.0, Feature::WEAKEST => min($scores), Feature::ALL_SURE => $sure === \count($scores) ? 1.0 : 0.0];
        $by += $this->ofKey($j, $key) + $this->ofFields($i, $columns);
        if ($i === $j) {
            $by[Feature::SELF] = 1.0;
        } elseif ($this->alike($i, $j)) {
            $by[Feature::SAME_SHAPE] = 1.0;
        }
        if ($this->all->tables[$i]->schema !== $this->all->tables[$j]->schema) {
            $by[Feature::OTHER_SCHEMA] = 1.0;
        }
        if ($array > 0) {
            $by[Feature::LIST] = 1.0;
        }

        return new Candidate($i, $columns, $key, $j, array_filter($by, static fn (float $value): bool => 0.0 !== $value));
    }

    /** @return array<string, float> what the key says that several fields would lead to */
    private function ofKey(int $j, JoinKey $key): array
    {
        $by = [];
        foreach ($key->columns as $name) {
            if (\in_array(strtolower($this->all->names->stripped($name, $j)), self::NAMING, true)) {
                $by[Feature::PLAIN_PART] = 1.0;
            }
        }
        if (JoinKey::UNIQUE === $key->standing) {
            $by[Feature::KEY_UNIQUE] = 1.0;
        }
        // A key whose fields all lead elsewhere is that of a link: what holds both fields as well is seldom about the link.
        $leading = 0;
        foreach ($key->columns as $name) {
            foreach ($this->all->names->answers($name, $j) as $k => $match) {
                if ($k !== $j && $match->how <= NameMatch::ROLE_AFTER && '' !== $match->ending) {
                    ++$leading;
                    break;
                }
            }
        }
        if ($leading === \count($key->columns)) {
            $by[Feature::LINK_KEY] = 1.0;
        }
        if ([] !== array_intersect(NameWords::of($this->all->tables[$j]->name), Candidates::COPIES)) {
            $by[Feature::COPY] = 1.0;
        }

        return $by;
    }

    /**
     * @param non-empty-list<string> $columns
     *
     * @return array<string, float> what the fields are in their own table
     */
    private function ofFields(int $i, array $columns): array
    {
        $table = $this->all->tables[$i];
        $by = [];
        $primary = $table->primaryKey->columns ?? [];
        if ([] === array_diff($columns, $primary)) {
            $by[Feature::KEY_PART] = 1.0;
            if (\count($columns) === \count($primary)) {
                $by[Feature::SAME_KEY] = 1.0;
            }
        }
        foreach ($this->all->keys[$i] as $own) {
            if ([] === array_diff($own->columns, $columns)) {
                $by[Feature::SAME_KEY] = 1.0;
            }
        }
        if ([] !== array_filter($columns, fn (string $column): bool => TypeFamily::Time === $this->all->types[$i][$column]->family)) {
            $by[Feature::TIME] = 1.0;
        }
        foreach ($columns as $column) {
            $type = $this->all->types[$i][$column];
            $standing = $this->all->standings->standing($i, $column);
            if (TypeFamily::Text === $type->family && ($type->length > 60 || isset($standing[Feature::LONG_TEXT])) && !isset($standing[Feature::ENDING_SURE])) {
                $by[Feature::LOOSE_PART] = 1.0;
            }
        }
        foreach ($table->indexes as $index) {
            $parts = array_map(static fn ($part): string => $part->column, \array_slice($index->parts, 0, \count($columns)));
            if ([] === array_diff($columns, $parts)) {
                $by[Feature::INDEX] = 1.0;
            }
        }

        return $by;
    }

    /** Whether two tables have the same fields but for a few: one is a copy of the other, or both are of one kind. */
    private function alike(int $i, int $j): bool
    {
        $near = array_keys($this->all->types[$i]);
        $far = array_keys($this->all->types[$j]);
        $same = \count(array_intersect($near, $far));

        return $same >= 0.75 * (\count($near) + \count($far) - $same);
    }

    /** How well a field answers to one field of a key: 1 for the same name. */
    private function answer(int $i, string $column, int $j, string $keyColumn): float
    {
        $near = Naming::folded($column);
        $far = Naming::folded($keyColumn);
        if ($near === $far) {
            return NameWords::isPlain($column) ? 0.85 : 1.0;
        }
        $nearStripped = Naming::folded($this->all->names->stripped($column, $i));
        $farStripped = Naming::folded($this->all->names->stripped($keyColumn, $j));
        if ($nearStripped === $farStripped && \strlen($farStripped) >= 2) {
            return 0.95;
        }
        if (\strlen($farStripped) >= 3 && (str_ends_with($near, $farStripped) || str_ends_with($near, $far))) {
            return 0.8;
        }
        $about = $this->about($i, $column, $j, $keyColumn);
        if (null !== $about) {
            return $about;
        }
        // The name of the key's field in a short form, or as the end of a word.
        if (\strlen($nearStripped) >= 2 && (NameWords::isShort($nearStripped, $farStripped)
            || (\strlen($farStripped) >= 3 && str_ends_with($nearStripped, $farStripped)))) {
            return 0.6;
        }
        $type = $this->all->types[$i][$column];
        $keyType = $this->all->types[$j][$keyColumn];

        return $type->array && !$keyType->array && TypeFit::Same === TypeFit::of($type, $keyType) ? 0.35 : 0.0;
    }

    /** How well it answers by the table that it is called after; null where by none. */
    private function about(int $i, string $column, int $j, string $keyColumn): ?float
    {
        $far = Naming::folded($keyColumn);
        $answers = $this->all->names->answers($column, $i);
        $match = $answers[$j] ?? null;
        if (null !== $match && $match->how <= NameMatch::ROLE_AFTER && ('' === $match->ending || str_ends_with($far, $match->ending))) {
            return match (true) {
                '' === $match->ending => \strlen($far) > 5 ? 0.5 : 0.75,
                NameMatch::EQUAL === $match->how => 0.9,
                default => 0.8,
            };
        }
        // What the key's field is about, this field may be about too: method.lab_code and laboratory.
        foreach ($this->all->names->answers($keyColumn, $j) as $k => $there) {
            $here = $answers[$k] ?? null;
            if ($k !== $j && null !== $here && $there->how <= NameMatch::ROLE_AFTER && $here->how <= NameMatch::ROLE_AFTER) {
                return 0.7;
            }
        }

        return null;
    }
}
