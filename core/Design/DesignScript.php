<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

use Fasti\Core\Dialect\ScriptOptions;
use Fasti\Core\Dialect\ScriptStatement;

/** Puts the script of a design together: its tables, the rows of its lists, and its blocks of SQL where they belong. */
final readonly class DesignScript
{
    public function __construct(private Physical $physical)
    {
    }

    /** @return list<ScriptStatement> */
    public function statements(ScriptOptions $options): array
    {
        $writing = $this->physical->dialect->writing($options);
        $before = $after = $last = [];
        foreach ($this->physical->worked->design->blocks as $block) {
            if ($this->physical->isOurs($block) && !str_ends_with($block->kind, 'view')) {
                $statement = new ScriptStatement('routine' === $block->kind ? 'routine' : 'type', $block->sql, null, 'routine' === $block->kind);
                match (true) {
                    $block->first => $before[] = $statement,
                    'statement' === $block->kind => $last[] = $statement,
                    default => $after[] = $statement,
                };
            }
        }
        $rows = [];
        foreach ($this->physical->catalog->tables as $table) {
            foreach ($this->physical->rows[$table->name] ?? [] as $row) {
                $values = array_map(static fn (string $value): string => '' === $value ? 'NULL' : $writing->literal($value), $row);
                $names = array_map(static fn ($column): string => $writing->name($column->name), \array_slice($table->columns, 0, \count($row)));
                $rows[] = new ScriptStatement(
                    'rows',
                    \sprintf('INSERT INTO %s (%s) VALUES (%s)', $writing->placed($table->place()), implode(', ', $names), implode(', ', $values)),
                    $table->place(),
                );
            }
        }
        // What a block says already, a sequence say, is not said again because a table needs it.
        $said = array_map(static fn (ScriptStatement $statement): string => $statement->sql, $before);
        $all = array_values(array_filter(
            $writing->catalog($this->physical->catalog),
            static fn (ScriptStatement $statement): bool => !\in_array($statement->sql, $said, true),
        ));
        // Types come before tables, but after the schemas in which they stand.
        $cut = 0;
        while (isset($all[$cut]) && \in_array($all[$cut]->kind, ['drop', 'schema'], true)) {
            ++$cut;
        }
        $tail = array_values(
            array_filter(\array_slice($all, $cut), static fn (ScriptStatement $statement): bool => \in_array($statement->kind, ['view', 'trigger'], true)),
        );
        $body = array_values(
            array_filter(\array_slice($all, $cut), static fn (ScriptStatement $statement): bool => !\in_array($statement->kind, ['view', 'trigger'], true)),
        );
        $views = array_fill_keys(
            array_map(
                static fn (ScriptStatement $view): string => (string) $view->about?->key(),
                array_filter($tail, static fn (ScriptStatement $each): bool => 'view' === $each->kind),
            ),
            true,
        );
        // What is said of a view follows it.
        foreach ($body as $i => $statement) {
            if (\in_array($statement->kind, ['index', 'comment'], true) && null !== $statement->about && isset($views[$statement->about->key()])) {
                $tail[] = $statement;
                unset($body[$i]);
            }
        }

        return [...\array_slice($all, 0, $cut), ...$before, ...array_values($body), ...$rows, ...$after, ...$tail, ...$last];
    }

    public function text(ScriptOptions $options): string
    {
        $statements = $this->statements($options);
        $writing = $this->physical->dialect->writing($options);

        return $writing->text($statements);
    }
}
