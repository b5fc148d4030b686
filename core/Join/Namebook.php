<?php

declare(strict_types=1);

namespace Fasti\Core\Join;

use Fasti\Core\Catalog\Table;

/**
 * The names of a catalog, taken apart once: what each table may be called in the names of fields, which signs its own fields
 * begin with, and which short forms of its words the schema uses.
 *
 * After S. Lopes, J.-M. Petit, F. Toumani, "Discovering interesting inclusion dependencies" (2002), which uses what names have in
 * common, and A. Rostin et al., "A Machine Learning Approach to Foreign Key Discovery" (2009), whose features of names these widen.
 */
final class Namebook
{
    private const AFFIXES = [
        'tbl', 'tb', 't', 'tab', 'table', 'dim', 'fact', 'fct', 'd', 'f', 'stg', 'ref', 'lkp', 'lookup', 'lu', 'mst', 'master', 'entity', 'base',
        'data', 'rel', 'x', 'sys', 'fk',
    ];
    /** What a table of a sort of thing is called besides the thing: `kind_type`, `company_name`. */
    private const SORTS = ['type', 'kind', 'class', 'category', 'code', 'status', 'list', 'lookup', 'name', 'master'];
    /** A tail that more tables share says nothing about any of them. */
    private const MOST_SHARING = 12;

    /** @var array<array-key, array<int, int>> folded phrase → table → how much it is its name: 2 the whole of it, 1 without a prefix, 0 by its key */
    private array $phrases = [];
    /** @var array<array-key, array<int, true>> folded end of a longer phrase → tables */
    private array $tails = [];
    /** @var array<array-key, array<int, true>> */
    private array $heads = [];
    /** @var array<int, array<array-key, true>> table → heads after which its name only says what sort it is */
    private array $sorts = [];
    /** @var array<array-key, array<int, true>> signs that the fields of a table begin with → tables */
    private array $aliases = [];
    /** @var array<array-key, array<int, true>> first letters of the words of a phrase → tables */
    private array $initials = [];
    /** @var array<array-key, array<int, true>> words of the comments on tables */
    private array $told = [];
    /** @var array<string, array<string, true>> words of tables by their first letter */
    private array $vocabulary = [];
    /** @var array<int, string> table → what its fields begin with; '' for nothing */
    public array $prefixes = [];
    /** @var array<string, array<int, NameMatch>> */
    private array $answers = [];
    /** @var array<array-key, list<string>> */
    private array $long = [];
    private bool $cut = false;
    /** @var array<int, int> letters of the name of a table, without what says nothing */
    private array $lengths = [];
    /** @var array<int, string> table → the word with which its name and those of some others begin; '' for none */
    public array $modules = [];
    public readonly BareNames $bare;

    /**
     * @param array<int, Table>         $tables
     * @param array<int, list<JoinKey>> $keys   of each
     */
    public function __construct(private readonly array $tables, array $keys)
    {
        $first = $this->firstWords();
        $this->bare = new BareNames($tables);
        foreach ($tables as $i => $table) {
            $this->prefixes[$i] = self::prefix($table);
            $words = NameWords::singular(NameWords::of($table->name));
            if ($this->bare->words[$i] !== $words) {
                $this->name($i, $this->bare->words[$i], 1);
            }
            // `company_company` is a company.
            $half = intdiv(\count($words), 2);
            $twice = $half > 0 && \array_slice($words, 0, $half) === \array_slice($words, $half);
            if ($twice) {
                $this->name($i, \array_slice($words, $half), 2);
            }
            $telling = $twice ? \array_slice($words, $half) : $words;
            $this->lengths[$i] = max(1, \strlen(implode('', array_diff($telling, self::AFFIXES)) ?: implode('', $telling)));
            $schema = NameWords::singular(NameWords::of($table->schema));
            $this->name($i, $words, 2);
            foreach ($this->shorter($words, $schema, $first[$table->schema] ?? []) as $fewer) {
                $this->name($i, $fewer, 1);
            }
            foreach (mb_strlen($table->comment) > 300 ? [] : NameWords::singular(NameWords::of($table->comment)) as $word) {
                if (\strlen($word) >= 4) {
                    $this->told[$word][$i] = true;
                }
            }
            $own = NameWords::of($table->name);
            $modules = $first[$table->schema] ?? [];
            $this->modules[$i] = match (true) {
                isset($own[1], $modules[$own[0].' '.$own[1]]) => $own[0].' '.$own[1],
                isset($modules[$own[0] ?? '']) => $own[0],
                default => '',
            };
            $alias = rtrim(strtolower($this->prefixes[$i]), '_');
            if (\strlen($alias) >= 2) {
                $this->aliases[$alias][$i] = true;
            }
        }
        foreach ($tables as $i => $table) {
            foreach ($keys[$i] as $key) {
                if ($key->single()) {
                    $this->nameByKey($i, $key->columns[0]);
                }
            }
        }
    }

    /** Whether a name is that of a table, or ends in it. */
    public function isTable(string $folded): bool
    {
        return [] !== array_filter($this->phrases[$folded] ?? [], static fn (int $how): bool => $how > 0);
    }

    /**
     * What a field's name says of each table.
     *
     * @param int $in the table of the field
     *
     * @return array<int, NameMatch> by table
     */
    public function answers(string $field, int $in): array
    {
        return $this->answers[$field."\0".$this->prefixes[$in]] ??= $this->read($field, $this->prefixes[$in]);
    }

    /** The name without what all fields of the table begin with. */
    public function stripped(string $field, int $in): string
    {
        $prefix = $this->prefixes[$in];

        return '' !== $prefix && \strlen($field) > \strlen($prefix) && 0 === strncasecmp(
            $field,
            $prefix,
            \strlen($prefix),
        ) ? substr($field, \strlen($prefix)) : $field;
    }

    /** @return array<int, NameMatch> */
    private function read(string $field, string $prefix): array
    {
        $found = [];
        $names = [$field];
        if ('' !== $prefix && \strlen($field) > \strlen($prefix) && 0 === strncasecmp($field, $prefix, \strlen($prefix))) {
            $names[] = substr($field, \strlen($prefix));
        }
        // Of a name that is run together with its prefix, only the rest is taken for words that are cut short.
        $cut = 1 < \count($names) && 1 === preg_match('/^\p{L}+$/u', $prefix);
        foreach ($names as $name) {
            $this->cut = $cut && $name === $field;
            $words = NameWords::singular(NameWords::of($name));
            while ([] !== $words && ctype_digit($words[\count($words) - 1])) {
                array_pop($words);
            }
            if ([] === $words) {
                continue;
            }
            $this->parts($found, $words);
            $last = $words[\count($words) - 1];
            if (1 === \count($words) || '' !== $prefix && $name !== $field) {
                $this->runTogether($found, implode('', $words));
            } elseif (\strlen($last) > 5) {
                $this->runTogether($found, $last);
            }
        }

        return $found;
    }

    /**
     * A name with and without what tells that it is one of a reference.
     *
     * @param array<int, NameMatch>  $found
     * @param non-empty-list<string> $words
     */
    private function parts(array &$found, array $words): void
    {
        $this->match($found, $words, '');
        if (1 === \count($words)) {
            return;
        }
        $last = $words[\count($words) - 1];
        $ending = NameWords::isKeyEnding($last) ? $last : '';
        if ('' !== $ending) {
            $this->match($found, \array_slice($words, 0, -1), $last);
        }
        if (NameWords::isBefore($words[0])) {
            $this->match($found, \array_slice($words, 1), $words[0]);
            if ('' !== $ending && \count($words) > 2) {
                $this->match($found, \array_slice($words, 1, -1), $ending);
            }
        }
        // What stands before "by", "to", "from" is the deed, what stands after it may be the thing.
        if (\in_array($last, ['by', 'to', 'from', 'in', 'at', 'of', 'with', 'for'], true)) {
            $this->match($found, \array_slice($words, 0, -1), '');
        }
    }

    /**
     * @param array<int, NameMatch> $found
     * @param list<string>          $head
     */
    private function match(array &$found, array $head, string $ending): void
    {
        $this->whole($found, $head, $ending, false);
        $expanded = [];
        $short = false;
        foreach ($head as $word) {
            $long = $this->cut ? [] : $this->longer($word);
            $short = $short || [] !== $long;
            $expanded[] = [] === $long ? [$word] : $long;
        }
        if ($short && \count($head) <= 5) {
            foreach (self::products($expanded) as $words) {
                $this->whole($found, $words, $ending, true);
            }
        }
        if (1 === \count($head) && '' !== $head[0]) {
            $this->single($found, $head[0], $ending);
        }
    }

    /**
     * What a word by itself may stand for.
     *
     * @param array<int, NameMatch> $found
     */
    private function single(array &$found, string $word, string $ending): void
    {
        $length = \strlen($word);
        if ($length >= 2 && $length <= 5) {
            foreach ($this->few($this->initials[$word] ?? []) as $table => $true) {
                $this->note($found, $table, NameMatch::INITIALS, [], $ending);
            }
            foreach ($this->few($this->aliases[$word] ?? []) as $table => $true) {
                $this->note($found, $table, NameMatch::ALIAS, [], $ending);
            }
        }
        foreach (NameWords::synonyms($word) as $other) {
            foreach (\count($this->phrases[$other] ?? []) > 3 ? [] : $this->phrases[$other] ?? [] as $table => $how) {
                $this->note($found, $table, NameMatch::SYNONYM, [], $ending);
            }
        }
        foreach ($this->few($this->told[$word] ?? []) as $table => $true) {
            $this->note($found, $table, NameMatch::TOLD, [], $ending, \count($this->told[$word]));
        }
        if ($length >= 4 && $length <= 5) {
            foreach ($this->few($this->aliases[substr($word, 0, -1)] ?? []) as $table => $true) {
                $this->note($found, $table, NameMatch::ALIAS_INSIDE, [], $ending);
            }
        }
    }

    /**
     * @param array<int, NameMatch> $found
     * @param list<string>          $head
     */
    private function whole(array &$found, array $head, string $ending, bool $short): void
    {
        $n = \count($head);
        $folded = implode('', $head);
        $this->called($found, $folded, [], $ending, $short ? [NameMatch::SHORT, NameMatch::SHORT] : [NameMatch::EQUAL, NameMatch::BY_KEY]);
        foreach ($this->few($this->tails[$folded] ?? []) as $table => $true) {
            $this->note($found, $table, $short ? NameMatch::SHORT_TAIL : NameMatch::TAIL, [], $ending, \count($this->tails[$folded]), \strlen($folded));
        }
        foreach ($this->few($this->heads[$folded] ?? []) as $table => $true) {
            $how = isset($this->sorts[$table][$folded]) ? NameMatch::SORT : NameMatch::HEAD;
            $this->note($found, $table, $short ? NameMatch::SHORT_TAIL : $how, [], $ending, \count($this->heads[$folded]), \strlen($folded));
        }
        for ($i = 1; $i < $n; ++$i) {
            $role = \array_slice($head, 0, $i);
            $tail = implode('', \array_slice($head, $i));
            $this->called($found, $tail, $role, $ending, $short ? [NameMatch::ROLE_SHORT, NameMatch::ROLE_SHORT] : [NameMatch::ROLE, NameMatch::ROLE_BY_KEY]);
            if ($i >= $n - 1) {
                foreach ($this->few($this->tails[$tail] ?? []) as $table => $true) {
                    $this->note($found, $table, NameMatch::ROLE_TAIL, $role, $ending, \count($this->tails[$tail]), \strlen($tail));
                }
            }
            $after = \array_slice($head, $n - $i);
            $begin = implode('', \array_slice($head, 0, $n - $i));
            $this->called($found, $begin, $after, $ending, array_fill(0, 2, $short ? NameMatch::ROLE_SHORT : NameMatch::ROLE_AFTER));
        }
    }

    /**
     * Tables that are called so, or whose key calls them so.
     *
     * @param array<int, NameMatch>    $found
     * @param list<string>             $role
     * @param array{int, int}|list<int> $how  for the one and for the other
     */
    private function called(array &$found, string $folded, array $role, string $ending, array $how): void
    {
        foreach ($this->phrases[$folded] ?? [] as $table => $by) {
            $letters = 0 === $by ? 0 : \strlen($folded);
            $this->note($found, $table, $how[0 === $by ? 1 : 0], $role, $ending, \count($this->phrases[$folded]), $letters);
        }
    }

    /** @param array<int, NameMatch> $found */
    private function runTogether(array &$found, string $name): void
    {
        $heads = [$name => ''];
        foreach (NameWords::endings() as $ending) {
            $rest = \strlen($name) - \strlen($ending);
            if ($rest >= 2 && str_ends_with($name, $ending)) {
                $heads[substr($name, 0, $rest)] = $ending;
            }
        }
        foreach ($heads as $head => $ending) {
            $head = (string) $head;
            if ('' !== $ending) {
                $this->whole($found, [$head], $ending, false);
                foreach ($this->cut ? [] : $this->longer($head) as $long) {
                    $this->whole($found, [$long], $ending, true);
                }
                foreach ($this->few($this->aliases[$head] ?? []) as $table => $true) {
                    $this->note($found, $table, NameMatch::ALIAS, [], $ending);
                }
            }
            $n = \strlen($head);
            for ($i = 1; $i <= $n - 3; ++$i) {
                $tail = substr($head, $i);
                $role = [substr($head, 0, $i)];
                foreach (\strlen($tail) >= 4 ? $this->phrases[$tail] ?? [] : [] as $table => $how) {
                    $this->note($found, $table, NameMatch::INSIDE, $role, $ending, \count($this->phrases[$tail]), \strlen($tail));
                }
                foreach (\strlen($tail) >= 4 ? $this->few($this->tails[$tail] ?? []) : [] as $table => $true) {
                    $this->note($found, $table, NameMatch::ROLE_TAIL, $role, $ending);
                }
                foreach ('' === $ending && \strlen($tail) < 4 ? [] : $this->few($this->aliases[$tail] ?? []) as $table => $true) {
                    $this->note($found, $table, NameMatch::ALIAS_INSIDE, $role, $ending);
                }
            }
        }
    }

    /**
     * @param array<int, NameMatch> $found
     * @param list<string>          $role
     */
    private function note(array &$found, int $table, int $how, array $role, string $ending, int $sharing = 1, int $letters = 0): void
    {
        $ofRole = \strlen(implode('', $role));
        $letters = $letters ?: $this->lengths[$table];
        $covers = min(1.0, $letters / max(1, $this->lengths[$table]));
        $known = $found[$table] ?? null;
        if (null === $known || self::rank($how) < self::rank($known->how) || $how === $known->how
            && ($covers > $known->covers || '' !== $ending && '' === $known->ending)) {
            $found[$table] = new NameMatch($how, $role, $ending, $sharing, $letters / max(1, $letters + $ofRole), $covers);
        }
    }

    /** What says more comes first. */
    private static function rank(int $how): float
    {
        return NameMatch::SORT === $how ? NameMatch::ROLE_BY_KEY + 0.5 : $how;
    }

    /**
     * @param array<int, true> $tables
     *
     * @return array<int, true>
     */
    private function few(array $tables): array
    {
        return \count($tables) > self::MOST_SHARING ? [] : $tables;
    }

    /** @return list<string> words of tables for which it may stand, or that may stand for it */
    private function longer(string $word): array
    {
        if (isset($this->long[$word])) {
            return $this->long[$word];
        }
        $long = [];
        $same = $this->vocabulary[$word[0]] ?? [];
        if (!isset($same[$word]) && !NameWords::isKeyEnding($word) && \strlen($word) >= 2) {
            foreach ($same as $other => $true) {
                $other = (string) $other;
                if (NameWords::isShort($word, $other) || \strlen($other) >= max(3, 0.4 * \strlen($word)) && NameWords::isShort($other, $word)) {
                    $long[] = $other;
                }
            }
            $better = array_values(array_filter($long, static fn (string $other): bool => NameWords::isUsualShort($word, $other)));
            $long = [] === $better ? $long : $better;
            usort($long, static fn (string $a, string $b): int => \strlen($a) <=> \strlen($b) ?: strcmp($a, $b));
        }

        return $this->long[$word] = \array_slice($long, 0, 4);
    }

    /**
     * @param list<list<string>> $choices
     *
     * @return list<list<string>> at most 16
     */
    private static function products(array $choices): array
    {
        $all = [[]];
        foreach ($choices as $words) {
            $next = [];
            foreach ($all as $begun) {
                foreach ($words as $word) {
                    $next[] = [...$begun, $word];
                }
            }
            $all = \array_slice($next, 0, 16);
        }

        return $all;
    }

    /** @param list<string> $words */
    private function name(int $table, array $words, int $how): void
    {
        $folded = implode('', $words);
        if ('' === $folded) {
            return;
        }
        $this->phrases[$folded][$table] = max($how, $this->phrases[$folded][$table] ?? 0);
        foreach ($words as $word) {
            if (\strlen($word) >= 3) {
                $this->vocabulary[$word[0]][$word] = true;
            }
        }
        $n = \count($words);
        if ($n > 1) {
            $this->initials[implode('', array_map(static fn (string $word): string => $word[0], $words))][$table] = true;
            for ($i = 1; $i < $n; ++$i) {
                $tail = implode('', \array_slice($words, $i));
                if (\strlen($tail) >= 2 && !ctype_digit($tail)) {
                    $this->tails[$tail][$table] = true;
                }
                $head = implode('', \array_slice($words, 0, $i));
                $this->heads[$head][$table] = true;
                if ([] === array_diff(\array_slice($words, $i), self::SORTS)) {
                    $this->sorts[$table][$head] = true;
                }
            }
        } elseif (\strlen($folded) >= 7) {
            // Names that are run together have ends too; only the longer ones say anything.
            for ($i = 2; $i <= \strlen($folded) - 5; ++$i) {
                $this->tails[substr($folded, $i)][$table] = true;
            }
        }
    }

    /** `LandownerNo` names its table a landowner, whatever the table is called. */
    private function nameByKey(int $table, string $key): void
    {
        foreach (array_unique([$key, $this->stripped($key, $table)]) as $name) {
            $words = NameWords::singular(NameWords::of($name));
            $last = $words[\count($words) - 1] ?? '';
            if (\count($words) > 1 && NameWords::isKeyEnding($last)) {
                array_pop($words);
            } elseif (1 === \count($words)) {
                foreach (NameWords::endings() as $ending) {
                    if (str_ends_with($last, $ending) && \strlen($last) >= \strlen($ending) + 4) {
                        $words = [substr($last, 0, -\strlen($ending))];
                        break;
                    }
                }
                if ($words[0] === $last) {
                    continue;
                }
            } else {
                continue;
            }
            $folded = implode('', $words);
            // A key that is called after another table names that one.
            if (\strlen($folded) >= 3 && !NameWords::isPlain($folded) && !isset($this->phrases[$folded][$table]) && !$this->isTable($folded)
                && [] === array_diff_key($this->aliases[$folded] ?? [], [$table => true])) {
                $this->phrases[$folded][$table] = 0;
                foreach ($words as $word) {
                    if (\strlen($word) >= 3) {
                        $this->vocabulary[$word[0]][$word] = true;
                    }
                }
            }
        }
    }

    /**
     * @param list<string>        $words
     * @param list<string>        $schema
     * @param array<string, true> $first  words with which many tables of the schema begin
     *
     * @return list<list<string>>
     */
    private function shorter(array $words, array $schema, array $first): array
    {
        $found = [];
        $n = \count($words);
        if ($n > 1 && (isset($first[$words[0]]) || \in_array($words[0], self::AFFIXES, true) || [$words[0]] === $schema)) {
            $found[] = \array_slice($words, 1);
            if ($n > 2 && (\in_array($words[1], self::AFFIXES, true) || isset($first[$words[0].' '.$words[1]]))) {
                $found[] = \array_slice($words, 2);
            }
        }
        if ($n > 1 && \in_array($words[$n - 1], self::AFFIXES, true)) {
            $found[] = \array_slice($words, 0, -1);
            if ($n > 2 && isset($first[$words[0]])) {
                $found[] = \array_slice($words, 1, -1);
            }
        }

        return $found;
    }

    /** @return array<string, array<string, true>> schema → words, or pairs of words, with which many of its tables begin */
    private function firstWords(): array
    {
        $counts = [];
        foreach ($this->tables as $table) {
            $words = NameWords::singular(NameWords::of($table->name));
            if (\count($words) > 1) {
                $counts[$table->schema][$words[0]] = ($counts[$table->schema][$words[0]] ?? 0) + 1;
            }
            if (\count($words) > 2) {
                $two = $words[0].' '.$words[1];
                $counts[$table->schema][$two] = ($counts[$table->schema][$two] ?? 0) + 1;
            }
        }

        return array_map(
            static fn (array $of): array => array_map(static fn (): bool => true, array_filter($of, static fn (int $n): bool => $n >= 4)),
            $counts,
        );
    }

    /** What at least seven of ten fields begin with, of two to eight signs; a key's own name does not count. */
    public static function prefix(Table $table): string
    {
        $names = [];
        foreach ($table->columns as $column) {
            $lower = strtolower($column->name);
            if (!\in_array($lower, ['id', 'oid', 'uuid'], true)) {
                $names[] = $lower;
            }
        }
        $n = \count($names);
        $best = $n < 3 ? '' : self::begin($names);
        // Letters that words happen to share (re, co) are no prefix.
        if ('' !== $best && 1 === preg_match('/^\p{L}+$/u', $best)) {
            $boundary = 0;
            foreach ($table->columns as $column) {
                $rest = substr($column->name, \strlen($best), 1);
                $boundary += '_' === $rest || ctype_upper($rest) && !ctype_upper(substr($column->name, 0, 1)) ? 1 : 0;
            }
            if ($boundary > 0 && $boundary < $n || $n < 4 && \strlen($best) < 2) {
                return '';
            }
        }

        return $best;
    }

    /** @param non-empty-list<string> $names */
    private static function begin(array $names): string
    {
        $best = '';
        for ($length = 2; $length <= 14; ++$length) {
            $counts = [];
            foreach ($names as $name) {
                if (\strlen($name) > $length) {
                    $start = substr($name, 0, $length);
                    $counts[$start] = ($counts[$start] ?? 0) + 1;
                }
            }
            if ([] === $counts) {
                break;
            }
            arsort($counts);
            $start = (string) array_key_first($counts);
            $most = $counts[$start];
            $apart = 1 === preg_match('/[^\p{L}\p{N}]$/u', $start);
            if ($most >= max(3, ($apart ? 0.7 : 0.85) * \count($names)) && ($apart || $length <= 6)) {
                $best = $apart || '' === $best || 1 !== preg_match('/[^\p{L}\p{N}]$/u', $best) ? $start : $best;
            }
        }

        return $best;
    }
}
