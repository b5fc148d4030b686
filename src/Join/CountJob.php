<?php

declare(strict_types=1);

namespace Fasti\Join;

use Doctrine\ORM\EntityManagerInterface;
use Fasti\Account\Act\Act;
use Fasti\Core\Survey\SourceError;
use Fasti\Source\Source;
use Fasti\Source\Sources;
use Fasti\Work\Job;
use Fasti\Work\JobFailed;
use Fasti\Work\JobKind;
use Fasti\Work\Running;

/** Counts what somebody wants to know of a route or a loop. The questions were composed here; only their answers are kept. */
final readonly class CountJob implements JobKind
{
    public const NAME = 'join-count';
    private const STATEMENT_SECONDS = 30;

    public function __construct(private EntityManagerInterface $orm, private Sources $sources)
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
        return 5;
    }

    /**
     * @param list<string>              $questions
     * @param array<string, int|string> $back      parameters of the page that shows the answers
     *
     * @return array<string, mixed>
     */
    public static function payload(int $source, array $questions, string $route, array $back): array
    {
        return ['source' => $source, 'questions' => $questions, 'route' => $route, 'back' => $back];
    }

    public function page(Job $job): array
    {
        $route = $job->payload['route'] ?? '';
        $back = $job->payload['back'] ?? [];
        $parameters = [];
        foreach (\is_array($back) ? $back : [] as $name => $value) {
            if (\is_scalar($value)) {
                $parameters[(string) $name] = \is_int($value) ? $value : (string) $value;
            }
        }

        return [\is_string($route) && '' !== $route ? $route : 'route', $parameters + ['job' => $job->id()]];
    }

    public function wordsWhenBroken(Job $job): string
    {
        return 'The worker stopped in the middle of counting. Ask again.';
    }

    public function cameToItsEnd(Job $job): bool
    {
        return isset($job->payload['answers']);
    }

    public function run(Running $running): void
    {
        $job = $running->job;
        $source = $this->orm->find(Source::class, $job->number('source')) ?? throw new JobFailed('The source is not there any more.');
        $rows = $this->sources->rows(
            $this->sources->target($source),
            self::STATEMENT_SECONDS,
        ) ?? throw new JobFailed('There is no data to ask behind this source.');
        $questions = self::questions($job);
        $answers = [];
        foreach ($questions as $i => $sql) {
            $running->at('Counting', $i, \count($questions));
            $answers[$i] = null;
            try {
                foreach ($rows->rows($sql) as $row) {
                    $answers[$i] = $row;
                    break;
                }
            } catch (SourceError $e) {
                if (SourceError::LOST === $e->what) {
                    throw $e;
                }
                $running->note($e->inWords());
            }
        }
        $running->keep(['answers' => $answers] + $job->payload);
    }

    /** The job, if it asks this source. Its answers are shown by question, so that none stands where another is meant. */
    public static function ofSource(?Job $job, int $source): ?Job
    {
        return null !== $job && self::NAME === $job->kind && $source === $job->number('source') ? $job : null;
    }

    /** @return list<string> */
    public static function questions(?Job $job): array
    {
        $questions = $job?->payload['questions'] ?? [];

        return \is_array($questions) ? array_values(array_filter($questions, is_string(...))) : [];
    }

    /** @return array<string, array<string, string>|null> what each question was answered with, by question; empty before the end */
    public static function answers(?Job $job): array
    {
        $answers = [];
        $given = $job?->payload['answers'] ?? null;
        if (!\is_array($given)) {
            return [];
        }
        foreach (self::questions($job) as $i => $question) {
            $answer = $given[$i] ?? null;
            if (!\is_array($answer)) {
                $answers[$question] = null;
                continue;
            }
            $row = [];
            foreach ($answer as $name => $value) {
                $row[(string) $name] = \is_scalar($value) ? (string) $value : '';
            }
            $answers[$question] = $row;
        }

        return $answers;
    }
}
