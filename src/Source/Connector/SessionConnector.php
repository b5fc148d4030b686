<?php

declare(strict_types=1);

namespace Fasti\Source\Connector;

use Fasti\Core\Cage\CageError;
use Fasti\Core\Cage\Child;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Survey\Reader;
use Fasti\Core\Survey\SourceError;
use Fasti\Core\Survey\Target;
use Fasti\Work\CurrentJob;
use Psr\Log\LoggerInterface;

/** What connectors of databases have in common: each session is a process, and what an engine says of a failure is turned into words of our own. */
abstract class SessionConnector implements Connector
{
    public function __construct(private readonly CurrentJob $job, private readonly LoggerInterface $logger)
    {
    }

    /** @throws SourceError */
    abstract public function rows(Target $target, int $connect, int $seconds): Session;

    /** @return array{0: string, 1: string, 2?: string}|null message, advice, and which of the cases that callers tell apart */
    abstract protected function fault(Fault $fault, Target $target, int $seconds): ?array;

    /** @return array{string, string} what is said of one that never answered */
    abstract protected function mute(Target $target, int $connect): array;

    abstract protected function at(Target $target): string;

    public function reader(Target $target, int $connect, int $seconds): Reader
    {
        return Dialects::of($this->engine())->reader($this->rows($target, $connect, $seconds), $target->database)
            ?? throw new \LogicException(\sprintf('%s has no reader.', $this->engine()));
    }

    /**
     * @param \Closure(): Child                                  $start
     * @param array{door: class-string<Door>, with: list<mixed>} $opening
     *
     * @throws SourceError
     */
    protected function session(Target $target, int $connect, int $seconds, \Closure $start, array $opening): Session
    {
        return new Session(
            static function () use ($start): Child {
                try {
                    return $start();
                } catch (CageError $e) {
                    throw new SourceError('No process can be started here that reads the source.', $e->getMessage(), $e);
                }
            },
            $opening,
            $connect,
            $seconds,
            fn (Fault $fault): SourceError => $this->explained($fault, $target, $seconds),
            function (string $what) use ($target, $connect, $seconds): SourceError {
                [$message, $advice] = match ($what) {
                    SourceError::OVER_TIME => self::overTime($seconds),
                    SourceError::LOST => self::lost($this->at($target)),
                    default => $this->mute($target, $connect),
                };

                return new SourceError($message, $advice, null, $what);
            },
            $this->job->listen(...),
        );
    }

    private function explained(Fault $fault, Target $target, int $seconds): SourceError
    {
        $known = $this->fault($fault, $target, $seconds);
        if (null === $known) {
            $this->logger->warning('A source answered with an error: {said}', ['said' => $fault->masked(), 'at' => $this->at($target)]);
        }
        [$message, $advice] = $known ?? $fault->kind();

        return new SourceError(null === $known ? $this->at($target).': '.$message : $message, $advice, null, $known[2] ?? '');
    }

    /** @return array{string, string, string} */
    protected static function overTime(int $seconds): array
    {
        return [
            \sprintf('The server needed more than %d seconds for one question, so Fasti gave up on it.', $seconds),
            'Choose fewer tables, or try when the server is less busy.',
            SourceError::OVER_TIME,
        ];
    }

    /** @return array{string, string, string} */
    protected static function lost(string $at): array
    {
        return [
            \sprintf('The connection to %s was lost in the middle of reading.', $at),
            'Nothing has been changed here. Try again when the server is up.',
            SourceError::LOST,
        ];
    }
}
