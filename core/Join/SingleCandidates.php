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
        $this->byNamesOfKeys($found, $i, $column, $words);
        // What tells the rows of its own table apart leads nowhere by a role.
        if (!isset($standing[Feature::OWN_KEY]) && !isset($standing[Feature::NUMBERED_KEY])) {
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

        return $found->most(Candidates::MOST);
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
        if ($head === $own || !NameWords::isDoer($head)) {
            return;
        }
        // Where the tables of a module have people of their own, it is those.
        $module = $all->names->modules[$i];
        $near = '' === $module ? [] : array_filter($all->people, static fn (int $j): bool => $module === $all->names->modules[$j], \ARRAY_FILTER_USE_KEY);
        $people = [] === $near ? $all->people : $near;
        $many = \count($people) > 1 ? [Feature::MANY_PEOPLE => log(\count($people))] : [];
        foreach (\array_slice($people, 0, Candidates::MOST, true) as $j => $surely) {
            $found->toKeysOf($j, [Feature::DOER => 1.0] + $surely + $many);
        }
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
        if (JoinKey::UNIQUE === $key->standing) {
            $by[Feature::KEY_UNIQUE] = 1.0;
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
