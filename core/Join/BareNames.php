<?php

declare(strict_types=1);

namespace Fasti\Core\Join;

use Fasti\Core\Catalog\Table;

/** The names of tables without what most of their schema have in common, and what they tell of one another. */
final class BareNames
{
    private const LINKS = ['rel', 'link', 'map', 'mapping', 'xref', 'join', 'bridge', 'assoc'];

    /** @var array<int, list<string>> table → words of its name, in the singular */
    public array $words = [];
    /** @var array<string, int> words → table */
    private array $named = [];

    /** @param array<int, Table> $tables */
    public function __construct(private readonly array $tables)
    {
        $common = $this->commonWords();
        foreach ($tables as $i => $table) {
            $this->words[$i] = self::without(NameWords::singular(NameWords::of($table->name)), $common[$table->schema] ?? [[], []]);
            $this->named[implode(' ', $this->words[$i])] ??= $i;
        }
    }

    /**
     * Tables whose name is the beginning of that of a table, and then some words; or with the end of it besides.
     *
     * @param list<string> $head
     *
     * @return list<int>
     */
    public function composed(array $head, int $in): array
    {
        $own = $this->words[$in];
        $found = [];
        for ($p = [] === $head ? 0 : \count($own); $p > 0; --$p) {
            foreach ([[], \array_slice($own, $p), \array_slice($own, -1), \array_slice($own, -2)] as $rest) {
                $at = $this->named[implode(' ', [...\array_slice($own, 0, $p), ...$head, ...$rest])] ?? null;
                if (null !== $at && $at !== $in) {
                    $found[$at] = $at;
                }
            }
        }

        return array_values($found);
    }

    /** Whether a table only ties others together, by its name. */
    public function isLink(int $table): bool
    {
        $name = $this->tables[$table]->name;
        $words = NameWords::of($name);

        return 1 === preg_match('/\w-\w/', $name) || \in_array($words[\count($words) - 1] ?? '', self::LINKS, true);
    }

    /** @return array<string, array{list<string>, list<string>}> schema → words with which six of ten of its tables begin, and those with which they end */
    private function commonWords(): array
    {
        $names = [];
        foreach ($this->tables as $table) {
            $names[$table->schema][] = NameWords::singular(NameWords::of($table->name));
        }

        return array_map(static fn (array $of): array => [
            self::shared($of), array_reverse(self::shared(array_map(array_reverse(...), $of))),
        ], $names);
    }

    /**
     * @param list<list<string>> $names
     *
     * @return list<string>
     */
    private static function shared(array $names): array
    {
        $shared = [];
        do {
            $n = \count($shared);
            $counts = array_count_values(array_map(
                static fn (array $words): string => \count($words) > $n + 1 && \array_slice($words, 0, $n) === $shared ? $words[$n] : '',
                $names,
            ));
            unset($counts['']);
            arsort($counts);
            $word = (string) array_key_first($counts);
            $often = '' !== $word && $counts[$word] >= max(4, 0.6 * \count($names));
            if ($often) {
                $shared[] = $word;
            }
        } while ($often && $n < 3);

        return $shared;
    }

    /**
     * @param list<string>                       $words
     * @param array{list<string>, list<string>} $common
     *
     * @return list<string>
     */
    private static function without(array $words, array $common): array
    {
        [$before, $after] = $common;
        if ([] !== $before && \count($words) > \count($before) && \array_slice($words, 0, \count($before)) === $before) {
            $words = \array_slice($words, \count($before));
        }
        if ([] !== $after && \count($words) > \count($after) && \array_slice($words, -\count($after)) === $after) {
            $words = \array_slice($words, 0, -\count($after));
        }

        return $words;
    }
}
