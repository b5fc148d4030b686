<?php

declare(strict_types=1);

namespace Fasti\Profile;

use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Files\FileProfiler;
use Fasti\Core\Files\FilesReader;
use Fasti\Core\Profile\SqlProfiler;
use Fasti\Core\Profile\TableProfile;
use Fasti\Core\Survey\Progress;
use Fasti\Core\Survey\Rows;
use Fasti\Core\Survey\SourceError;
use Fasti\Core\Survey\Target;
use Fasti\Core\Value\Allowed;
use Fasti\Source\Sources;

/** Profiles tables of a target, over one session. */
final class Profiling
{
    /** How long one statement may take. */
    public const STATEMENT_SECONDS = 60;

    private ?Rows $rows = null;
    private string $engine;

    public function __construct(private readonly Sources $sources, private readonly Target $target)
    {
        $this->engine = $target->engine;
    }

    /**
     * @param list<string>          $grain
     * @param array<string, string> $decisions
     * @param array<string, Allowed> $allowed
     *
     * @throws SourceError
     */
    public function table(Table $table, array $grain, array $decisions, Progress $progress, array $allowed = []): TableProfile
    {
        if ('files' !== $this->engine) {
            $this->rows ??= $this->sources->rows($this->target, self::STATEMENT_SECONDS);

            return (new SqlProfiler(
                $this->rows ?? throw new \LogicException('A server has rows.'),
                Dialects::of($this->engine),
            ))->profile($table, $grain, $decisions, $progress, $allowed);
        }
        if (!\in_array($table->storage, ['CSV', 'JSON'], true)) {
            throw new SourceError(
                \sprintf('There is no data behind %s: only its structure was handed in.', $table->name),
                'Connect the source itself, or hand in its data, to profile it.',
            );
        }

        return (new FileProfiler())->profile($this->file($table), $table, $grain, $decisions, $progress, $allowed);
    }

    private function file(Table $table): string
    {
        $paths = is_dir($this->target->path)
            ? iterator_to_array(
                new \RecursiveIteratorIterator(
                    new \RecursiveDirectoryIterator($this->target->path, \FilesystemIterator::SKIP_DOTS | \FilesystemIterator::CURRENT_AS_PATHNAME),
                ),
                false,
            )
            : [$this->target->path];
        $paths = array_filter($paths, is_string(...));
        sort($paths);
        foreach ($paths as $path) {
            $json = 1 === preg_match('/\.(?:jsonl?|ndjson)$/i', $path);
            if (FilesReader::name($path) === $table->name && $json === (TableType::Collection === $table->kind)) {
                return $path;
            }
        }
        throw new SourceError(\sprintf('There is no file behind %s any more.', $table->name), 'Survey the source again to see what changed.');
    }
}
