<?php

declare(strict_types=1);

namespace Fasti\Core\Join;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Type;

/** The candidates of one field as they are found: what is found in several ways is one candidate with the features of all. */
final class Gathered
{
    /** @var array<string, Candidate> by the key that they lead to */
    private array $found = [];

    /** @param array<string, float> $standing what the field is in its own table */
    public function __construct(
        private readonly Candidates $all,
        private readonly int $from,
        private readonly Column $column,
        private readonly Type $type,
        private readonly array $standing,
    ) {
    }

    /**
     * @param array<string, float> $features
     * @param list<string>         $quoted
     */
    public function add(int $to, JoinKey $key, array $features, ?NameMatch $match = null, array $quoted = []): void
    {
        if ($this->from === $to && $key->columns[0] === $this->column->name) {
            return;
        }
        $id = $key->id();
        if (isset($this->found[$id])) {
            $this->found[$id]->features += $features;
            if ($this->found[$id]->has(Feature::SELF_ROLE)) {
                unset($this->found[$id]->features[Feature::SELF]);
            }
            $this->found[$id]->quoted = [...$this->found[$id]->quoted, ...$quoted];

            return;
        }
        $fit = TypeFit::of($this->type, $this->all->types[$to][$key->columns[0]]);
        if (null === $fit) {
            return;
        }
        $more = $this->all->singles->features($this->from, $this->column, $this->type, $to, $key, $match, $fit);
        $this->found[$id] = new Candidate($this->from, [$this->column->name], $key, $to, $features + $this->standing + $more, $match, $quoted);
        if (isset($features[Feature::SELF_ROLE])) {
            unset($this->found[$id]->features[Feature::SELF]);
        }
    }

    /**
     * To each key of a table that is one field.
     *
     * @param array<string, float> $features
     */
    public function toKeysOf(int $to, array $features, ?NameMatch $match = null): void
    {
        foreach ($this->all->keys[$to] as $key) {
            if ($key->single()) {
                $this->add($to, $key, $features, $match);
            }
        }
    }

    /**
     * @param iterable<array{int, JoinKey}> $keys
     * @param array<string, float>          $features
     */
    public function toEach(iterable $keys, array $features): void
    {
        foreach ($keys as [$to, $key]) {
            $this->add($to, $key, $features);
        }
    }

    /** Where the whole name is that of one table, what only its end names is less likely. */
    public function compare(): void
    {
        $of = static fn (?NameMatch $match): float => null === $match || $match->how > NameMatch::ROLE_BY_KEY ? 0.0 : $match->covered;
        $most = max([0.0, ...array_map(static fn (Candidate $one): float => $of($one->match), $this->found)]);
        foreach ($this->found as $candidate) {
            $less = $most - ($candidate->match->covered ?? $most);
            if ($less > 0.0) {
                $candidate->features[Feature::LESS_NAMED] = $less;
            }
        }
    }

    /** @return list<Candidate> the most promising, where there are too many */
    public function most(int $most): array
    {
        $found = $this->found;
        if (\count($found) > $most) {
            uasort($found, static fn (Candidate $a, Candidate $b): int => self::promise($b) <=> self::promise($a));
            $found = \array_slice($found, 0, $most, true);
        }

        return array_values($found);
    }

    private static function promise(Candidate $candidate): float
    {
        $by = $candidate->features;

        return 20 - ($candidate->match->how ?? 16) + 10 * (($by[Feature::KEY_EQUAL] ?? 0) + ($by[Feature::TYPE_NAMES] ?? 0) + ($by[Feature::SELF_ROLE] ?? 0))
            + 8 * (($by[Feature::KEY_STRIPPED] ?? 0) + ($by[Feature::KEY_ENDS] ?? 0) + ($by[Feature::VIEW] ?? 0))
            - ($candidate->has(Feature::KEY_UNIQUE) ? 2 : 0);
    }
}
