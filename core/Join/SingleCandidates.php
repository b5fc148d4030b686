<?php

declare(strict_types=1);

namespace Fasti\Core\Join;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\Type;
use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Wording\Naming;

/** Where a single field may lead. */
final class SingleCandidates
{
    private const ATTRIBUTES = ['name', 'count', 'type', 'status', 'date', 'time', 'title', 'description', 'email', 'phone', 'address', 'amount', 'total',
        'price', 'cost', 'value', 'label', 'text', 'at', 'on',
        'flag', 'rate', 'size', 'length', 'weight', 'height', 'percent', 'level', 'state', 'kind', 'year', 'month', 'day', 'note', 'comment', 'url',
        'image', 'hash', 'version', 'order', 'rank', 'score',
        'qty', 'quantity', 'limit', 'sum', 'avg', 'min', 'max', 'hours', 'minutes', 'since', 'until', 'number', 'no', 'desc', 'city', 'zip', 'fax', 'mail',
        'balance', 'due'];

    public function __construct(private readonly Candidates $all)
    {
    }

    /** @return list<Candidate> */
    public function single(int $i, Column $column, Hints $hints): array
    {
        $table = $this->all->tables[$i];
        $type = $this->all->types[$i][$column->name];
        $family = TypeFit::family($type);
        $hinted = $hints->from($table->place()->key(), [$column->name]);
        if (null === $family && [] === $hinted) {
            return [];
        }
        $standing = $this->all->standings->standing($i, $column->name);
        /** @var array<string, Candidate> $found */
        $found = [];
        foreach ($this->all->names->answers($column->name, $i) as $j => $match) {
            foreach ($this->all->keys[$j] as $key) {
                if ($key->single()) {
                    $this->add($found, $i, $column, $type, $j, $key, $standing, $match, []);
                }
            }
        }
        $folded = Naming::folded($column->name);
        foreach ($this->all->keyNames[$folded] ?? [] as [$j, $key]) {
            $this->add($found, $i, $column, $type, $j, $key, $standing, null, [Feature::KEY_EQUAL => 1.0]);
        }
        $stripped = Naming::folded($this->all->names->stripped($column->name, $i));
        foreach ($stripped === $folded ? [] : ($this->all->keyStripped[$stripped] ?? []) + ($this->all->keyNames[$stripped] ?? []) as [$j, $key]) {
            $this->add($found, $i, $column, $type, $j, $key, $standing, null, [Feature::KEY_STRIPPED => 1.0]);
        }
        foreach ($stripped === $folded ? $this->all->keyStripped[$folded] ?? [] : [] as [$j, $key]) {
            $this->add($found, $i, $column, $type, $j, $key, $standing, null, [Feature::KEY_STRIPPED => 1.0]);
        }
        $words = NameWords::of($this->all->names->stripped($column->name, $i));
        for ($n = 1; $n < \count($words); ++$n) {
            $tail = implode('', \array_slice($words, $n));
            if (\strlen($tail) >= 4) {
                foreach (\array_slice(($this->all->keyNames[$tail] ?? []) + ($this->all->keyStripped[$tail] ?? []), 0, Candidates::MOST) as [$j, $key]) {
                    $this->add($found, $i, $column, $type, $j, $key, $standing, null, [Feature::KEY_ENDS => 1.0]);
                }
            }
        }
        $head = NameWords::head(NameWords::singular($words));
        $own = NameWords::singular(NameWords::of($table->name));
        // What tells the rows of its own table apart leads nowhere by a role.
        $free = !isset($standing[Feature::OWN_KEY]) && !isset($standing[Feature::NUMBERED_KEY]);
        if ($free && [] !== $head && NameWords::isSelf($head, $own, isset($this->all->people[$i][Feature::PEOPLE]))) {
            foreach ($this->all->keys[$i] as $key) {
                if ($key->single() && $key->columns[0] !== $column->name) {
                    $this->add(
                        $found,
                        $i,
                        $column,
                        $type,
                        $i,
                        $key,
                        $standing,
                        null,
                        [Feature::SELF_ROLE => 1.0],
                    );
                }
            }
        }
        if ($free && [] !== $head && $head !== $own && NameWords::isDoer($head)) {
            // Where the tables of a module have people of their own, it is those.
            $module = $this->all->names->modules[$i];
            $near = '' === $module ? [] : array_filter($this->all->people, fn (int $j): bool => $module === $this->all->names->modules[$j], \ARRAY_FILTER_USE_KEY);
            $people = [] === $near ? $this->all->people : $near;
            foreach (\array_slice($people, 0, Candidates::MOST, true) as $j => $surely) {
                foreach ($this->all->keys[$j] as $key) {
                    if ($key->single()) {
                        $this->add(
                            $found,
                            $i,
                            $column,
                            $type,
                            $j,
                            $key,
                            $standing,
                            null,
                            [Feature::DOER => 1.0] + $surely + (\count($people) > 1 ? [Feature::MANY_PEOPLE => log(\count($people))] : []),
                        );
                    }
                }
            }
        }
        foreach ($this->all->standings->mentioned($column->comment) as $j) {
            foreach ($this->all->keys[$j] as $key) {
                if ($key->single()) {
                    $this->add($found, $i, $column, $type, $j, $key, $standing, null, [Feature::COMMENT => 1.0]);
                }
            }
        }
        $refers = $this->all->dialect->refersTo($type);
        if ('' !== $refers) {
            foreach ($this->all->tables as $j => $other) {
                foreach ($refers === $other->name ? $this->all->keys[$j] : [] as $key) {
                    if ($key->single()) {
                        $this->add($found, $i, $column, $type, $j, $key, $standing, null, [Feature::TYPE_NAMES => 1.0]);
                    }
                }
            }
        }
        foreach ($hinted as $hint) {
            $j = $this->all->at[$hint->to->key()] ?? null;
            if (null === $j) {
                continue;
            }
            foreach ($this->all->keys[$j] as $key) {
                if ($key->columns === $hint->toColumns) {
                    $this->add($found, $i, $column, $type, $j, $key, $standing, null, [$hint->feature => 1.0], [$hint->where]);
                }
            }
        }
        if (\count($found) > Candidates::MOST) {
            uasort($found, static fn (Candidate $a, Candidate $b): int => self::promise($b) <=> self::promise($a));
            $found = \array_slice($found, 0, Candidates::MOST, true);
        }

        return array_values($found);
    }

    /** In which order candidates are worth keeping where there are too many. */
    private static function promise(Candidate $candidate): float
    {
        $by = $candidate->features;

        return 20 - ($candidate->match->how ?? 16) + 10 * (($by[Feature::KEY_EQUAL] ?? 0) + ($by[Feature::TYPE_NAMES] ?? 0) + ($by[Feature::SELF_ROLE] ?? 0))
            + 8 * (($by[Feature::KEY_STRIPPED] ?? 0) + ($by[Feature::KEY_ENDS] ?? 0) + ($by[Feature::VIEW] ?? 0)) - ($candidate->has(Feature::KEY_UNIQUE)
                ? 2 : 0);
    }

    /**
     * @param array<string, Candidate> $found
     * @param array<string, float>     $standing
     * @param array<string, float>     $features
     * @param list<string>             $quoted
     */
    private function add(
        array &$found,
        int $i,
        Column $column,
        Type $type,
        int $j,
        JoinKey $key,
        array $standing,
        ?NameMatch $match,
        array $features,
        array $quoted = [],
    ): void {
        if ($i === $j && $key->columns[0] === $column->name) {
            return;
        }
        $id = $key->id();
        if (isset($found[$id])) {
            $found[$id]->features += $features;
            if ($found[$id]->has(Feature::SELF_ROLE)) {
                unset($found[$id]->features[Feature::SELF]);
            }
            $found[$id]->quoted = [...$found[$id]->quoted, ...$quoted];

            return;
        }
        $fit = TypeFit::of($type, $this->all->types[$j][$key->columns[0]]);
        if (null === $fit) {
            return;
        }
        $found[$id] = new Candidate(
            $i,
            [$column->name],
            $key,
            $j,
            $features + $standing + $this->features($i, $column, $type, $j, $key, $match, $fit),
            $match,
            $quoted,
        );
        if (isset($features[Feature::SELF_ROLE])) {
            unset($found[$id]->features[Feature::SELF]);
        }
    }

    /** @return array<string, float> */
    public function features(int $i, Column $column, Type $type, int $j, JoinKey $key, ?NameMatch $match, TypeFit $fit): array
    {
        $by = [Feature::ANY => 1.0];
        if (null !== $match) {
            $by[Feature::HOW.$match->how] = 1.0;
            if ($match->sharing > 1) {
                $by[Feature::SHARING] = log($match->sharing);
            }
            if ($match->covered < 1.0) {
                $by[Feature::COVERED] = 1.0 - $match->covered;
            }
            if ($match->covers < 1.0) {
                $by[Feature::COVERS] = 1.0 - $match->covers;
            }
            if (NameMatch::TAIL === $match->how && $i !== $j && $this->beginsWith($j, $i)) {
                $by[Feature::OWN_FIRST] = 1.0;
            }
            if (NameMatch::ROLE_AFTER === $match->how && [] !== array_intersect($match->role, self::ATTRIBUTES)) {
                $by[Feature::ATTRIBUTE] = 1.0;
            }
        }
        $ending = null !== $match && '' !== $match->ending ? $match->ending : NameWords::ending($column->name);
        if ('' !== $ending) {
            $fits = str_ends_with(Naming::folded($key->columns[0]), $ending) || \in_array($ending, ['ref', 'fk', 'key'], true);
            $by[$fits ? Feature::ENDING_FITS : Feature::ENDING_OTHER] = 1.0;
        }
        // A table that has a field of the same name, which is not its key, stands beside this one rather than above it.
        if ($i !== $j && $key->columns[0] !== $column->name && isset($this->all->types[$j][$column->name])) {
            $by[Feature::SIBLING] = 1.0;
        }
        if (TypeFit::Size === $fit) {
            $by[TypeFamily::Text === $type->family ? Feature::TYPE_SIZE : Feature::TYPE_WIDTH] = 1.0;
        }
        if (TypeFit::Loose === $fit) {
            $by[Feature::TYPE_LOOSE] = 1.0;
        }
        if (TypeFamily::Time === $type->family) {
            $by[Feature::TIME] = 1.0;
        }
        if ($type->array) {
            $by[Feature::LIST] = 1.0;
        }
        if (JoinKey::UNIQUE === $key->standing) {
            $by[Feature::KEY_UNIQUE] = 1.0;
        }
        if (JoinKey::LIKELY === $key->standing) {
            $by[Feature::KEY_LIKELY] = 1.0;
        }
        // With a role before it, the own name speaks of another row: `deputy_curator`.
        if ($i === $j && [] === ($match->role ?? [])) {
            $by[Feature::SELF] = 1.0;
        }
        if ('' !== $this->all->names->modules[$i] && $i !== $j && $this->all->names->modules[$i] === $this->all->names->modules[$j]) {
            $by[Feature::SAME_MODULE] = 1.0;
        }
        if ($this->all->tables[$i]->schema !== $this->all->tables[$j]->schema) {
            $by[Feature::OTHER_SCHEMA] = 1.0;
        }
        if ([] !== array_intersect(NameWords::of($this->all->tables[$j]->name), Candidates::COPIES)) {
            $by[Feature::COPY] = 1.0;
        }
        if (null === $match && $this->all->elsewhere[$key->id()] ??= $this->calledElsewhere($j, $key->columns[0])) {
            $by[Feature::KEY_ELSEWHERE] = 1.0;
        }

        return $by;
    }

    /** Whether the name of a table begins with that of another: `order_status` and `order`. */
    private function beginsWith(int $long, int $short): bool
    {
        $name = Naming::folded($this->all->tables[$long]->name);
        $begin = implode('', NameWords::singular(NameWords::of($this->all->tables[$short]->name)));

        return \strlen($begin) >= 3 && \strlen($name) > \strlen($begin) && str_starts_with($name, $begin);
    }

    private function calledElsewhere(int $j, string $key): bool
    {
        $here = $this->all->names->answers($key, $j)[$j]->how ?? 99;
        foreach ($this->all->names->answers($key, $j) as $k => $match) {
            if ($k !== $j && \in_array($match->how, [NameMatch::EQUAL, NameMatch::ALIAS], true) && $here > $match->how) {
                return true;
            }
        }

        return false;
    }

    public static function hasNames(Table $table): bool
    {
        foreach ($table->columns as $column) {
            if (1 === preg_match('/name|mail|login|phone/i', $column->name)) {
                return true;
            }
        }

        return \count($table->columns) < 3;
    }
}
