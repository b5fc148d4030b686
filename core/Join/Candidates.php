<?php

declare(strict_types=1);

namespace Fasti\Core\Join;

use Fasti\Core\Catalog\Catalog;
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
    public const MOST = 12;
    public const COPIES = [
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

    /** @var array<int, Table> */
    public readonly array $tables;
    /** @var array<int, list<JoinKey>> */
    public array $keys;
    public readonly Namebook $names;
    public readonly Dialect $dialect;
    /** @var array<string, int> key of the place → table */
    public array $at = [];
    /** @var array<array-key, array<string, array{int, JoinKey}>> folded name of a key's field → keys */
    public array $keyNames = [];
    /** @var array<array-key, array<string, array{int, JoinKey}>> the same, without what the table's fields begin with */
    public array $keyStripped = [];
    /** @var array<array-key, array<int, true>> field's folded name → tables with a composite key that holds it */
    public array $composite = [];
    /** @var array<int, array<string, float>> tables of people → what shows that they are */
    public array $people = [];
    /** @var array<string, true> endings that keys have in this catalog */
    public array $endings = [];
    /** @var array<string, bool> by id of the key */
    public array $elsewhere = [];
    /** @var array<int, array<string, Type>> */
    public array $types = [];
    /** @var array<int, array<string, array<string, float>>> */
    public array $standing = [];
    /** @var array<string, int> how many tables have a field of this name */
    private array $common = [];
    /** @var list<array{int, string, list<string>}> */
    public array $wordsOf = [];

    private ?bool $unmeasured = null;
    public readonly Roots $roots;
    public readonly SingleCandidates $singles;
    public readonly Standing $standings;
    public readonly CompositeCandidates $compositesOf;

    public function __construct(private readonly Catalog $catalog)
    {
        $this->singles = new SingleCandidates($this);
        $this->standings = new Standing($this);
        $this->compositesOf = new CompositeCandidates($this);
        $this->dialect = Dialects::ofCatalog($catalog);
        $this->tables = array_filter($catalog->tables, static fn (Table $table): bool => !$table->kind->isView());
        $keys = [];
        foreach ($this->tables as $i => $table) {
            $keys[$i] = TableType::Collection === $table->kind ? [] : JoinKey::of($table);
            $this->at[$table->place()->key()] = $i;
        }
        $this->keys = $keys;
        $this->names = new Namebook($this->tables, $keys);
        $this->roots = new Roots($this);
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
                $found = $this->singles->single($i, $column, $hints);
                if ([] !== $found) {
                    $units[self::unit($i, [$column->name])] = $found;
                }
            }
            foreach ($this->compositesOf->composites($i, $hints) as $unit => $found) {
                $units[$unit] = $found;
            }
        }
        $this->leadOn($units);

        return $units;
    }

    /**
     * Where a field may lead to a key that may itself lead on, it may lead to where that one leads.
     *
     * @param array<string, list<Candidate>> $units
     */
    private function leadOn(array &$units): void
    {
        foreach ($units as $unit => $found) {
            $known = [];
            foreach ($found as $candidate) {
                $known[$candidate->key->id()] = true;
            }
            foreach (1 === \count($found[0]->columns) ? $found : [] as $candidate) {
                $next = $candidate->key->single() ? $units[self::unit($candidate->to, $candidate->key->columns)] ?? [] : [];
                foreach (\array_slice($next, 0, 4) as $on) {
                    if (!isset($known[$on->key->id()]) && \count($units[$unit]) < 2 * self::MOST && 1 === \count($on->columns)) {
                        $known[$on->key->id()] = true;
                        $via = $this->singles->via($candidate, $on);
                        if (null !== $via) {
                            $units[$unit][] = $via;
                        }
                    }
                }
            }
        }
    }

    /** @return array<int, list<string>> fields that may hold a key by their type, whatever they are called */
    public function plain(): array
    {
        $plain = [];
        foreach ($this->tables as $i => $table) {
            foreach ($table->columns as $column) {
                $type = $this->types[$i][$column->name];
                $family = TypeFit::family($type);
                $by = $this->standings->standing($i, $column->name);
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

        $features = [Feature::UNNAMED => 1.0] + $this->standings->standing($i, $column) + $this->singles->features($i, $of, $type, $j, $key, null, $fit);
        // Where names say nothing, the own table is as good as any.
        unset($features[Feature::SELF]);

        return new Candidate($i, [$column], $key, $j, $features);
    }

    /** Whether texts have no length here, mostly: then one without says nothing. */
    public function unmeasured(): bool
    {
        if (null === $this->unmeasured) {
            $texts = $without = 0;
            foreach ($this->types as $types) {
                foreach ($types as $type) {
                    $texts += TypeFamily::Text === $type->family ? 1 : 0;
                    $without += TypeFamily::Text === $type->family && null === $type->length ? 1 : 0;
                }
            }
            $this->unmeasured = $without > 0.7 * $texts;
        }

        return $this->unmeasured;
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
        if (NameWords::isPerson($last) || NameWords::isDoer([$last]) || Standing::isOfPeople($table, $words)) {
            $this->people[$i] = array_filter([
                Feature::PEOPLE => Standing::isOfPeople($table, $words) ? 1.0 : 0.0,
                Feature::USERS => NameWords::isUser($last) ? 1.0 : 0.0,
            ]);
        }
        if (\strlen(implode('', $words)) >= 4) {
            $this->wordsOf[] = [$i, implode(' ', $words), $words];
        }
    }
}
