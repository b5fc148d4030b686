<?php

declare(strict_types=1);

namespace Fasti\Design;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\ForeignKey;
use Fasti\Core\Catalog\Reference;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Design\Changes;
use Fasti\Core\Design\ChangeStep;
use Fasti\Core\Design\DesignScript;
use Fasti\Core\Design\Physical;
use Fasti\Core\Design\ReadBack;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Dialect\ScriptOptions;
use Fasti\Core\Survey\Progress;
use Fasti\Core\Survey\SilentProgress;
use Fasti\Core\Survey\SourceError;
use Fasti\Core\Wording\Enumeration;
use Fasti\Design\Scratch\Scratch;
use Fasti\Design\Scratch\ScratchServers;

/** Runs the script of a design on a scratch server, reads back what came into being, and compares. */
final readonly class Trying
{
    public function __construct(private ScratchServers $servers)
    {
    }

    /**
     * @return array{engine: string, statements: int, tables: int, fields: int, differences: list<string>, failed: array{number: int, sql: string,
     *     said: string}|null,
     *     seconds: float}
     *
     * @throws SourceError where the scratch server does not start or dies
     */
    public function run(Physical $physical, Progress $progress): array
    {
        $engine = $physical->dialect->name();
        $server = $this->servers->of($engine) ?? throw new SourceError(
            \sprintf('There is no scratch server for %s here.', $physical->dialect->label()),
            'Its script can be read and taken along; run it on '.Enumeration::of($this->servers->labels(), 'or').' to try the design.',
        );

        $schemas = self::schemas($physical->catalog);

        return $server->with(static function (Scratch $scratch) use ($physical, $progress, $engine): array {
            $began = microtime(true);
            $placed = new Physical($physical->worked, $physical->dialect, [], $scratch->schema);
            $script = new DesignScript($placed);
            $options = new ScriptOptions(places: \count(self::schemas($placed->catalog)) > 1);
            $statements = $script->statements($options);
            $failed = null;
            foreach ($statements as $number => $statement) {
                $progress->at('Running the script', $number, \count($statements));
                try {
                    $scratch->exec($statement->sql);
                } catch (SourceError $e) {
                    if (SourceError::LOST === $e->what) {
                        throw $e;
                    }
                    $failed = ['number' => $number + 1, 'sql' => $statement->sql, 'said' => $e->getMessage()];
                    break;
                }
            }
            $found = $scratch->catalog(new SilentProgress());
            $designed = ReadBack::script($script->text($options), $physical->dialect, $scratch->schema);

            return [
                'engine' => $engine, 'statements' => \count($statements), 'tables' => \count($found->tables),
                'fields' => array_sum(array_map(static fn ($table): int => \count($table->columns), $found->tables)),
                'differences' => null === $failed ? ReadBack::differences($designed, $found) : [], 'failed' => $failed,
                'seconds' => round(microtime(true) - $began, 2),
            ];
        }, $schemas);
    }

    /** @return list<string> */
    private static function schemas(Catalog ...$catalogs): array
    {
        $schemas = [];
        foreach ($catalogs as $catalog) {
            foreach ($catalog->tables as $table) {
                $schemas[$table->schema] = true;
            }
        }

        return array_values(array_filter(array_map(strval(...), array_keys($schemas)), static fn (string $schema): bool => '' !== $schema));
    }

    /**
     * Carries a planned change out on a copy of what there is, with the rows of a sample.
     *
     * @param array<string, list<array<string, ?string>>> $sample
     *
     * @return array{engine: string, statements: int, rows: int, leftOut: int, held: int, differences: list<string>,
     *     failed: array{number: int, sql: string, said: string}|null, seconds: float, left: list<array{table: string, before: int, after: int}>,
     * steps: list<string>}
     *
     * @throws SourceError where the scratch server does not start or dies, or the copy cannot be made
     */
    public function change(Changes $changes, Catalog $before, Catalog $after, array $sample, Progress $progress): array
    {
        $dialect = Dialects::ofCatalog($before);
        $server = $this->servers->of($dialect->name()) ?? throw new SourceError(
            \sprintf('There is no scratch server for %s here.', $dialect->label()),
            'Its script can be read and taken along.',
        );

        return $server->with(static function (Scratch $scratch) use ($changes, $before, $after, $sample, $progress, $dialect): array {
            $began = microtime(true);
            $options = new ScriptOptions(places: \count(self::schemas($before)) > 1);
            $progress->at('Making the copy', 0, 3);
            $bare = $before->with(tables: array_map(static fn (Table $table): Table => $table->with(triggers: []), $before->tables));
            foreach ($dialect->writing($options)->catalog($bare) as $statement) {
                $scratch->exec($statement->sql);
            }
            $progress->at('Putting rows in', 1, 3);
            $rows = $scratch->put(Sampling::statements($before, $sample, $options));
            $statements = $changes->statements();
            $failed = null;
            foreach ($statements as $number => $sql) {
                $progress->at('Changing the copy', $number, \count($statements));
                try {
                    $scratch->exec($sql);
                } catch (SourceError $e) {
                    if (SourceError::LOST === $e->what) {
                        throw $e;
                    }
                    $failed = ['number' => $number + 1, 'sql' => $sql, 'said' => $e->getMessage()];
                    break;
                }
            }
            $left = null === $failed ? self::left($scratch, $changes, $sample, $after, $options) : [];

            return [
                'engine' => $dialect->name(), 'statements' => \count($statements), 'rows' => $rows, 'leftOut' => \count($scratch->leftOut),
                'held' => array_sum(array_column($left, 'after')),
                'differences' => null === $failed ? ReadBack::differences(
                    self::inOrder(self::under($changes->after, $scratch, $before)),
                    self::inOrder(self::withoutLeftOut($scratch->catalog(new SilentProgress()))),
                ) : [],
                'failed' => $failed, 'left' => $left, 'steps' => array_map(
                    static fn (ChangeStep $step): string => $step->words,
                    $changes->steps,
                ), 'seconds' => round(microtime(true) - $began, 2),
            ];
        }, self::schemas($before, $after));
    }

    /** What rows are kept as that were taken out is no part of a design. */
    private static function withoutLeftOut(Catalog $catalog): Catalog
    {
        return $catalog->with(tables: array_values(
            array_filter($catalog->tables, static fn (Table $table): bool => !str_starts_with($table->name, Changes::OUT)),
        ));
    }

    /**
     * How many rows each table has that stays.
     *
     * @param array<string, list<array<string, ?string>>> $sample
     *
     * @return list<array{table: string, before: int, after: int}>
     */
    private static function left(Scratch $scratch, Changes $changes, array $sample, Catalog $after, ScriptOptions $options): array
    {
        $left = [];
        $writing = $scratch->dialect->writing($options);
        foreach ($after->tables as $table) {
            $was = array_search($table->place()->key(), $changes->matching->tables, true);
            if (false !== $was && !$table->kind->isView()) {
                foreach ($scratch->rows()->rows('SELECT COUNT(*) AS n FROM '.$writing->placed($table->place())) as $row) {
                    $left[] = ['table' => $table->name, 'before' => \count($sample[$was] ?? []), 'after' => (int) ($row['n'] ?? 0)];
                }
            }
        }

        return $left;
    }

    /** Fields by name: only a table that is made anew has them in another order. */
    private static function inOrder(Catalog $catalog): Catalog
    {
        return $catalog->with(routines: [], tables: array_map(static function (Table $table): Table {
            $columns = $table->columns;
            usort($columns, static fn (Column $a, Column $b): int => $a->name <=> $b->name);

            return $table->with(columns: $columns, triggers: []);
        }, $catalog->tables));
    }

    /** As it is called on the scratch server, where there is one schema and no other. */
    private static function under(Catalog $after, Scratch $scratch, Catalog $before): Catalog
    {
        $schemas = array_unique(array_map(static fn (Table $table): string => $table->schema, [...$before->tables, ...$after->tables]));
        if (\count($schemas) > 1) {
            return $after;
        }

        return $after->with(tables: array_map(static fn (Table $table): Table => $table->with(schema: $scratch->schema, foreignKeys: array_map(
            static fn (ForeignKey $key): ForeignKey => new ForeignKey(
                $key->name,
                $key->columns,
                new Reference($scratch->schema, $key->references->table, $key->references->columns),
                $key->onDelete,
                $key->onUpdate,
            ),
            $table->foreignKeys,
        )), $after->tables));
    }
}
