<?php

declare(strict_types=1);

namespace Fasti\Draft;

use Fasti\Account\Act\Act;
use Fasti\Work\Job;
use Fasti\Work\JobKind;
use Fasti\Work\Running;
use Symfony\Contracts\EventDispatcher\EventDispatcherInterface;

/** Makes the drafts of a source anew, after a survey and after its data was looked at. */
final readonly class DraftsJob implements JobKind
{
    public const NAME = 'drafts';

    public function __construct(private Drafting $drafting, private EventDispatcherInterface $events)
    {
    }

    public function name(): string
    {
        return self::NAME;
    }

    public function act(): string
    {
        return Act::DESCRIBE;
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
        return ['desk', []];
    }

    public function wordsWhenBroken(Job $job): string
    {
        return 'The worker stopped in the middle. The drafts that were made are kept; the others are made when their page opens.';
    }

    public function cameToItsEnd(Job $job): bool
    {
        return true === ($job->payload['done'] ?? false);
    }

    public function run(Running $running): void
    {
        $source = $running->job->number('source');
        $this->drafting->source($source, $running->saying('Drafts: '));
        $this->events->dispatch(new DraftsMadeAnew($source));
        $running->keep(['done' => true] + $running->job->payload);
    }
}
