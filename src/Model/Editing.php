<?php

declare(strict_types=1);

namespace Fasti\Model;

use Fasti\Account\Account;
use Fasti\Core\Model\Model;
use Fasti\Core\Model\ModelError;
use Fasti\Core\Model\Renamed;
use Fasti\Core\Model\Uses;
use Fasti\Model\Topic\ModelTopic;
use Fasti\Register\Fields;
use Fasti\Source\Source;
use Fasti\Text\BadText;
use Fasti\Text\Texts;
use Fasti\Work\Job;
use Fasti\Work\Jobs;

/** Makes models and changes them. Each change is in the history; the trials that are kept follow, and are asked again. */
final readonly class Editing
{
    public function __construct(
        private Models $models,
        private Texts $texts,
        private Grounds $grounds,
        private Fields $fields,
        private Jobs $jobs,
        private ModelJob $job,
    ) {
    }

    /** @throws BadText where the name is taken or missing */
    public function begin(Account $account, string $name, string $purpose, Source $source, Model $model): KeptModel
    {
        $kept = $this->models->keep($this->models->free($name), $this->models->purpose($purpose), $account, $source);
        $this->texts->save($account, ModelTopic::NAME, $kept->id(), ModelProperties::DEFINITION, '{}', KeptModel::definitionOf($model), 'made');
        $kept = $this->models->fresh($kept);
        $this->follow($kept);

        return $kept;
    }

    /**
     * @param callable(Model): Model $change
     *
     * @throws BadText    where somebody else has changed it meanwhile
     * @throws ModelError
     */
    public function change(Account $account, KeptModel $kept, callable $change, ?Renamed $renamed = null): KeptModel
    {
        // Two who change different parts at once come one after the other, each upon what the other left.
        $kept = $this->models->locked($kept, function (KeptModel $kept) use ($account, $change, $renamed): KeptModel {
            $before = $kept->model();
            $answer = $this->texts->save(
                $account,
                ModelTopic::NAME,
                $kept->id(),
                ModelProperties::DEFINITION,
                $kept->definition,
                KeptModel::definitionOf($change($before)),
                'change-'.bin2hex(random_bytes(6)),
            );
            if (!$answer->saved) {
                throw new BadText(
                    \sprintf('%s has changed the model meanwhile. Look at it as it is now, and make your change again.', $answer->by ?? 'Somebody'),
                );
            }
            $kept = $this->models->fresh($kept);
            if (null !== $renamed && !$renamed->isNothing()) {
                foreach ($this->models->trials($kept) as $trial) {
                    $trial->ask($renamed->trial($trial->trial(), $before, $kept->model()));
                }
                $this->models->save();
            }
            $this->standOn($kept);

            return $kept;
        });
        $this->lookAgain($kept, null, false);

        return $kept;
    }

    /** What a model stands on, and what is asked again. */
    public function follow(KeptModel $kept, bool $ask = true): void
    {
        $this->models->locked($kept, $this->standOn(...));
        if ($ask) {
            $this->lookAgain($kept, null, false);
        }
    }

    /** @param bool $whole the data is looked at even where nothing that it depends on has changed */
    public function lookAgain(KeptModel $kept, ?Account $account = null, bool $whole = true): Job
    {
        return $this->jobs->start($this->job, 'model '.$kept->id(), ['model' => $kept->id(), 'whole' => $whole ? 1 : 0], $account);
    }

    public function standOn(KeptModel $kept): void
    {
        $trials = [];
        foreach ($this->models->trials($kept) as $trial) {
            $trials[$trial->name] = $trial->trial();
        }
        $ids = [];
        $entries = $this->grounds->entriesOf($kept->model(), $kept->source->id());
        $fields = $this->fields->ids(array_values($entries));
        foreach ($entries as $key => $entry) {
            foreach ($fields[$entry] ?? [] as $name => $id) {
                $ids[$key."\0".$name] = $id;
            }
        }
        $uses = [];
        foreach ((new Uses($this->grounds->of($kept)))->all($trials) as $use) {
            $id = $ids[$use->place->key()] ?? null;
            if (null !== $id) {
                $uses[] = ['field' => $id, 'kind' => $use->kind, 'part' => $use->part];
            }
        }
        $this->models->standOn($kept->id(), $uses);
    }
}
