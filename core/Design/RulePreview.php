<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

use Fasti\Core\Drift\Compare;
use Fasti\Core\Drift\Fate;
use Fasti\Core\Drift\TableDrift;
use Fasti\Core\Wording\Amount;

/** What a change of a design does to its tables, in short sentences. */
final class RulePreview
{
    private const MOST = 12;

    /**
     * @param array<string, string> $short
     *
     * @return list<string>
     */
    public static function between(Design $before, Design $after, array $short = []): array
    {
        $was = new Physical(Working::of($before), Physical::dialectOf($before), $short);
        $is = new Physical(Working::of($after), Physical::dialectOf($after), $short);
        $words = [];
        foreach ($is->tables as $key => $name) {
            $old = $was->tables[$key] ?? null;
            if (null !== $old && $old !== $name) {
                $words[] = \sprintf('%s is called %s', $old, $name);
            }
        }
        foreach (array_diff_key($is->tables, $was->tables) as $name) {
            $words[] = \sprintf('a table %s comes', $name);
        }
        foreach (array_diff_key($was->tables, $is->tables) as $name) {
            $words[] = \sprintf('the table %s goes', $name);
        }
        foreach ($is->columns as $key => $columns) {
            $old = $was->columns[$key] ?? null;
            if (null === $old) {
                continue;
            }
            $table = $is->tables[$key];
            $renamed = array_filter(
                $columns,
                static fn (string $name, string $column): bool => isset($old[$column]) && $old[$column] !== $name,
                \ARRAY_FILTER_USE_BOTH,
            );
            foreach (\array_slice($renamed, 0, 2, true) as $column => $name) {
                $words[] = \sprintf('%s: %s is called %s', $table, $old[$column], $name);
            }
            if (\count($renamed) > 2) {
                $words[] = \sprintf('%s: %s more are called otherwise', $table, Amount::of(\count($renamed) - 2, 'field'));
            }
            $new = array_diff_key($columns, $old);
            $gone = array_diff_key($old, $columns);
            if ([] !== $new) {
                $words[] = \sprintf('%s gets %s', $table, implode(', ', $new));
            }
            if ([] !== $gone) {
                $words[] = \sprintf('%s loses %s', $table, implode(', ', $gone));
            }
        }
        if ([] === $words) {
            foreach (Compare::catalogs($was->catalog, $is->catalog) as $drift) {
                if (Fate::Changed === $drift->change) {
                    array_push($words, ...self::changed($drift));
                }
            }
        }
        if ([] === $words) {
            return ['Nothing changes in the tables as they are now.'];
        }

        return [
            ...\array_slice($words, 0, self::MOST),
            ...(\count($words) > self::MOST ? [\sprintf('and %s more', Amount::count(\count($words) - self::MOST))] : []),
        ];
    }

    /** @return list<string> */
    private static function changed(TableDrift $drift): array
    {
        $name = $drift->table()->name;
        $words = array_map(static fn (string $said): string => "$name: $said", $drift->words);
        foreach ($drift->columns as $column) {
            foreach ($column->words as $said) {
                $words[] = \sprintf('%s.%s: %s', $name, $column->name(), $said);
            }
        }

        return $words;
    }
}
