<?php

declare(strict_types=1);

namespace Fasti\Model;

use Doctrine\ORM\EntityManagerInterface;
use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\FieldPlace;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Model\Ground;
use Fasti\Core\Model\ModelError;
use Fasti\Core\Model\ModelFile;
use Fasti\Core\Privacy\Privacy;
use Fasti\Core\Survey\Rows;
use Fasti\Core\Survey\SourceError;
use Fasti\Source\Source;
use Fasti\Source\Sources;
use Fasti\Source\SourceStore;
use Fasti\Source\Targets;

/** The model that a command names: one of the register, or one in a file over a source of the register or a target. */
final readonly class Targeted
{
    public const SECONDS = 600;

    public function __construct(
        private Models $models,
        private Grounds $grounds,
        private Sources $sources,
        private SourceStore $store,
        private Targets $targets,
        private EntityManagerInterface $orm,
    ) {
    }

    /**
     * @return array{Ground, Rows, ?KeptModel}
     *
     * @throws ModelError
     * @throws SourceError
     */
    public function model(string $name, string $file, string $target): array
    {
        if (('' === $name) === ('' === $file)) {
            throw new ModelError('Name a model of the register, or a file with --file=MODEL.json.');
        }
        if ('' !== $file) {
            return $this->inFile($file, $target);
        }
        $kept = $this->models->named($name) ?? throw new ModelError(\sprintf('There is no model “%s”.%s', $name, $this->others()));
        $ground = $this->grounds->of($kept);
        $ground->sql();

        return [$ground, $this->rows($this->sources->targetOf($kept->connection())), $kept];
    }

    private function others(): string
    {
        $names = array_map(static fn (KeptModel $one): string => $one->name, $this->models->shared());

        return [] === $names ? '' : ' There are: '.implode(', ', $names).'.';
    }

    private function rows(\Fasti\Core\Survey\Target $target): Rows
    {
        return $this->sources->rows($target, self::SECONDS) ?? throw new ModelError(
            'Files cannot be asked questions, only read. Load them into a database first.',
        );
    }

    /** @return array{Ground, Rows, null} */
    private function inFile(string $file, string $target): array
    {
        $json = is_file($file) ? file_get_contents($file) : false;
        if (false === $json) {
            throw new ModelError(\sprintf('There is no file “%s”.', $file));
        }
        $model = ModelFile::read($json);
        if ('' !== $target) {
            $at = $this->targets->target($target);
            $catalog = self::only($this->targets->catalog($target), $model);

            return [new Ground($model, $catalog, closed: self::closed($catalog)), $this->rows($at), null];
        }
        $data = json_decode($json, true);
        $said = \is_array($data) && \is_string($data['source'] ?? null) ? $data['source'] : '';
        $source = $this->store->named($said);
        if (null === $source) {
            throw new ModelError(
                '' === $said ? 'The file does not say of which source it is. Say where it is with --target=URL.' : \sprintf(
                    'The register has no source “%s”. Say where it is with --target=URL.',
                    $said,
                ),
            );
        }
        $of = $this->orm->find(Source::class, $source) ?? throw new ModelError('The source is not there any more.');

        return [$this->grounds->ofModel($model, $source), $this->rows($this->sources->target($of)), null];
    }

    /** @return array<string, string> FieldPlace::key() → why, of what is secret by its name: a source without a register has no profile */
    private static function closed(Catalog $catalog): array
    {
        $closed = [];
        foreach ($catalog->tables as $table) {
            foreach ($table->columns as $column) {
                $reason = Privacy::known($table->name, $column->name, null, '');
                if (Privacy::isSecret($reason)) {
                    $closed[(new FieldPlace($table->schema, $table->name, $column->name))->key()] = $reason;
                }
            }
        }

        return $closed;
    }

    private static function only(Catalog $catalog, \Fasti\Core\Model\Model $model): Catalog
    {
        $places = array_map(static fn ($role): string => $role->entry->key(), $model->roles);

        return $catalog->with(
            tables: array_values(array_filter($catalog->tables, static fn (Table $table): bool => \in_array($table->place()->key(), $places, true))),
        );
    }
}
