<?php

declare(strict_types=1);

namespace Fasti\Design\Scratch;

use Fasti\Core\Survey\SourceError;
use Symfony\Component\Process\ExecutableFinder;
use Symfony\Component\Process\Process;

/** A server process that lives as long as its scratch database. One of a kind runs at a time; the next one waits. */
final class Daemon
{
    private const LONGEST_START = 60;
    private ?Process $process = null;
    /** @var resource|null */
    private mixed $lock = null;

    /** @throws SourceError where the one that runs takes too long */
    public function __construct(private readonly string $place, private readonly string $label)
    {
        is_dir($place) || mkdir($place, 0o711, true);
        $lock = fopen($place.'.lock', 'c');
        if (false === $lock) {
            throw new SourceError("The scratch server for $label has no place to be: $place cannot be written.", 'Check that the folder is yours.');
        }
        for ($tries = 0; !flock($lock, \LOCK_EX | \LOCK_NB); ++$tries) {
            if ($tries > 1800) {
                throw new SourceError("The scratch server for $label is busy with something else.", 'Try again in a few minutes.');
            }
            usleep(100_000);
        }
        $this->lock = $lock;
    }

    /** The folder of a program that Debian puts beside the path. */
    public static function program(string $name, string ...$folders): string
    {
        return (new ExecutableFinder())->find($name, null, ['/usr/sbin', '/usr/local/sbin', ...$folders])
            ?? throw new SourceError(
                \sprintf('%s is not installed here, so that no scratch server can be started.', $name),
                'Run bin/prepare, which installs it.',
            );
    }

    /** @param list<string> $command */
    public function prepare(array $command): void
    {
        $process = new Process($command, '/', null, null, 120);
        $process->run();
        if (!$process->isSuccessful()) {
            throw new SourceError(
                "The scratch server for {$this->label} could not be made: ".trim(substr($process->getErrorOutput().$process->getOutput(), -400)),
                'Look whether the disk is full, and try again.',
            );
        }
    }

    /**
     * @param list<string>    $command
     * @param \Closure(): \PDO $connect
     */
    public function start(array $command, \Closure $connect): \PDO
    {
        $this->process = new Process($command, '/', null, null, null);
        $this->process->start();
        $until = microtime(true) + self::LONGEST_START;
        while (microtime(true) < $until && $this->process->isRunning()) {
            try {
                return $connect();
            } catch (\PDOException) {
                usleep(50_000);
            }
        }
        throw new SourceError(
            "The scratch server for {$this->label} did not start: ".trim(substr($this->process->getErrorOutput(), -400)),
            'Look whether the disk is full, and try again.',
        );
    }

    public function stop(): void
    {
        $this->process?->stop(10, \SIGTERM);
        $this->process = null;
        if (null !== $this->lock) {
            flock($this->lock, \LOCK_UN);
            fclose($this->lock);
            $this->lock = null;
        }
    }

    public function place(): string
    {
        return $this->place;
    }
}
