<?php

declare(strict_types=1);

namespace Fasti\Design;

use Fasti\Account\Act\Act;
use Fasti\Core\Design\Outline;
use Fasti\Core\Design\Physical;
use Fasti\Core\Survey\SourceError;
use Fasti\Source\Sources;
use Fasti\Work\InOneGo;
use Fasti\Work\Job;
use Fasti\Work\JobFailed;
use Fasti\Work\OneAtATime;
use Fasti\Work\Running;

/** Tries the script of a design on a scratch server. */
final readonly class DesignJob implements OneAtATime
{
    use InOneGo;

    public const NAME = 'design';

    public function __construct(private Designs $designs, private Trying $trying, private Planning $planning, private Sources $sources)
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

    public function urgency(): int
    {
        return 4;
    }

    public function page(Job $job): array
    {
        return ['change' === ($job->payload['what'] ?? '') ? 'design_changes' : 'design_script', ['id' => $job->number('design')]];
    }

    public function wordsWhenBroken(Job $job): string
    {
        return 'The worker stopped in the middle. Nothing of yours was on the scratch server; run it again when you like.';
    }

    public function run(Running $running): void
    {
        $kept = $this->designs->one($running->job->number('design')) ?? throw new JobFailed('The design is not there any more.');
        $of = hash('xxh128', $kept->readable);
        try {
            if ('change' === ($running->job->payload['what'] ?? '')) {
                $ran = $this->change($kept, $running) + ['of' => $of];
                $kept = $this->designs->fresh($kept);
                $kept->rehearsed = $ran;
                $kept->rehearsedAt = new \DateTimeImmutable();
            } else {
                $engine = \is_string($running->job->payload['engine'] ?? null) ? $running->job->payload['engine'] : null;
                $ran = $this->trying->run(Physical::of(Outline::read($kept->readable)->design, $engine), $running) + ['of' => $of];
                $kept = $this->designs->fresh($kept);
                $kept->ran = $ran;
                $kept->ranAt = new \DateTimeImmutable();
            }
        } catch (SourceError $e) {
            throw new JobFailed($e->inWords(), 0, $e);
        }
        $this->designs->save();
    }

    /**
     * @return array<string, mixed>
     *
     * @throws SourceError
     */
    private function change(KeptDesign $kept, Running $running): array
    {
        [$changes, $before, $after] = $this->planning->of($kept);
        $source = $kept->source ?? throw new JobFailed('The source of this design is not there any more.');
        $running->at('Reading a sample', 0, 4);
        $rows = $this->sources->rows($this->sources->target($source), 120);
        $sample = null === $rows ? [] : Sampling::of($rows, $before, $this->planning->closed($source));

        return $this->trying->change($changes, $before, $after, $sample, $running);
    }
}
