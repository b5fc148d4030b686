<?php

declare(strict_types=1);

namespace Fasti\Core\Draft;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Dialect\Dialect;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Join\CatalogLinks;
use Fasti\Core\Join\NameWords;
use Fasti\Core\Join\Proposal;
use Fasti\Core\Join\Verbs;
use Fasti\Core\Profile\TableProfile;
use Fasti\Core\Wording\Naming;

/**
 * What drafts are made from: entries of any number of sources with what the data and people say of them, by number. Everything that
 * several fields ask is worked out once.
 */
final class Material
{
    /** Of the texts that fields of a name have, so many are looked at, and so many places of each. */
    private const SAYINGS = 2;
    private const PLACES = 10;

    /** @var array<int, array<string, list<Lead>>> entry → field → joins that it holds the reference of */
    private array $fieldLeads = [];
    /** @var array<string, array<string, list<array{int, string, string}>>> property → folded words of a name → entry, field, text */
    private array $said = [];
    /** @var array<string, array<string, list<array{string, non-empty-list<array{int, string}>, int}>|null>> property → folded name */
    private array $sayings = [];
    /** @var array<string, array{int, int}> property → how many pairs of fields of one name are described alike, and how many are at all */
    private array $agreement = [];
    /** @var array<int, array<string, FieldName>> */
    private array $names = [];
    /** @var array<int, string> */
    private array $nouns = [];
    /** @var array<int, array<string, true>> */
    private array $columnNames = [];
    public readonly Abbreviations $abbreviations;

    /**
     * @param array<int, Table>                                     $tables
     * @param array<int, Dialect>                                   $dialects of each
     * @param array<int, list<Lead>>                                $leads    of each
     * @param array<int, array<string, Said>>                       $texts    entry → field → what is said of it; '' is the entry itself
     * @param array<int, TableProfile>                              $profiles
     * @param array<string, list<string>>                           $lists    name of a code list → its codes
     * @param array<string, string>                                 $short    short forms on the register's list
     * @param array<int, array<string, array{int, string}>>         $origins  field of a view → the field it is taken from as it is
     * @param array<string, string>                                 $terms    glossary terms in small letters → definition
     */
    public function __construct(
        public readonly array $tables,
        private readonly array $dialects,
        public readonly array $leads = [],
        private readonly array $texts = [],
        public readonly array $profiles = [],
        public readonly array $lists = [],
        array $short = [],
        public readonly array $origins = [],
        public readonly array $terms = [],
        ?Abbreviations $abbreviations = null,
    ) {
        foreach ($leads as $i => $of) {
            foreach ($of as $lead) {
                foreach ($lead->pairs as [$field]) {
                    $this->fieldLeads[$i][$field][] = $lead;
                }
            }
        }
        if (null === $abbreviations) {
            $learned = [];
            foreach (Abbreviations::learned($this) as $one) {
                $learned[$one->short] = $one->long;
            }
            $abbreviations = new Abbreviations($short + $learned);
        }
        $this->abbreviations = $abbreviations;
        foreach ($texts as $i => $of) {
            if (isset($tables[$i])) {
                $this->index($i, $of);
            }
        }
        $this->agreement = self::agreements($this->said);
    }

    /**
     * Of one catalog, by what it says of itself.
     *
     * @param list<Proposal>                  $proposals those at least as likely as not count
     * @param array<int, TableProfile>        $profiles
     * @param array<int, array<string, Said>> $texts
     * @param array<string, list<string>>     $lists
     */
    public static function ofCatalog(Catalog $catalog, array $proposals = [], array $profiles = [], array $texts = [], array $lists = []): self
    {
        $dialect = Dialects::ofCatalog($catalog);
        $leads = [];
        foreach (CatalogLinks::of($catalog, $proposals) as $link) {
            $from = $catalog->tables[$link->from];
            $columns = array_column($link->pairs, 0);
            [$verb, $back] = Verbs::of($from->name, $columns, $catalog->tables[$link->to]->name, $from->primaryKey->columns ?? []);
            $leads[$link->from][] = new Lead($link->to, $link->pairs, $verb, $back, $link->certainty);
        }

        return new self($catalog->tables, array_map(static fn (): Dialect => $dialect, $catalog->tables), $leads, $texts, $profiles, $lists);
    }

    public function field(int $entry, Column $column): Field
    {
        $type = $this->dialects[$entry]->typeOf($column);
        $profile = $this->profiles[$entry]->fields[$column->name] ?? null;

        return new Field($this, $entry, $this->tables[$entry], $column, $type, $profile, $this->nameOf($entry, $column), $this->of($entry, $column->name));
    }

    public function entry(int $entry): Entry
    {
        return new Entry($this, $entry, $this->tables[$entry], $this->of($entry, ''), $this->profiles[$entry] ?? null);
    }

    public function dialect(int $entry): Dialect
    {
        return $this->dialects[$entry];
    }

    public function of(int $entry, string $field): Said
    {
        return $this->texts[$entry][$field] ?? new Said();
    }

    /** What a row of it is called in a sentence: "barrier survey". */
    public function noun(int $entry): string
    {
        return $this->nouns[$entry] ??= $this->makeNoun($entry);
    }

    /** What an entry is called: by people, or by its words. */
    public function title(int $entry): string
    {
        $said = $this->of($entry, '')->businessName;

        return '' !== $said ? $said : $this->nameOf($entry)->title();
    }

    /** The name of a field, or of the entry itself, taken apart. */
    public function nameOf(int $entry, ?Column $column = null): FieldName
    {
        $name = $column->name ?? '';

        return $this->names[$entry][$name] ??= null === $column
            ? FieldName::ofTable($this->tables[$entry]->name, $this->abbreviations)
            : FieldName::ofColumn(
                $column->name,
                $this->tables[$entry],
                $this->abbreviations,
                $this->dialects[$entry]->typeOf($column)->family,
                [] !== ($this->fieldLeads[$entry][$column->name] ?? []),
            );
    }

    /** @return list<Lead> joins in which a field holds the reference, the surest first */
    public function leadsOf(int $entry, string $field): array
    {
        return $this->fieldLeads[$entry][$field] ?? [];
    }

    /**
     * The texts of fields of one name, the most frequent first.
     *
     * @return list<array{string, non-empty-list<array{int, string}>, int}> text, entry and field of some that have it, how many have it
     */
    public function sayings(string $property, string $folded): array
    {
        $known = &$this->sayings[$property][$folded];
        if (null === $known) {
            $by = [];
            foreach ($this->said[$property][$folded] ?? [] as [$entry, $name, $text]) {
                $by[$text][] = [$entry, $name];
            }
            uasort($by, static fn (array $a, array $b): int => \count($b) <=> \count($a));
            $known = [];
            foreach (\array_slice($by, 0, self::SAYINGS, true) as $text => $places) {
                $known[] = [(string) $text, \array_slice($places, 0, self::PLACES), \count($places)];
            }
        }

        return $known;
    }

    /** How many fields of a name have a text. */
    public function countSaid(string $property, string $folded): int
    {
        return \count($this->said[$property][$folded] ?? []);
    }

    /** How often two fields of one name are described alike in this register, 0 to 1; what is usual where few are described. */
    public function agreement(string $property): float
    {
        [$alike, $pairs] = $this->agreement[$property] ?? [0, 0];
        $usual = 'meaning' === $property ? 0.55 : 0.8;

        return ($alike + 6 * $usual) / ($pairs + 6);
    }

    /** The share of the fields of one entry that another has as well: an archive has nearly all. */
    public function shared(int $one, int $other): float
    {
        $a = $this->columnNames($one);
        $b = $this->columnNames($other);

        return \count(array_intersect_key($a, $b)) / max(1, min(\count($a), \count($b)));
    }

    /** @return array<string, true> */
    private function columnNames(int $entry): array
    {
        return $this->columnNames[$entry] ??= array_fill_keys(
            array_map(static fn (Column $column): string => Naming::folded($column->name), $this->tables[$entry]->columns),
            true,
        );
    }

    private function makeNoun(int $entry): string
    {
        $said = $this->of($entry, '')->businessName;
        $words = '' !== $said ? explode(' ', $said) : explode(' ', $this->nameOf($entry)->title());
        $words = array_map(static fn (string $word): string => 1 === preg_match('/^\p{Lu}[\p{Ll}’\']*$/u', $word) ? mb_strtolower($word) : $word, $words);
        // Nobody says "datum": a row of data is one.
        $uncounted = \in_array(mb_strtolower($words[\count($words) - 1] ?? ''), ['data', 'metadata', 'information'], true) ? array_pop($words) : null;
        if (null !== $uncounted) {
            return trim(implode(' ', [...array_filter($words, static fn (string $word): bool => !ctype_digit($word)), $uncounted, 'row']));
        }
        $words = array_values(array_filter($words, static fn (string $word): bool => '' !== $word && !ctype_digit($word)));
        $noun = implode(' ', array_map(static fn (string $word): string => 'data' === $word ? $word : NameWords::singular([$word])[0], $words));

        return '' === $noun ? 'row' : $noun;
    }

    /** @param array<string, Said> $texts */
    private function index(int $entry, array $texts): void
    {
        foreach ($this->tables[$entry]->columns as $column) {
            $said = $texts[$column->name] ?? null;
            if (null === $said) {
                continue;
            }
            $folded = $this->nameOf($entry, $column)->folded;
            foreach (['businessName', 'meaning', 'unit', 'allowed', 'personal'] as $property) {
                $text = $said->of($property);
                if ('' !== $text) {
                    $this->said[$property][$folded][] = [$entry, $column->name, $text];
                }
            }
        }
    }

    /**
     * @param array<string, array<string, list<array{int, string, string}>>> $said
     *
     * @return array<string, array{int, int}>
     */
    private static function agreements(array $said): array
    {
        $agreement = [];
        foreach ($said as $property => $names) {
            $alike = $pairs = 0;
            foreach ($names as $texts) {
                $n = \count($texts);
                if ($n < 2) {
                    continue;
                }
                $pairs += $n * ($n - 1) / 2;
                foreach (array_count_values(array_map(static fn (array $one): string => Naming::folded($one[2]), $texts)) as $same) {
                    $alike += $same * ($same - 1) / 2;
                }
            }
            $agreement[$property] = [(int) $alike, (int) $pairs];
        }

        return $agreement;
    }
}
