<?php

declare(strict_types=1);

namespace Fasti\Work;

use Symfony\Bundle\SecurityBundle\Security;
use Twig\Attribute\AsTwigFunction;

/** What the partial work/_job.html.twig asks about a job. */
final readonly class JobWords
{
    public function __construct(private JobKinds $kinds, private Security $security)
    {
    }

    #[AsTwigFunction('job_pauses')]
    public function pauses(Job $job): bool
    {
        return $this->kinds->of($job->kind)->pauses();
    }

    /** Whether the person who looks may pause, cancel and go on with it. */
    #[AsTwigFunction('job_may_be_asked')]
    public function mayBeAsked(Job $job): bool
    {
        return $this->security->isGranted($this->kinds->of($job->kind)->act());
    }
}
