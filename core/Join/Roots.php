<?php

declare(strict_types=1);

namespace Fasti\Core\Join;

use Fasti\Core\Wording\Naming;

/**
 * Where keys of several tables are called alike, which of them is the one that the others are about: `setting.owner_id` and `person.owner_id` are
 * both unique, and every owner is a person. It takes a look at the schema as a whole.
 */
final class Roots
{
    /** What keys of numbers are called that each table may have for itself. */
    private const PLAIN = ['id', 'oid', 'rowid', 'uuid', 'guid', 'pk', 'uid'];
    /** By how much the first has to be ahead of the second. */
    private const MARGIN = 0.4;
    /** Of tables whose key has a plain name, at most this share numbers its rows itself where the others are parts of one. */
    private const NUMBERED = 0.34;

    /** @var array<array-key, array<int, JoinKey>> folded name → tables of which it is the whole key */
    private array $keys = [];
    /** @var array<array-key, int> folded name → in how many tables it is a field and not the key */
    private array $fields = [];
    /** @var array<array-key, int> folded name of a field → how many tables have it */
    private array $named = [];
    /** @var array<array-key, ?int> */
    private array $roots = [];

    public function __construct(private readonly Candidates $all)
    {
        foreach ($all->tables as $i => $table) {
            $own = [];
            foreach ($all->keys[$i] as $key) {
                if ($key->single()) {
                    $own[$key->columns[0]] = true;
                    $this->keys[Naming::folded($key->columns[0])][$i] ??= $key;
                }
            }
            foreach ($table->columns as $column) {
                $folded = Naming::folded($column->name);
                $this->named[$folded] = ($this->named[$folded] ?? 0) + 1;
                if (!isset($own[$column->name])) {
                    $this->fields[$folded] = ($this->fields[$folded] ?? 0) + 1;
                }
            }
        }
    }

    /** @return ?int the table to which all fields lead that are called so; null where several tables have such keys and none is ahead */
    public function of(string $name): ?int
    {
        $folded = Naming::folded($name);
        if (!\array_key_exists($folded, $this->roots)) {
            $this->roots[$folded] = $this->elect((string) $folded);
        }

        return $this->roots[$folded];
    }

    /** How many tables have a key that is called so. */
    public function sharing(string $name): int
    {
        return \count($this->keys[Naming::folded($name)] ?? []);
    }

    /** In how many tables a field is called so that is not their key. */
    public function used(string $name): int
    {
        return $this->fields[Naming::folded($name)] ?? 0;
    }

    public function key(string $name): ?JoinKey
    {
        $root = $this->of($name);

        return null === $root ? null : $this->keys[Naming::folded($name)][$root];
    }

    private function elect(string $folded): ?int
    {
        $keys = $this->keys[$folded] ?? [];
        // What stands in more tables as a field than as a key is no name that each has for its own.
        if (\in_array($folded, self::PLAIN, true) && ($this->fields[$folded] ?? 0) < 3 * \count($keys)) {
            return $this->plain($keys, $folded);
        }
        if (\count($keys) < 2) {
            return array_key_first($keys);
        }
        $scores = array_map(static fn (JoinKey $key): float => 0.0, $keys);
        foreach ($keys as $i => $key) {
            $scores[$i] = $this->score($i, $key, array_keys($keys), $folded);
        }
        arsort($scores);
        [$first, $second] = \array_slice(array_values($scores), 0, 2);

        return $first - $second >= self::MARGIN ? array_key_first($scores) : null;
    }

    /**
     * A name that every table may have for its own key says nothing, but where one table alone has it as its key and others as a field, or where one
     * numbers its rows and the keys of the others are given.
     *
     * @param array<int, JoinKey> $keys
     */
    private function plain(array $keys, string $folded): ?int
    {
        if (1 === \count($keys)) {
            return ($this->fields[$folded] ?? 0) >= 2 ? array_key_first($keys) : null;
        }
        $numbered = array_filter($keys, fn (JoinKey $key, int $i): bool => true === $this->all->tables[$i]->column($key->columns[0])?->autoNumbered,
            \ARRAY_FILTER_USE_BOTH);
        if ([] === $numbered || \count($numbered) > self::NUMBERED * \count($keys)) {
            return null;
        }
        $names = [];
        foreach ($numbered as $i => $key) {
            // What others are parts of has a short name, and few of its own words.
            $names[$i] = \count(NameWords::of($this->all->tables[$i]->name));
        }
        asort($names);
        $short = array_keys($names, min($names), true);

        return 1 === \count($short) ? $short[0] : null;
    }

    /** @param list<int> $tables */
    private function score(int $i, JoinKey $key, array $tables, string $folded): float
    {
        $table = $this->all->tables[$i];
        $words = $this->words($i);
        $name = implode('', $words);
        $score = JoinKey::PRIMARY === $key->standing ? 1.0 : 0.0;
        $how = $this->all->names->answers($key->columns[0], $i)[$i]->how ?? 99;
        $score += match (true) {
            NameMatch::EQUAL === $how => 3.0,
            $how <= NameMatch::SHORT && NameMatch::BY_KEY !== $how => 1.5,
            default => 0.0,
        };
        $score += 2.0 * log(1 + ($this->named[$name.$folded] ?? 0));
        $score += true === $table->column($key->columns[0])?->autoNumbered ? 2.0 : 0.0;
        $score += 0.3 * log(\count($table->columns)) - 0.5 * (\count($words) - 1);
        foreach ($tables as $j) {
            if ($j !== $i) {
                $other = implode('', $this->words($j));
                $score += match (true) {
                    \strlen($name) >= 3 && $name !== $other && str_contains($other, $name) => 1.5,
                    \strlen($other) >= 3 && $name !== $other && str_contains($name, $other) => -1.5,
                    default => 0.0,
                };
            }
        }

        return $score;
    }

    /** @return list<string> of the name of a table, without what many have in common */
    private function words(int $i): array
    {
        return $this->all->names->bare->words[$i];
    }

    /** Whether a name is that of a number by which rows are told apart, and of nothing else: `id`, and no `name`. */
    public static function isNumber(string $folded): bool
    {
        return \in_array($folded, [...self::PLAIN, 'nr', 'no', 'num', 'number', 'key'], true);
    }
}
