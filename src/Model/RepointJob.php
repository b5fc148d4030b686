<?php

declare(strict_types=1);

namespace Fasti\Model;

use Fasti\Account\Act\Act;
use Fasti\Core\Model\ModelError;
use Fasti\Core\Survey\SourceError;
use Fasti\Source\Connection;
use Fasti\Source\Sources;
use Fasti\Work\InOneGo;
use Fasti\Work\Job;
use Fasti\Work\JobFailed;
use Fasti\Work\JobKind;
use Fasti\Work\Running;

/** Asks every kept trial of a model twice, through its connection and through another, before anybody points it there. */
final readonly class RepointJob implements JobKind
{
    use InOneGo;

    public const NAME = 'repoint';
    private const SECONDS = 120;

    public function __construct(private Models $models, private Grounds $grounds, private Sources $sources)
    {
    }

    public static function lane(int $model): string
    {
        return 'repoint '.$model;
    }

    public function name(): string
    {
        return self::NAME;
    }

    public function act(): string
    {
        return Act::ASK;
    }

    public function urgency(): int
    {
        return 3;
    }

    public function page(Job $job): array
    {
        return ['model_repoint', ['id' => $job->number('model')]];
    }

    public function wordsWhenBroken(Job $job): string
    {
        return 'The worker stopped in the middle. Nothing was switched; compare again when you like.';
    }

    public function run(Running $running): void
    {
        $kept = $this->models->one($running->job->number('model')) ?? throw new JobFailed('The model is not there any more.');
        $connection = $kept->connectionNumbered($running->job->number('connection'));
        $trials = $this->models->trials($kept);
        $standing = Repointing::standing($kept, $trials);
        try {
            $here = $this->asked($kept, $kept->connection(), $trials, $running);
            $there = $this->asked($kept, $connection ?? $kept->source->connection(), $trials, $running);
        } catch (SourceError $e) {
            throw new JobFailed($e->inWords().' Nothing was switched.', 0, $e);
        } catch (ModelError $e) {
            throw new JobFailed($e->getMessage(), 0, $e);
        }
        $kept->repointing = Repointing::kept($kept, $connection, $standing, $trials, $here, $there);
        $this->models->save();
    }

    /**
     * @param list<KeptTrial> $trials
     *
     * @return list<AskedTrial>
     *
     * @throws SourceError where the source is lost
     * @throws ModelError  where it is none that can be asked
     */
    private function asked(KeptModel $kept, Connection $connection, array $trials, Running $running): array
    {
        $ground = $this->grounds->of($kept);
        $ground->sql();
        $rows = $this->sources->rows($this->sources->targetOf($connection), self::SECONDS)
            ?? throw new ModelError('Files cannot be asked questions, only read.');
        $personal = $this->grounds->known($kept)->personal;
        $asked = [];
        foreach ($trials as $i => $trial) {
            $running->at(\sprintf('Through %s: %s', $connection->label, $trial->name), $i, \count($trials));
            $asked[] = AskedTrial::of($trial->trial(), $ground, $rows, $personal);
        }

        return $asked;
    }
}
