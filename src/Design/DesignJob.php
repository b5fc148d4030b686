<?php

declare(strict_types=1);

namespace Fasti\Design;

use Fasti\Account\Act\Act;
use Fasti\Core\Design\Outline;
use Fasti\Core\Design\Physical;
use Fasti\Core\Survey\SourceError;
use Fasti\Work\Job;
use Fasti\Work\JobFailed;
use Fasti\Work\JobKind;
use Fasti\Work\Running;

/** Tries the script of a design on a scratch server. */
final readonly class DesignJob implements JobKind
{
    public const NAME = 'design';

    public function __construct(private Designs $designs, private Trying $trying)
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
        return 4;
    }

    public function page(Job $job): array
    {
        return ['design_script', ['id' => $job->number('design')]];
    }

    public function wordsWhenBroken(Job $job): string
    {
        return 'The worker stopped in the middle. Nothing of yours was on the scratch server; run it again when you like.';
    }

    public function cameToItsEnd(Job $job): bool
    {
        return false;
    }

    public function run(Running $running): void
    {
        $kept = $this->designs->one($running->job->number('design')) ?? throw new JobFailed('The design is not there any more.');
        $engine = \is_string($running->job->payload['engine'] ?? null) ? $running->job->payload['engine'] : null;
        try {
            $ran = $this->trying->run(Physical::of(Outline::read($kept->readable)->design, $engine), $running);
        } catch (SourceError $e) {
            throw new JobFailed($e->inWords(), 0, $e);
        }
        $kept = $this->designs->fresh($kept);
        $kept->ran = $ran + ['of' => hash('xxh128', $kept->readable)];
        $kept->ranAt = new \DateTimeImmutable();
        $this->designs->save();
    }
}
