<?php

declare(strict_types=1);

namespace Fasti\Drift;

use Fasti\Core\Catalog\Table;
use Fasti\Core\Drift\Doubt;

/** What was followed of a drift, as far as texts may speak of it. */
final class Changes
{
    /** @var list<array{Table, Table, array<string, string>}> before, after, and the fields renamed */
    public array $tables = [];
    /** @var array<array-key, non-empty-list<array{string, ?string}>> word → reason and, where it holds for one entry only, the key of its place */
    public array $mentions = [];

    /** @var array<string, array<string, string>> key of the place that an entry has now → name that a field has now → what has become of it */
    public array $fields = [];

    /** @param array<string, string> $fields renamed, old name → new name */
    public function changed(Table $was, Table $is, array $fields): void
    {
        $this->tables[] = [$was, $is, $fields];
        foreach ($fields as $old => $new) {
            $this->renamed($old, $new);
        }
        $place = $is->place()->key();
        foreach ($was->columns as $column) {
            $now = $is->column($fields[$column->name] ?? $column->name);
            if (null === $now) {
                $this->fields[$place][$column->name] = 'which is gone';
            } elseif ($now->name !== $column->name) {
                // The field keeps its place in the register, under the name that it has now.
                $this->fields[$place][$now->name] = \sprintf('which was called %s', $column->name);
            } elseif ($now->type !== $column->type) {
                $this->fields[$place][$now->name] = \sprintf('which is %s now and was %s', $now->type, $column->type);
            }
            if (null === $is->column($column->name) && !isset($fields[$column->name])) {
                $this->mentions[$column->name][] = [\sprintf('The text names %s, which %s has no more.', $column->name, $is->name), $is->place()->key()];
            }
        }
    }

    public function renamed(string $old, string $new): void
    {
        $this->mentions[$old][] = [\sprintf('The text names %s, which is called %s now.', $old, $new), null];
    }

    public function lost(Table $table): void
    {
        $name = $table->name;
        foreach ($table->columns as $column) {
            $this->fields[$table->place()->key()][$column->name] = 'which is gone';
        }
        $this->mentions[$name][] = [\sprintf('The text names %s, which is gone.', $name), null];
    }

    /** @return list<string> the reasons of the words that a text names */
    public function spokenOf(string $text, string $place): array
    {
        if ('' === $text || [] === $this->mentions) {
            return [];
        }
        preg_match_all('/\w+/u', $text, $m);
        $words = array_fill_keys($m[0], true);
        $odd = array_filter($this->mentions, static fn (int|string $word): bool => 1 === preg_match('/\W/u', (string) $word), \ARRAY_FILTER_USE_KEY);
        $reasons = [];
        foreach (\count($this->mentions) < \count($words) ? array_keys($this->mentions) : array_keys(
            array_intersect_key($words, $this->mentions) + $odd,
        ) as $word) {
            // A name of a few letters stands in any sentence by accident.
            if (mb_strlen((string) $word) < 4 || !Doubt::mentions($text, (string) $word)) {
                continue;
            }
            foreach ($this->mentions[$word] ?? [] as [$reason, $within]) {
                if (null === $within || $within === $place) {
                    $reasons[] = $reason;
                }
            }
        }

        return $reasons;
    }
}
