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

    /** What stands of somebody beside the role, where no row is referred to. */
    private const WRITTEN = '/_?(?:name|e?_?mail|phone)$/i';

    /** @var array<int, array<string, list<string>>> */
    private array $words = [];
    /** @var array<int, array<string, list<string>>> */
    private array $heads = [];

    public function __construct(private readonly Candidates $all)
    {
    }

    /** @return list<Candidate> */
    public function single(int $i, Column $column, Hints $hints): array
    {
        $type = $this->all->types[$i][$column->name];
        $hinted = $hints->from($this->all->tables[$i]->place()->key(), [$column->name]);
        if (null === TypeFit::family($type) && [] === $hinted) {
            return [];
        }
        $standing = $this->all->standings->standing($i, $column->name);
        $found = new Gathered($this->all, $i, $column, $type, $standing);
        foreach ($this->all->names->answers($column->name, $i) as $j => $match) {
            $found->toKeysOf($j, [], $match);
        }
        $words = NameWords::of($this->all->names->stripped($column->name, $i));
        foreach ($this->all->names->bare->composed(NameWords::head(NameWords::singular($words)), $i) as $j) {
            $found->toKeysOf($j, []);
        }
        $this->byNamesOfKeys($found, $i, $column, $words);
        // What tells the rows of its own table apart leads nowhere by a role.
        if (!isset($standing[Feature::OWN_KEY]) && !isset($standing[Feature::NUMBERED_KEY]) && !$this->isNamed($i, $column->name)) {
            $this->byRole($found, $i, $column, NameWords::head(NameWords::singular($words)));
        }
        foreach ($this->all->standings->mentioned($column->comment) as $j) {
            $found->toKeysOf($j, [Feature::COMMENT => 1.0]);
        }
        $refers = $this->all->dialect->refersTo($type);
        foreach ('' === $refers ? [] : $this->all->tables as $j => $other) {
            if ($refers === $other->name) {
                $found->toKeysOf($j, [Feature::TYPE_NAMES => 1.0]);
            }
        }
        foreach ($hinted as $hint) {
            $j = $this->all->at[$hint->to->key()] ?? null;
            foreach (null === $j ? [] : $this->all->keys[$j] as $key) {
                if ($key->columns === $hint->toColumns) {
                    $found->add((int) $j, $key, [$hint->feature => 1.0], null, [$hint->where]);
                }
            }
        }

        $found->compare();

        return $found->most(Candidates::MOST);
    }

    /** Whether the name names a table, with or without a role before it: then it is no mere role. */
    private function isNamed(int $i, string $name): bool
    {
        foreach ($this->all->names->answers($name, $i) as $match) {
            if (NameMatch::EQUAL === $match->how || NameMatch::ROLE === $match->how) {
                return true;
            }
        }

        return false;
    }

    /**
     * Keys of the same name, or whose name the field's name ends in.
     *
     * @param list<string> $words of the field's name, without what the fields of its table begin with
     */
    private function byNamesOfKeys(Gathered $found, int $i, Column $column, array $words): void
    {
        $all = $this->all;
        $folded = Naming::folded($column->name);
        $stripped = Naming::folded($all->names->stripped($column->name, $i));
        $found->toEach($all->keyNames[$folded] ?? [], [Feature::KEY_EQUAL => 1.0]);
        $root = $all->roots->key($folded);
        if (null !== $root && Roots::isNumber($folded) && !isset($all->standings->standing($i, $column->name)[Feature::NUMBERED_KEY])) {
            $found->add((int) $all->roots->of($folded), $root, [Feature::KEY_EQUAL => 1.0, Feature::PLAIN_ROOT => 1.0]);
        }
        if ($stripped === $folded) {
            $found->toEach($all->keyStripped[$folded] ?? [], [Feature::KEY_STRIPPED => 1.0]);
        } else {
            $found->toEach(($all->keyStripped[$stripped] ?? []) + ($all->keyNames[$stripped] ?? []), [Feature::KEY_STRIPPED => 1.0]);
        }
        for ($n = 1; $n < \count($words); ++$n) {
            $tail = implode('', \array_slice($words, $n));
            if (\strlen($tail) >= 4) {
                $keys = ($all->keyNames[$tail] ?? []) + ($all->keyStripped[$tail] ?? []);
                $found->toEach(\array_slice($keys, 0, Candidates::MOST), [Feature::KEY_ENDS => 1.0]);
            }
        }
        $this->byPartsOfKeys($found, $words);
    }

    /**
     * The name of a key with a role behind it or within it; the only key of a plain name with a role before it.
     *
     * @param list<string> $words
     */
    private function byPartsOfKeys(Gathered $found, array $words): void
    {
        $all = $this->all;
        $last = $words[\count($words) - 1] ?? '';
        for ($n = 1; $n < \count($words); ++$n) {
            $begin = \array_slice($words, 0, $n);
            if ($n > 1 && NameWords::isSureEnding($begin[$n - 1])) {
                $found->toEach(\array_slice($all->keyNames[implode('', $begin)] ?? [], 0, Candidates::MOST), [Feature::KEY_BEGINS => 1.0]);
            }
            if ($n < \count($words) - 1 && NameWords::isSureEnding($last)) {
                $found->toEach(\array_slice($all->keyNames[implode('', $begin).$last] ?? [], 0, Candidates::MOST), [Feature::KEY_AROUND => 1.0]);
            }
        }
        $root = \count($words) > 1 && NameWords::isPlain($last) && 1 === $all->roots->sharing($last) ? $all->roots->key($last) : null;
        if (null !== $root) {
            $found->add((int) $all->roots->of($last), $root, [Feature::KEY_ENDS => 1.0, Feature::PLAIN_ROOT => 1.0]);
        }
    }

    /** A candidate for where a key leads on to. */
    public function via(Candidate $first, Candidate $on): ?Candidate
    {
        $column = $this->all->tables[$first->from]->column($first->columns[0]);
        $type = null === $column ? null : $this->all->types[$first->from][$column->name];
        $fit = null === $type ? null : TypeFit::of($type, $this->all->types[$on->to][$on->key->columns[0]]);
        if (null === $column || null === $type || null === $fit || $first->from === $on->to && $on->key->columns[0] === $column->name) {
            return null;
        }
        $features = $this->features($first->from, $column, $type, $on->to, $on->key, null, $fit);

        return new Candidate($first->from, $first->columns, $on->key, $on->to, [Feature::VIA => 1.0] + $this->all->standings->standing(
            $first->from, $column->name) + $features);
    }

    /**
     * Names that speak of another row of the same table, or of somebody.
     *
     * @param list<string> $head
     */
    private function byRole(Gathered $found, int $i, Column $column, array $head): void
    {
        if ([] === $head) {
            return;
        }
        $all = $this->all;
        $own = NameWords::singular(NameWords::of($all->tables[$i]->name));
        if (NameWords::isSelf($head, $own, isset($all->people[$i][Feature::PEOPLE]))) {
            $found->toKeysOf($i, [Feature::SELF_ROLE => 1.0]);
        }
        if ($head === $own || !NameWords::isDoer($head) || $this->isWrittenOut($all->tables[$i], $column->name)) {
            return;
        }
        // Where the tables of a module have people of their own, it is those.
        $module = $all->names->modules[$i];
        $near = '' === $module ? [] : array_filter($all->people, static fn (int $j): bool => $module === $all->names->modules[$j], \ARRAY_FILTER_USE_KEY);
        $people = [] === $near ? $all->people : $near;
        $many = \count($people) > 1 ? [Feature::MANY_PEOPLE => log(\count($people))] : [];
        $many += 1 === preg_match(self::WRITTEN, $column->name) ? [Feature::ATTRIBUTE => 1.0] : [];
        foreach (\array_slice($people, 0, Candidates::MOST, true) as $j => $surely) {
            $found->toKeysOf($j, [Feature::DOER => 1.0] + $surely + $many);
        }
    }

    /** Whether somebody is written out there: `planner_name` beside `planner_email`. */
    private function isWrittenOut(Table $table, string $name): bool
    {
        $role = (string) preg_replace(self::WRITTEN, '', $name, 1, $cut);

        return 1 === $cut && [] !== array_filter($table->columns, static fn (Column $other): bool => $name !== $other->name
            && $role === preg_replace(self::WRITTEN, '', $other->name) && $role !== $other->name);
    }

    /** @return array<string, float> */
    public function features(int $i, Column $column, Type $type, int $j, JoinKey $key, ?NameMatch $match, TypeFit $fit): array
    {
        $by = [Feature::ANY => 1.0] + $this->ofName($i, $column, $j, $key, $match) + self::ofType($type, $key, $fit);
        // A table that has a field of the same name, which is not its key, stands beside this one rather than above it.
        if ($i !== $j && $key->columns[0] !== $column->name && isset($this->all->types[$j][$column->name])) {
            $by[Feature::SIBLING] = 1.0;
        }
        // With a role before it, the own name speaks of another row: `deputy_curator`.
        if ($i === $j && [] === ($match->role ?? [])) {
            $by[Feature::SELF] = 1.0;
        } elseif ($i === $j) {
            $by[Feature::SELF_NAMED] = 1.0;
        }
        $by += $this->ofTables($i, $j);
        if ($this->isTableAndKey($i, $column, $j, $key)) {
            $by[Feature::TABLE_KEY] = 1.0;
        }
        if ($i !== $j && 1 === \count($this->all->tables[$j]->columns) && Naming::folded($key->columns[0]) === Naming::folded($column->name)) {
            $by[Feature::LOOKUP] = 1.0;
        }
        $by += $this->ofRoots($i, $column, $j, $key) + $this->near($i, $j);
        $by += $this->ofUnique($i, $column, $j, $key);
        $composed = $this->composed($i, $j, $column->name);
        if ($composed > 0.0) {
            $by[Feature::COMPOSED] = $composed;
            if (isset($by[Feature::ENDING_FITS])) {
                $by[Feature::COMPOSED_KEY] = $composed;
            }
            // What the field does not say of the table's name, the referring table's says.
            unset($by[Feature::COVERS]);
            if (isset($by[Feature::SAME_END])) {
                $by[Feature::COMPOSED_END] = 1.0;
            }
        }
        if (null === $match && $this->all->elsewhere[$key->id()] ??= $this->calledElsewhere($j, $key->columns[0])) {
            $by[Feature::KEY_ELSEWHERE] = 1.0;
        }

        return $by;
    }

    /** @return array<string, float> what the two tables are to each other */
    private function ofTables(int $i, int $j): array
    {
        $by = [];
        if ('' !== $this->all->names->modules[$i] && $i !== $j && $this->all->names->modules[$i] === $this->all->names->modules[$j]) {
            $by[Feature::SAME_MODULE] = 1.0;
        }
        if ($this->all->tables[$i]->schema !== $this->all->tables[$j]->schema) {
            $by[Feature::OTHER_SCHEMA] = 1.0;
        }
        if ([] !== array_intersect(NameWords::of($this->all->tables[$j]->name), Candidates::COPIES)) {
            $by[Feature::COPY] = 1.0;
        }

        return $by;
    }

    /** @return array<string, float> whether it leads to a key beside the primary one */
    private function ofUnique(int $i, Column $column, int $j, JoinKey $key): array
    {
        if (JoinKey::UNIQUE !== $key->standing) {
            return [];
        }
        $near = Naming::folded($this->all->names->stripped($column->name, $i));
        $far = Naming::folded($this->all->names->stripped($key->columns[0], $j));
        $same = '' !== $far && str_ends_with($near, $far);
        // A number or a code that is unique is as good as the primary key; a word that is may be so by chance.
        if ($same && '' !== NameWords::ending($column->name)) {
            return [];
        }

        return [$same ? Feature::KEY_UNIQUE : Feature::KEY_OTHER => 1.0];
    }

    /** Whether a name ends in that of a table and of its key, where the key is not called as keys of numbers are. */
    private function isTableAndKey(int $i, Column $column, int $j, JoinKey $key): bool
    {
        if ($i === $j || NameWords::isSureEnding(Naming::folded($key->columns[0]))) {
            return false;
        }
        $near = $this->words($i, $column->name);
        $far = [...$this->all->names->bare->words[$j], ...$this->words($j, $key->columns[0])];

        return \array_slice($near, -\count($far)) === $far;
    }

    /** @return array<string, float> whether, of several keys that are called alike, it is the one that the others are about */
    private function ofRoots(int $i, Column $column, int $j, JoinKey $key): array
    {
        $root = $this->all->roots->of($key->columns[0]);
        if (null === $root || $this->all->roots->sharing($key->columns[0]) < 2) {
            return [];
        }
        $near = Naming::folded($this->all->names->stripped($column->name, $i));
        $far = Naming::folded($key->columns[0]);
        $same = Naming::folded($column->name) === $far;
        if (!$same && (NameWords::isPlain($key->columns[0]) || !str_ends_with($near, $far))) {
            return [];
        }
        $by = [$root === $j ? Feature::ROOT : Feature::NOT_ROOT => 1.0];
        if ($same && $root === $j && $i !== $j) {
            $by[Feature::SAME_ROOT] = 1.0;
        }
        if ($same && $root === $j && isset($this->all->standings->standing($i, $column->name)[Feature::OWN_KEY])) {
            $by[Feature::SUBKEY] = 1.0;
        }

        return $by;
    }

    /** @return array<string, float> how much the names of two tables have in common */
    private function near(int $i, int $j): array
    {
        if ($i === $j) {
            return [];
        }
        $here = $this->all->names->bare->words[$i];
        $there = $this->all->names->bare->words[$j];
        $n = 0;
        while (isset($here[$n], $there[$n]) && self::isWord($here[$n], $there[$n])) {
            ++$n;
        }
        $by = $n > 0 ? [Feature::NEAR => $n / max(\count($here), \count($there))] : [];
        if ($n === \count($there) && \count($here) > $n) {
            $by[Feature::OWN_BEGINS] = 1.0;
        }
        if (\count($here) > 1 && \count($there) > 1 && $here[\count($here) - 1] === $there[\count($there) - 1]) {
            $by[Feature::SAME_END] = 1.0;
        }
        $shared = array_intersect(\array_slice($here, $n), \array_slice($there, $n));
        if ([] !== $shared) {
            $by[Feature::SHARED] = \count($shared) / \count($there);
        }
        if ($this->all->names->bare->isLink($j)) {
            $by[Feature::LINK] = 1.0;
        }

        return $by;
    }

    /** @return list<string> of a field's name, in the singular, without what the fields of its table begin with */
    private function words(int $i, string $column): array
    {
        return $this->words[$i][$column] ??= NameWords::singular(NameWords::of($this->all->names->stripped($column, $i)));
    }

    /** Whether two words are the same, or one is short for the other. */
    private static function isWord(string $one, string $other): bool
    {
        return $one === $other || \strlen($one) > 2 && \strlen($other) > 2 && (NameWords::isShort($one, $other) || NameWords::isShort($other, $one));
    }

    /**
     * @param list<string> $some
     * @param list<string> $others
     */
    private static function areWords(array $some, array $others): bool
    {
        foreach ($some as $n => $word) {
            if (!isset($others[$n]) || !self::isWord($word, $others[$n])) {
                return false;
            }
        }

        return true;
    }

    /**
     * How much of the name of the referring table the other's begins, or begins and ends, with, where the rest is what the field is called.
     *
     * @param string $column of the referring one
     */
    private function composed(int $i, int $j, string $column): float
    {
        $here = $this->all->names->bare->words[$i];
        $there = $this->all->names->bare->words[$j];
        $head = $this->heads[$i][$column] ??= NameWords::head($this->words($i, $column));
        $n = \count($here);
        $of = \count($head);
        // What it is called stands somewhere in the name.
        if (0 === $of || $i === $j || \count($there) <= $of || \count($there) > $n + $of || !\in_array($head[0], $there, true)) {
            return 0.0;
        }
        for ($p = min($n, \count($there) - $of); $p >= 0; --$p) {
            if (self::areWords(\array_slice($here, 0, $p), \array_slice($there, 0, $p)) && \array_slice($there, $p, $of) === $head) {
                $rest = \array_slice($there, $p + $of);
                if ([] === $rest || $rest === \array_slice($here, -\count($rest)) && $p + \count($rest) <= $n) {
                    return sqrt(($p + \count($rest)) / $n);
                }
            }
        }

        return 0.0;
    }

    /** @return array<string, float> how the field's name answers to the table's */
    private function ofName(int $i, Column $column, int $j, JoinKey $key, ?NameMatch $match): array
    {
        $by = [];
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
            if (NameMatch::TAIL === $match->how && $i !== $j && $this->beginsWith($j, $i)
                && $this->composed($i, $j, $column->name) > 0.0) {
                $by[Feature::OWN_FIRST] = 1.0;
            }
            if (NameMatch::ROLE_AFTER === $match->how && [] !== array_intersect($match->role, self::ATTRIBUTES)) {
                $by[Feature::ATTRIBUTE] = 1.0;
            }
        }
        $ending = null !== $match && '' !== $match->ending ? $match->ending : NameWords::ending($column->name);
        if ('' === $ending && null !== $match) {
            $by[Feature::NO_ENDING] = 1.0;
        }
        if ('' !== $ending) {
            $fits = str_ends_with(Naming::folded($key->columns[0]), $ending) || \in_array($ending, ['ref', 'fk', 'key'], true);
            $by[$fits ? Feature::ENDING_FITS : Feature::ENDING_OTHER] = 1.0;
        }

        return $by;
    }

    /** @return array<string, float> how the field's type fits the key's, and how sure the key is */
    private static function ofType(Type $type, JoinKey $key, TypeFit $fit): array
    {
        $by = [];
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
        if (JoinKey::LIKELY === $key->standing) {
            $by[Feature::KEY_LIKELY] = 1.0;
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
}
