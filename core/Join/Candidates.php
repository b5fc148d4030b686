<?php

declare(strict_types=1);

namespace Fasti\Core\Join;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Catalog\Type;
use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Dialect\Dialect;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Wording\Naming;

/** The places to which each field of a catalog may lead, by names, types and keys. */
final class Candidates
{
    /** Of one field; what names say least is left out. */
    private const MOST = 12;
    private const ATTRIBUTES = ['name', 'count', 'type', 'status', 'date', 'time', 'title', 'description', 'email', 'phone', 'address', 'amount', 'total',
        'price', 'cost', 'value', 'label', 'text', 'at', 'on',
        'flag', 'rate', 'size', 'length', 'weight', 'height', 'percent', 'level', 'state', 'kind', 'year', 'month', 'day', 'note', 'comment', 'url',
        'image', 'hash', 'version', 'order', 'rank', 'score',
        'qty', 'quantity', 'limit', 'sum', 'avg', 'min', 'max', 'hours', 'minutes', 'since', 'until', 'number', 'no', 'desc', 'city', 'zip', 'fax', 'mail',
        'balance', 'due'];
    private const COPIES = [
        'archive',
        'archived',
        'tmp',
        'temp',
        'bak',
        'backup',
        'old',
        'copy',
        'hist',
        'history',
        'stg',
        'staging',
        'import',
        'audit',
        'log',
        'deleted',
        'snapshot',
        'summary',
        'load',
        'raw',
    ];

    private const NAMING = ['name', 'title', 'description', 'type', 'kind', 'status', 'value', 'label', 'text'];

    /** @var array<int, Table> */
    public readonly array $tables;
    /** @var array<int, list<JoinKey>> */
    public readonly array $keys;
    public readonly Namebook $names;
    private readonly Dialect $dialect;
    /** @var array<string, int> key of the place → table */
    private array $at = [];
    /** @var array<array-key, array<string, array{int, JoinKey}>> folded name of a key's field → keys */
    private array $keyNames = [];
    /** @var array<array-key, array<string, array{int, JoinKey}>> the same, without what the table's fields begin with */
    private array $keyStripped = [];
    /** @var array<array-key, array<int, true>> field's folded name → tables with a composite key that holds it */
    private array $composite = [];
    /** @var array<int, array<string, float>> tables of people → what shows that they are */
    private array $people = [];
    /** @var array<string, true> endings that keys have in this catalog */
    private array $endings = [];
    /** @var array<string, bool> by id of the key */
    private array $elsewhere = [];
    /** @var array<int, array<string, Type>> */
    private array $types = [];
    /** @var array<int, array<string, array<string, float>>> */
    private array $standing = [];
    /** @var array<string, int> how many tables have a field of this name */
    private array $common = [];
    /** @var list<array{int, string, list<string>}> */
    private array $wordsOf = [];

    public function __construct(private readonly Catalog $catalog)
    {
        $this->dialect = Dialects::ofCatalog($catalog);
        $this->tables = array_filter($catalog->tables, static fn (Table $table): bool => !$table->kind->isView());
        $keys = [];
        foreach ($this->tables as $i => $table) {
            $keys[$i] = TableType::Collection === $table->kind ? [] : JoinKey::of($table);
            $this->at[$table->place()->key()] = $i;
        }
        $this->keys = $keys;
        $this->names = new Namebook($this->tables, $keys);
        $endings = [];
        foreach ($this->tables as $i => $table) {
            $this->learn($i, $table);
            foreach ($keys[$i] as $key) {
                $ending = $key->single() && JoinKey::PRIMARY === $key->standing ? NameWords::ending($key->columns[0]) : '';
                if ('' !== $ending) {
                    $endings[$ending] = ($endings[$ending] ?? 0) + 1;
                }
            }
        }
        $surely = array_filter($this->people, static fn (array $signs): bool => isset($signs[Feature::PEOPLE]));
        $this->people = [] === $surely ? $this->people : $surely;
        $this->endings = array_map(static fn (): bool => true, array_filter($endings, static fn (int $n): bool => $n >= max(2, 0.25 * array_sum($endings))));
    }

    /** @return array<string, list<Candidate>> by table and fields */
    public function all(Hints $hints = new Hints([])): array
    {
        $units = [];
        foreach ($this->tables as $i => $table) {
            foreach ($table->columns as $column) {
                $found = $this->single($i, $column, $hints);
                if ([] !== $found) {
                    $units[self::unit($i, [$column->name])] = $found;
                }
            }
            foreach ($this->composites($i, $hints) as $unit => $found) {
                $units[$unit] = $found;
            }
        }

        return $units;
    }

    /** @return array<int, list<string>> fields that may hold a key by their type, whatever they are called */
    public function plain(): array
    {
        $plain = [];
        foreach ($this->tables as $i => $table) {
            foreach ($table->columns as $column) {
                $type = $this->types[$i][$column->name];
                $family = TypeFit::family($type);
                $by = $this->standing($i, $column->name);
                if (null === $family || TypeFamily::Time === $family || isset($by[Feature::LONG_TEXT]) || isset($by[Feature::MEMBERS])
                    || isset($by[Feature::NUMBERED_KEY]) || isset($by[Feature::OWN_KEY])
                    || TypeFamily::Number === $type->family && null === $type->length) {
                    continue;
                }
                $plain[$i][] = $column->name;
            }
        }

        return $plain;
    }

    /** A candidate for which names say nothing. */
    public function unnamed(int $i, string $column, int $j, JoinKey $key): ?Candidate
    {
        $table = $this->tables[$i];
        $of = $table->column($column);
        $type = $this->types[$i][$column];
        $fit = TypeFit::of($type, $this->types[$j][$key->columns[0]]);
        if (null === $of || $i === $j && $key->columns[0] === $column || null === $fit || TypeFit::Loose === $fit) {
            return null;
        }

        $features = [Feature::UNNAMED => 1.0] + $this->standing($i, $column) + $this->features($i, $of, $type, $j, $key, null, $fit);
        // Where names say nothing, the own table is as good as any.
        unset($features[Feature::SELF]);

        return new Candidate($i, [$column], $key, $j, $features);
    }

    /** @param list<string> $columns */
    public static function unit(int $table, array $columns): string
    {
        return $table."\0".implode("\0", $columns);
    }

    public function type(int $table, string $column): Type
    {
        return $this->types[$table][$column];
    }

    /** @return ?int the table that stands there */
    public function tableAt(string $place): ?int
    {
        return $this->at[$place] ?? null;
    }

    private function learn(int $i, Table $table): void
    {
        foreach ($table->columns as $column) {
            $this->types[$i][$column->name] = $this->dialect->typeOf($column);
            $folded = Naming::folded($column->name);
            $this->common[$folded] = ($this->common[$folded] ?? 0) + 1;
        }
        foreach ($this->keys[$i] as $key) {
            foreach ($key->columns as $name) {
                $folded = Naming::folded($name);
                $stripped = Naming::folded($this->names->stripped($name, $i));
                if ($key->single()) {
                    if (!NameWords::isPlain($name)) {
                        $this->keyNames[$folded][$key->id()] = [$i, $key];
                    }
                    if ($stripped !== $folded && \strlen($stripped) > 2 && !NameWords::isPlain($stripped)) {
                        $this->keyStripped[$stripped][$key->id()] = [$i, $key];
                    }
                } else {
                    $this->composite[$folded][$i] = true;
                    $this->composite[$stripped][$i] = true;
                }
            }
        }
        $words = NameWords::singular(NameWords::of($table->name));
        $last = $words[\count($words) - 1] ?? '';
        if (NameWords::isPerson($last) || NameWords::isDoer([$last]) || self::ofPeople($table)) {
            $this->people[$i] = array_filter([
                Feature::PEOPLE => NameWords::isPerson($last) && self::hasNames($table) || self::ofPeople($table) ? 1.0 : 0.0,
                Feature::USERS => NameWords::isUser($last) ? 1.0 : 0.0,
            ]);
        }
        if (\strlen(implode('', $words)) >= 4) {
            $this->wordsOf[] = [$i, implode(' ', $words), $words];
        }
    }

    /** @return list<Candidate> */
    private function single(int $i, Column $column, Hints $hints): array
    {
        $table = $this->tables[$i];
        $type = $this->types[$i][$column->name];
        $family = TypeFit::family($type);
        $hinted = $hints->from($table->place()->key(), [$column->name]);
        if (null === $family && [] === $hinted) {
            return [];
        }
        $standing = $this->standing($i, $column->name);
        /** @var array<string, Candidate> $found */
        $found = [];
        foreach ($this->names->answers($column->name, $i) as $j => $match) {
            foreach ($this->keys[$j] as $key) {
                if ($key->single()) {
                    $this->add($found, $i, $column, $type, $j, $key, $standing, $match, []);
                }
            }
        }
        $folded = Naming::folded($column->name);
        foreach ($this->keyNames[$folded] ?? [] as [$j, $key]) {
            $this->add($found, $i, $column, $type, $j, $key, $standing, null, [Feature::KEY_EQUAL => 1.0]);
        }
        $stripped = Naming::folded($this->names->stripped($column->name, $i));
        foreach ($stripped === $folded ? [] : ($this->keyStripped[$stripped] ?? []) + ($this->keyNames[$stripped] ?? []) as [$j, $key]) {
            $this->add($found, $i, $column, $type, $j, $key, $standing, null, [Feature::KEY_STRIPPED => 1.0]);
        }
        foreach ($stripped === $folded ? $this->keyStripped[$folded] ?? [] : [] as [$j, $key]) {
            $this->add($found, $i, $column, $type, $j, $key, $standing, null, [Feature::KEY_STRIPPED => 1.0]);
        }
        $words = NameWords::of($this->names->stripped($column->name, $i));
        for ($n = 1; $n < \count($words); ++$n) {
            $tail = implode('', \array_slice($words, $n));
            if (\strlen($tail) >= 4) {
                foreach (\array_slice(($this->keyNames[$tail] ?? []) + ($this->keyStripped[$tail] ?? []), 0, self::MOST) as [$j, $key]) {
                    $this->add($found, $i, $column, $type, $j, $key, $standing, null, [Feature::KEY_ENDS => 1.0]);
                }
            }
        }
        $head = NameWords::head(NameWords::singular($words));
        $own = NameWords::singular(NameWords::of($table->name));
        // What tells the rows of its own table apart leads nowhere by a role.
        $free = !isset($standing[Feature::OWN_KEY]) && !isset($standing[Feature::NUMBERED_KEY]);
        if ($free && [] !== $head && NameWords::isSelf($head, $own, isset($this->people[$i][Feature::PEOPLE]))) {
            foreach ($this->keys[$i] as $key) {
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
            $module = $this->names->modules[$i];
            $near = '' === $module ? [] : array_filter($this->people, fn (int $j): bool => $module === $this->names->modules[$j], \ARRAY_FILTER_USE_KEY);
            $people = [] === $near ? $this->people : $near;
            foreach (\array_slice($people, 0, self::MOST, true) as $j => $surely) {
                foreach ($this->keys[$j] as $key) {
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
        foreach ($this->mentioned($column->comment) as $j) {
            foreach ($this->keys[$j] as $key) {
                if ($key->single()) {
                    $this->add($found, $i, $column, $type, $j, $key, $standing, null, [Feature::COMMENT => 1.0]);
                }
            }
        }
        $refers = $this->dialect->refersTo($type);
        if ('' !== $refers) {
            foreach ($this->tables as $j => $other) {
                foreach ($refers === $other->name ? $this->keys[$j] : [] as $key) {
                    if ($key->single()) {
                        $this->add($found, $i, $column, $type, $j, $key, $standing, null, [Feature::TYPE_NAMES => 1.0]);
                    }
                }
            }
        }
        foreach ($hinted as $hint) {
            $j = $this->at[$hint->to->key()] ?? null;
            if (null === $j) {
                continue;
            }
            foreach ($this->keys[$j] as $key) {
                if ($key->columns === $hint->toColumns) {
                    $this->add($found, $i, $column, $type, $j, $key, $standing, null, [$hint->feature => 1.0], [$hint->where]);
                }
            }
        }
        if (\count($found) > self::MOST) {
            uasort($found, static fn (Candidate $a, Candidate $b): int => self::promise($b) <=> self::promise($a));
            $found = \array_slice($found, 0, self::MOST, true);
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
        $fit = TypeFit::of($type, $this->types[$j][$key->columns[0]]);
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
    private function features(int $i, Column $column, Type $type, int $j, JoinKey $key, ?NameMatch $match, TypeFit $fit): array
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
        if ($i !== $j && $key->columns[0] !== $column->name && isset($this->types[$j][$column->name])) {
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
        if ('' !== $this->names->modules[$i] && $i !== $j && $this->names->modules[$i] === $this->names->modules[$j]) {
            $by[Feature::SAME_MODULE] = 1.0;
        }
        if ($this->tables[$i]->schema !== $this->tables[$j]->schema) {
            $by[Feature::OTHER_SCHEMA] = 1.0;
        }
        if ([] !== array_intersect(NameWords::of($this->tables[$j]->name), self::COPIES)) {
            $by[Feature::COPY] = 1.0;
        }
        if (null === $match && $this->elsewhere[$key->id()] ??= $this->calledElsewhere($j, $key->columns[0])) {
            $by[Feature::KEY_ELSEWHERE] = 1.0;
        }

        return $by;
    }

    /** Whether the name of a table begins with that of another: `order_status` and `order`. */
    private function beginsWith(int $long, int $short): bool
    {
        $name = Naming::folded($this->tables[$long]->name);
        $begin = implode('', NameWords::singular(NameWords::of($this->tables[$short]->name)));

        return \strlen($begin) >= 3 && \strlen($name) > \strlen($begin) && str_starts_with($name, $begin);
    }

    private function calledElsewhere(int $j, string $key): bool
    {
        $here = $this->names->answers($key, $j)[$j]->how ?? 99;
        foreach ($this->names->answers($key, $j) as $k => $match) {
            if ($k !== $j && \in_array($match->how, [NameMatch::EQUAL, NameMatch::ALIAS], true) && $here > $match->how) {
                return true;
            }
        }

        return false;
    }

    private static function hasNames(Table $table): bool
    {
        foreach ($table->columns as $column) {
            if (1 === preg_match('/name|mail|login|phone/i', $column->name)) {
                return true;
            }
        }

        return \count($table->columns) < 3;
    }

    /** Whether a table's fields are those of people: first and last name, date of birth, address of mail. */
    private static function ofPeople(Table $table): bool
    {
        $signs = 0;
        foreach ($table->columns as $column) {
            $signs += preg_match('/(?:first|last|full|given|family|sur|fore)_?name|birth|e_?mail|login|user_?name|password|gender/i', $column->name);
        }

        return $signs >= 2 || 1 === $signs && \count($table->columns) < 9;
    }

    /** @return array<string, float> what the field is in its own table */
    private function standing(int $i, string $column): array
    {
        return $this->standing[$i][$column] ??= $this->stand($i, $column);
    }

    /** @return array<string, float> */
    private function stand(int $i, string $name): array
    {
        $table = $this->tables[$i];
        $by = [];
        $column = $table->column($name);
        $primary = $table->primaryKey->columns ?? [];
        if ([$name] === $primary) {
            $by[true === $column?->autoNumbered ? Feature::NUMBERED_KEY : Feature::OWN_KEY] = 1.0;
            // A key that is called after its own table begins there.
            $own = $this->names->answers($name, $i)[$i]->how ?? 99;
            if (NameMatch::EQUAL === $own) {
                $by[Feature::OWN_NAMED] = 1.0;
            }
        } elseif (\in_array($name, $primary, true)) {
            $by[Feature::KEY_PART] = 1.0;
        }
        foreach ([] === $primary ? $this->keys[$i] : [] as $key) {
            if ([$name] === $key->columns && JoinKey::LIKELY === $key->standing) {
                $by[Feature::OWN_KEY] = 1.0;
            }
        }
        foreach ($table->uniqueKeys as $key) {
            if ([$name] === $key->columns) {
                $by[Feature::OWN_UNIQUE] = 1.0;
            }
        }
        foreach ($table->indexes as $index) {
            if (isset($index->parts[0]) && $name === $index->parts[0]->column && !$index->unique) {
                $by[Feature::INDEX] = 1.0;
            }
        }
        if (NameWords::isPlain($name)) {
            $by[Feature::PLAIN] = 1.0;
        }
        $words = NameWords::of($name);
        while ([] !== $words && ctype_digit($words[\count($words) - 1])) {
            array_pop($words);
        }
        $last = $words[\count($words) - 1] ?? '';
        $sure = NameWords::isSureEnding($last) || isset($this->endings[$last]) || \count($words) > 1 && NameWords::isBefore($words[0]);
        if (TypeFit::isSpecial($this->types[$i][$name])) {
            $by[Feature::SPECIAL] = 1.0;
        }
        if ($sure) {
            $by[Feature::ENDING_SURE] = 1.0;
        } elseif (NameWords::isKeyEnding($last)) {
            $by[Feature::ENDING_MAYBE] = 1.0;
        } elseif (1 === preg_match('/(?:id|key|no|nr|num|ref|code|oid)$/', strtolower($name))) {
            $by[Feature::ENDING_RUN] = 1.0;
        }
        $type = $this->types[$i][$name];
        if (TypeFamily::Text === $type->family && (null === $type->length || $type->length > 120) && [] === $type->members) {
            $by[Feature::LONG_TEXT] = 1.0;
        }if ([] !== $type->members) {
            $by[Feature::MEMBERS] = 1.0;
        }
        if (TypeFamily::Whole !== $type->family && TypeFamily::Number === $type->family) {
            $by[Feature::NUMBER] = 1.0;
        }
        if (null !== $column?->generated) {
            $by[Feature::COMPUTED] = 1.0;
        }

        return $by;
    }

    /** @return list<int> tables that a comment names */
    private function mentioned(string $comment): array
    {
        if ('' === trim($comment) || mb_strlen($comment) > 400) {
            return [];
        }
        $said = ' '.implode(' ', NameWords::singular(NameWords::of($comment))).' ';
        $found = [];
        foreach ($this->wordsOf as [$j, $phrase]) {
            if (str_contains($said, ' '.$phrase.' ')) {
                $found[] = $j;
            }
        }

        return \count($found) > 3 ? [] : $found;
    }

    /** @return array<string, list<Candidate>> */
    private function composites(int $i, Hints $hints): array
    {
        $table = $this->tables[$i];
        $counts = [];
        foreach ($table->columns as $column) {
            $names = array_unique([Naming::folded($column->name), Naming::folded($this->names->stripped($column->name, $i))]);
            $words = NameWords::of($column->name);
            for ($n = 1; $n < \count($words); ++$n) {
                $names[] = implode('', \array_slice($words, $n));
            }
            $near = [];
            foreach ($names as $name) {
                $near += \count($this->composite[$name] ?? []) > 2 * self::MOST ? [] : $this->composite[$name] ?? [];
            }
            foreach ($this->names->answers($column->name, $i) as $j => $match) {
                $near[$j] = true;
            }
            foreach ($near as $j => $true) {
                $counts[$j] = ($counts[$j] ?? 0) + 1;
            }
        }
        $units = [];
        foreach ($counts as $j => $n) {
            foreach ($j === $i && $n < 2 ? [] : $this->keys[$j] as $key) {
                foreach ($key->single() ? [] : $this->composed($i, $j, $key) as $found) {
                    $units[self::unit($i, $found->columns)][] = $found;
                }
            }
        }
        foreach ($hints->composite($table->place()->key()) as $hint) {
            $j = $this->at[$hint->to->key()] ?? null;
            if (null === $j) {
                continue;
            }
            foreach ($this->keys[$j] as $key) {
                $order = array_map(static fn (string $column): int|false => array_search($column, $hint->toColumns, true), $key->columns);
                if (!$key->single() && !\in_array(false, $order, true)) {
                    $columns = array_map(static fn (int|false $at): string => $hint->columns[(int) $at], $order);
                    $unit = self::unit($i, $columns);
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
        $answers = [];
        $roles = [];
        foreach ($key->columns as $at => $name) {
            foreach ($this->tables[$i]->columns as $column) {
                if ($i === $j && $column->name === $name) {
                    continue;
                }
                $fit = TypeFit::of($this->types[$i][$column->name], $this->types[$j][$name]);
                if (null === $fit || TypeFit::Loose === $fit) {
                    continue;
                }
                $score = $this->answer($i, $column->name, $j, $name) - (TypeFit::Size === $fit ? 0.05 : 0.0);
                if ($score >= 0.3) {
                    $role = $this->roleBefore($i, $column->name, $j, $name);
                    $answers[$at][] = [$column->name, $score, $role];
                    if ($score >= 0.7) {
                        $roles[$role] = ($roles[$role] ?? 0) + 1;
                    }
                }
            }
            if (!isset($answers[$at])) {
                return [];
            }
        }
        $found = [];
        arsort($roles);
        foreach (\array_slice($roles, 0, 6, true) as $role => $times) {
            $columns = $scores = [];
            foreach ($answers as $of) {
                $best = null;
                $most = 0.0;
                foreach ($of as [$column, $score, $before]) {
                    // A field of the same role first; what several roles share is without one.
                    $score += match (true) {
                        $before === (string) $role => 0.5,
                        '' === $before => 0.2,
                        default => 0.0,
                    };
                    if ($score > $most && !\in_array($column, $columns, true)) {
                        $most = $score;
                        $best = [$column, $score - (match (true) {
                            $before === (string) $role => 0.5,
                            '' === $before => 0.2,
                            default => 0.0,
                        }), $before];
                    }
                }
                if (null === $best) {
                    continue 2;
                }
                if ('' !== $best[2] && $best[2] !== (string) $role) {
                    continue 2;
                }
                $columns[] = $best[0];
                $scores[] = $best[1];
            }
            $candidate = $this->composite($i, $j, $key, $columns, $scores);
            if (null !== $candidate) {
                $found[implode("\0", $columns)] ??= $candidate;
            }
        }

        return array_values($found);
    }

    /** What stands before the name of the key's field: `from` of `from_zone`. */
    private function roleBefore(int $i, string $column, int $j, string $keyColumn): string
    {
        $near = Naming::folded($this->names->stripped($column, $i));
        foreach ([Naming::folded($keyColumn), Naming::folded($this->names->stripped($keyColumn, $j))] as $far) {
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
        $table = $this->tables[$i];
        $sure = \count(array_filter($scores, static fn (float $score): bool => $score >= 0.9));
        $array = [] !== array_filter($columns, fn (string $column): bool => $this->types[$i][$column]->array) ? 1.0 : 0.0;
        $others = $scores;
        sort($others);
        if (max($scores) < 0.55 || ($others[1] ?? 0.0) < 0.55 || $others[0] < 0.5 && ($others[1] < 0.7 || 0.0 === $array)) {
            return null;
        }
        $by = [Feature::ANY => 1.0, Feature::COMPOSITE => 1.0, Feature::WEAKEST => min($scores), Feature::ALL_SURE => $sure === \count($scores) ? 1.0 : 0.0];
        foreach ($key->columns as $name) {
            if (\in_array(strtolower($this->names->stripped($name, $j)), self::NAMING, true)) {
                $by[Feature::PLAIN_PART] = 1.0;
            }
        }
        if ([] === array_diff($columns, $table->primaryKey->columns ?? [])) {
            $by[Feature::KEY_PART] = 1.0;
            if (\count($columns) === \count($table->primaryKey->columns ?? [])) {
                $by[Feature::SAME_KEY] = 1.0;
            }
        }
        foreach ($this->keys[$i] as $own) {
            if ([] === array_diff($own->columns, $columns)) {
                $by[Feature::SAME_KEY] = 1.0;
            }
        }
        $i === $j ? $by[Feature::SELF] = 1.0 : ($this->alike($i, $j) && $by[Feature::SAME_SHAPE] = 1.0);
        if ($this->tables[$i]->schema !== $this->tables[$j]->schema) {
            $by[Feature::OTHER_SCHEMA] = 1.0;
        }
        if ($array > 0) {
            $by[Feature::LIST] = 1.0;
        }
        if ([] !== array_filter($columns, fn (string $column): bool => TypeFamily::Time === $this->types[$i][$column]->family)) {
            $by[Feature::TIME] = 1.0;
        }
        if (JoinKey::UNIQUE === $key->standing) {
            $by[Feature::KEY_UNIQUE] = 1.0;
        }
        foreach ($table->indexes as $index) {
            $parts = array_map(static fn ($part): string => $part->column, \array_slice($index->parts, 0, \count($columns)));
            if ([] === array_diff($columns, $parts)) {
                $by[Feature::INDEX] = 1.0;
            }
        }
        // A key whose fields all lead elsewhere is that of a link: what holds both fields as well is seldom about the link.
        $leading = 0;
        foreach ($key->columns as $name) {
            foreach ($this->names->answers($name, $j) as $k => $match) {
                if ($k !== $j && $match->how <= NameMatch::ROLE_AFTER && '' !== $match->ending) {
                    ++$leading;
                    break;
                }
            }
        }
        if ($leading === \count($key->columns)) {
            $by[Feature::LINK_KEY] = 1.0;
        }
        if ([] !== array_intersect(NameWords::of($this->tables[$j]->name), self::COPIES)) {
            $by[Feature::COPY] = 1.0;
        }

        return new Candidate($i, $columns, $key, $j, array_filter($by, static fn (float $value): bool => 0.0 !== $value));
    }

    /** Whether two tables have the same fields but for a few: one is a copy of the other, or both are of one kind. */
    private function alike(int $i, int $j): bool
    {
        $near = array_keys($this->types[$i]);
        $far = array_keys($this->types[$j]);
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
        $nearStripped = Naming::folded($this->names->stripped($column, $i));
        $farStripped = Naming::folded($this->names->stripped($keyColumn, $j));
        if ($nearStripped === $farStripped && \strlen($farStripped) >= 2) {
            return 0.95;
        }
        if (\strlen($farStripped) >= 3 && (str_ends_with($near, $farStripped) || str_ends_with($near, $far))) {
            return 0.8;
        }
        $match = $this->names->answers($column, $i)[$j] ?? null;
        if (null !== $match && $match->how <= NameMatch::ROLE_AFTER && ('' === $match->ending || str_ends_with($far, $match->ending))) {
            return '' === $match->ending && \strlen($far) > 5 ? 0.5 : 0.75;
        }
        // What the key's field is about, this field may be about too: method.lab_code and laboratory.
        foreach ($this->names->answers($keyColumn, $j) as $k => $there) {
            $here = $this->names->answers($column, $i)[$k] ?? null;
            if ($k !== $j && null !== $here && $there->how <= NameMatch::ROLE_AFTER && $here->how <= NameMatch::ROLE_AFTER) {
                return 0.7;
            }
        }
        // The name of the key's field in a short form, or as the end of a word.
        if (\strlen($nearStripped) >= 2 && (NameWords::isShort(
            $nearStripped,
            $farStripped,
        ) || \strlen($farStripped) >= 3 && str_ends_with($nearStripped, $farStripped))) {
            return 0.6;
        }

        return $this->types[$i][$column]->array && !$this->types[$j][$keyColumn]->array && TypeFit::Same === TypeFit::of(
            $this->types[$i][$column],
            $this->types[$j][$keyColumn],
        ) ? 0.35 : 0.0;
    }
}
