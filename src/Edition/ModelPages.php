<?php

declare(strict_types=1);

namespace Fasti\Edition;

use Fasti\Core\Model\Matrix;
use Fasti\Core\Model\ModelFile;
use Fasti\Core\Model\TrialWords;
use Fasti\Model\Grounds;
use Fasti\Model\KeptModel;
use Fasti\Model\KeptTrial;
use Fasti\Model\Models;
use Fasti\Model\Offered;
use Fasti\Model\TrialFile;

/** A page and a file for each model that is shared: what it offers, its matrix, and the trials kept with it. */
final class ModelPages extends EditionPart
{
    private const LIST = 'models/index.html';
    private bool $given = false;

    public function __construct(private readonly Models $models, private readonly Grounds $grounds)
    {
    }

    public static function path(int $model): string
    {
        return "models/$model.html";
    }

    public function begin(Folder $folder): void
    {
        $this->given = [] !== $this->models->shared();
        if ($this->given) {
            $folder->announce('Models', self::LIST);
        }
    }

    public function end(Folder $folder, Contents $contents): void
    {
        if (!$this->given) {
            return;
        }
        $sources = array_map(static fn (SourceSheet $sheet): int => $sheet->source->id, $contents->sheets);
        $made = [];
        foreach ($this->models->shared() as $kept) {
            if (\in_array($kept->source->id(), $sources, true)) {
                $made[] = $this->model($folder, $kept);
            }
        }
        $folder->page(self::LIST, 'edition/models.html.twig', ['models' => $made]);
    }

    /** @return array{kept: KeptModel, path: string, file: string, measures: int, trials: int, answered: int} */
    private function model(Folder $folder, KeptModel $kept): array
    {
        $path = self::path($kept->id());
        $file = \sprintf('models/%d.json', $kept->id());
        $model = $kept->model();
        $ground = $this->grounds->of($kept);
        $trials = $this->models->trials($kept);
        $shown = new Offered($ground, $this->grounds->meanings($model, $kept->source->id()));
        $folder->write(
            $file,
            ModelFile::json($model, $kept->source->name, array_map(static fn (KeptTrial $trial): array => TrialFile::of($trial, true), $trials)),
        );
        $folder->page($path, 'edition/model.html.twig', [
            'kept' => $kept, 'model' => $model, 'matrix' => new Matrix($ground), 'said_of' => $shown->meanings(), 'units' => $shown->units(),
            'file' => basename($file),
            'trials' => array_map(static fn (KeptTrial $trial): array => ['kept' => $trial, 'words' => TrialWords::of($trial->trial())], $trials),
        ]);

        return [
            'kept' => $kept, 'path' => $path, 'file' => $file, 'measures' => \count($model->measures), 'trials' => \count($trials),
            'answered' => \count(array_filter($trials, static fn (KeptTrial $trial): bool => KeptTrial::ANSWERED === $trial->state)),
        ];
    }
}
