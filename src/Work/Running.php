<?php

declare(strict_types=1);

namespace Fasti\Work;

use Fasti\Core\Survey\Progress;
use Fasti\Core\Survey\Stopped;

/**
 * A job while a worker is at it: tells how far it is, on a connection of its own, and hears whether it shall stop. A few
 * times a second at most.
 */
final class Running implements Progress
{
    private const PAUSE = 0.3;

    private const SIGN_OF_LIFE = 20.0;

    private float $told = 0;
    private float $listened = 0;
    private string $what = '';
    private int $done = 0;
    private int $total = 0;

    public function __construct(public readonly Job $job, private readonly Jobs $jobs, private readonly JobKind $kind)
    {
    }

    public function at(string $what, int $done, int $total): void
    {
        $now = microtime(true);
        if ($what === $this->what && $now - $this->told < self::PAUSE) {
            return;
        }
        $this->told = $now;
        $this->what = $what;
        $this->done = $done;
        $this->total = $total;
        $this->jobs->heard($this->job->id(), $what, $done, $total);
        $this->stopIfAsked();
    }

    /**
     * While something outside is waited for: hears whether to stop, and gives a sign of life.
     *
     * @throws Stopped
     */
    public function listen(): void
    {
        $now = microtime(true);
        if ($now - $this->listened < self::PAUSE) {
            return;
        }
        $this->listened = $now;
        if ($now - $this->told > self::SIGN_OF_LIFE) {
            $this->told = $now;
            $this->jobs->heard($this->job->id(), $this->what, $this->done, $this->total);
        }
        $this->stopIfAsked();
    }

    /** As at(), where only the words change and how far it is stays. */
    public function saying(string $words): Progress
    {
        return new class($this, $words) implements Progress {
            public function __construct(private readonly Running $running, private readonly string $words)
            {
            }

            public function at(string $what, int $done, int $total): void
            {
                $this->running->at($this->words.$what, $done, $total);
            }
        };
    }

    /** Progress of one part, whose words are told while the whole is as far as it was. */
    public function within(string $words, int $done, int $total): Progress
    {
        return new class($this, $words, $done, $total) implements Progress {
            public function __construct(
                private readonly Running $running,
                private readonly string $words,
                private readonly int $part,
                private readonly int $parts,
            ) {
            }

            public function at(string $what, int $done, int $total): void
            {
                $this->running->at($this->words.$what, $this->part, $this->parts);
            }
        };
    }

    /**
     * Keeps how far the work has come, so that it can go on from there.
     *
     * @param array<string, mixed> $payload
     */
    public function keep(array $payload): void
    {
        $this->job->payload = $payload;
        $this->jobs->keep($this->job->id(), $payload, $this->job->notes);
    }

    public function note(string $sentence): void
    {
        $this->job->notes[] = $sentence;
    }

    /**
     * Between two parts of the work: ends it here when somebody asked for that, and steps back when something more urgent
     * waits.
     *
     * @throws Stopped
     * @throws SteppedBack
     */
    public function pause(): void
    {
        $this->stopIfAsked();
        if ($this->jobs->anyWaitsBefore($this->kind, $this->job)) {
            throw new SteppedBack();
        }
    }

    private function stopIfAsked(): void
    {
        if ('' !== $this->jobs->asked($this->job->id())) {
            throw new Stopped();
        }
    }
}
