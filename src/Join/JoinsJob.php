<?php

declare(strict_types=1);

namespace Fasti\Join;

use Doctrine\ORM\EntityManagerInterface;
use Fasti\Account\Act\Act;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Survey\Progress;
use Fasti\Core\Survey\SourceError;
use Fasti\Source\Source;
use Fasti\Source\Sources;
use Fasti\Work\Job;
use Fasti\Work\JobFailed;
use Fasti\Work\JobKind;
use Fasti\Work\Running;

/** Looks for the joins of a source, gathers examples of their rows, and counts the rows at each end. */
final readonly class JoinsJob implements JobKind
{
    public const NAME = 'joins';
    private const STATEMENT_SECONDS = 60;

    public function __construct(private EntityManagerInterface $orm, private Sources $sources, private JoinFinder $finder, private JoinLook $look)
    {
    }

    public function name(): string
    {
        return self::NAME;
    }

    public function act(): string
    {
        return Act::ASK;
    }

    public function pauses(): bool
    {
        return false;
    }

    public function urgency(): int
    {
        return 0;
    }

    public function page(Job $job): array
    {
        return ['joins', ['source' => $job->number('source'), 'job' => $job->id()]];
    }

    public function wordsWhenBroken(Job $job): string
    {
        return 'The worker stopped in the middle. What was found and counted before is kept; look again when you like.';
    }

    public function cameToItsEnd(Job $job): bool
    {
        return true === ($job->payload['done'] ?? false);
    }

    public function run(Running $running): void
    {
        $job = $running->job;
        $source = $this->orm->find(Source::class, $job->number('source')) ?? throw new JobFailed('The source is not there any more.');
        foreach (\array_slice(array_unique($this->now($source, $running->saying('Looking for joins: '))), 0, 20) as $note) {
            $running->note($note);
        }
        $running->keep(['done' => true] + $job->payload);
    }

    /** @return list<string> what could not be looked at, in sentences */
    public function now(Source $source, Progress $progress): array
    {
        $target = $this->sources->target($source);
        $notes = [];
        $rows = null;
        try {
            $rows = null === Dialects::of($target->engine)->profiling() ? null : $this->sources->rows($target, self::STATEMENT_SECONDS);
        } catch (SourceError $e) {
            $notes[] = $e->inWords().' Joins were looked for by names and types only.';
        }
        array_push($notes, ...$this->finder->find($source, $rows, $progress));
        if (null !== $rows) {
            array_push($notes, ...$this->look->all($source, $rows, Dialects::of($target->engine), $progress));
        }

        return $notes;
    }
}
