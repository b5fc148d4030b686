<?php

declare(strict_types=1);

namespace Fasti\Design;

use Fasti\Core\Design\DesignScript;
use Fasti\Core\Design\Physical;
use Fasti\Core\Design\ReadBack;
use Fasti\Core\Dialect\ScriptOptions;
use Fasti\Core\Survey\Progress;
use Fasti\Core\Survey\SilentProgress;
use Fasti\Core\Survey\SourceError;
use Fasti\Design\Scratch\Scratch;
use Fasti\Design\Scratch\ScratchServers;

/** Runs the script of a design on a scratch server, reads back what came into being, and compares. */
final readonly class Trying
{
    public function __construct(private ScratchServers $servers)
    {
    }

    /**
     * @return array{engine: string, statements: int, tables: int, fields: int, differences: list<string>, failed: array{number: int, sql: string, said: string}|null,
     *     seconds: float}
     *
     * @throws SourceError where the scratch server does not start or dies
     */
    public function run(Physical $physical, Progress $progress): array
    {
        $engine = $physical->dialect->name();
        $server = $this->servers->of($engine) ?? throw new SourceError(
            \sprintf('There is no scratch server for %s here.', $physical->dialect->label()),
            'Its script can be read and taken along; run it on MariaDB, PostgreSQL or SQLite to try the design.',
        );

        return $server->with(static function (Scratch $scratch) use ($physical, $progress, $engine): array {
            $began = microtime(true);
            $placed = new Physical($physical->worked, $physical->dialect, [], $scratch->schema);
            $script = new DesignScript($placed);
            $schemas = array_unique(array_map(static fn ($table): string => $table->schema, $placed->catalog->tables));
            $options = new ScriptOptions(places: \count($schemas) > 1);
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
        });
    }
}
