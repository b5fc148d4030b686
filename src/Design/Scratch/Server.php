<?php

declare(strict_types=1);

namespace Fasti\Design\Scratch;

use Fasti\Core\Cage\Cage;
use Fasti\Core\Cage\CageError;
use Fasti\Core\Cage\Child;
use Fasti\Core\Survey\SourceError;
use Fasti\Source\Connector\Fault;
use Fasti\Source\Connector\PdoDoor;
use Fasti\Source\Connector\Served;
use Fasti\Source\Connector\Session;
use Fasti\Work\CurrentJob;

/** A database server in a cage, as long as this object lives: reached through the cage's own root, where nobody else comes. */
final class Server
{
    public const START = 30;
    /** Seconds that one statement may take. */
    public const STATEMENT = 60;

    private Child $child;

    /** @throws SourceError */
    public function __construct(Cage $cage, string $start, private readonly string $label, private readonly CurrentJob $job)
    {
        try {
            Cage::sweep();
            $this->child = $cage->start(['/usr/bin/bash', '-c', 'tar -xzf /template && exec timeout -s KILL '.(Scratch::RUN + 2 * self::STATEMENT).' '.$start]);
        } catch (CageError $e) {
            throw self::without($label, $e);
        }
    }

    /** What is said where there is no cage: nothing runs without one. */
    public static function without(string $label, CageError $e): SourceError
    {
        return new SourceError("A scratch server for $label runs in a cage only, and none can be made here.", $e->getMessage(), $e);
    }

    /**
     * Waits until it listens, and opens a session.
     *
     * @param \Closure(string): array{string, string, string} $as     from the folder of its socket, what PdoDoor begins with: DSN, account, password
     * @param list<string>                                   $first
     * @param \Closure(Fault): SourceError                   $explain
     *
     * @throws SourceError
     */
    public function session(\Closure $as, array $first, \Closure $explain): Session
    {
        $until = microtime(true) + self::START;
        while (true) {
            $root = $this->child->root();
            if (null !== $root) {
                try {
                    return new Session(
                        Served::beside(...),
                        ['door' => PdoDoor::class, 'with' => [...$as($root.Cage::WORK), [], $first]],
                        self::START,
                        self::STATEMENT,
                        $explain,
                        $this->silent(...),
                        $this->job->listen(...),
                        true,
                    );
                } catch (SourceError $e) {
                    if (SourceError::LOST !== $e->what) {
                        throw $e;
                    }
                }
            }
            if (!$this->child->runs() || microtime(true) > $until) {
                throw new SourceError(
                    "The scratch server for {$this->label} did not start: ".substr($this->child->said(), -400),
                    'Look whether the machine has memory left, and try again.',
                );
            }
            $this->job->listen();
            usleep(30_000);
        }
    }

    public function stop(): void
    {
        $this->child->stop();
    }

    public function silent(string $what): SourceError
    {
        return self::ended($what, 'The scratch server died in the middle.');
    }

    /** What is said of a run whose process answers no more. */
    public static function ended(string $what, string $died): SourceError
    {
        return SourceError::OVER_TIME === $what
            ? new SourceError(
                \sprintf('A statement needed more than %d seconds, so that the run was ended.', self::STATEMENT),
                'Nothing of yours was on it.',
                null,
                SourceError::LOST,
            )
            : new SourceError($died, 'Nothing of yours was on it. Run it again.', null, SourceError::LOST);
    }
}
