<?php

declare(strict_types=1);

namespace Fasti\Core\Cage;

/** A program that runs beside, no longer than this object lives: it can be ended at any moment, and is never waited for without a limit. */
final class Child
{
    /** Closes whatever is beyond the four descriptors that a program is given, and becomes the program. */
    private const CLOSING = 'for f in /proc/self/fd/*; do n=${f##*/}; case $n in [0-3]) ;; *) eval "exec $n>&-" 2>/dev/null;; esac; done; exec "$@"';

    /** @var resource|null */
    private mixed $process;
    /** @var array<int, resource> */
    private array $pipes = [];
    private string $toWrite = '';
    private bool $closing = false;
    private string $out = '';
    private string $said = '';
    /** Told once only by the system. */
    private ?int $code = null;

    /**
     * @param list<string>          $command
     * @param array<string, string> $environment all that it gets
     * @param string                $handed      what it reads from its third descriptor
     *
     * @throws CageError
     */
    public function __construct(array $command, private readonly string $name, array $environment = [], string $handed = '')
    {
        $process = @proc_open($command, [['pipe', 'r'], ['pipe', 'w'], ['pipe', 'w'], ['pipe', 'r']], $pipes, '/', $environment);
        if (!\is_resource($process)) {
            throw new CageError(\sprintf('%s could not be started.', $name));
        }
        fwrite($pipes[3], $handed);
        fclose($pipes[3]);
        unset($pipes[3]);
        $this->process = $process;
        $this->pipes = $pipes;
        foreach ($pipes as $pipe) {
            stream_set_blocking($pipe, false);
        }
    }

    public function __destruct()
    {
        $this->stop();
    }

    public function runs(): bool
    {
        if (null === $this->process || null !== $this->code) {
            return false;
        }
        $status = proc_get_status($this->process);
        if (!$status['running']) {
            $this->code = $status['exitcode'];
        }

        return $status['running'];
    }

    /** @param bool $last nothing more is going to be written */
    public function write(string $text, bool $last = false): void
    {
        $this->toWrite .= $text;
        $this->closing = $last;
        $this->wait(0.0);
    }

    /**
     * The command line of a program that dies with this process, even where that one is killed, and that gets none of the files, locks and
     * connections that this process has open: PHP hands them all down.
     *
     * @param list<string> $program
     *
     * @return list<string>
     */
    public static function bound(array $program): array
    {
        return [Cage::program('bash'), '-c', self::CLOSING, 'fasti', Cage::program('setpriv'), '--pdeathsig', 'KILL', '--', ...$program];
    }

    /** The next line that the program says; null where there is none within so many seconds, or where it has ended. */
    public function line(float $seconds): ?string
    {
        $until = microtime(true) + $seconds;
        while (false === ($end = strpos($this->out, "\n"))) {
            $left = $until - microtime(true);
            if ($left <= 0 || !$this->wait($left)) {
                return null;
            }
        }
        $line = substr($this->out, 0, $end);
        $this->out = substr($this->out, $end + 1);

        return $line;
    }

    /**
     * Waits for its end.
     *
     * @return string what it said
     *
     * @throws CageError
     */
    public function finish(float $seconds): string
    {
        $until = microtime(true) + $seconds;
        while ($this->wait(max(0.0, $until - microtime(true)))) {
            if (microtime(true) >= $until) {
                $this->stop();
                throw new CageError(\sprintf('%s needed more than %d seconds, and was ended.', $this->name, $seconds));
            }
        }
        $code = $this->close();
        if (0 !== $code) {
            $said = trim(substr($this->said, -400));
            throw new CageError(\sprintf('%s ended with %d: %s', $this->name, $code, '' === $said ? 'it said nothing' : $said));
        }

        return $this->out;
    }

    /** What it said of errors so far. */
    public function said(): string
    {
        $this->wait(0.0);

        return trim(substr($this->said, -2000));
    }

    /** Of a program in a cage: the root of it as seen from outside, through which a socket in it can be reached; null where it has none yet. */
    public function root(): ?string
    {
        $id = null === $this->process ? 0 : proc_get_status($this->process)['pid'];
        // From the process that watches to the first one inside, and to the program itself.
        for ($deep = 0; $deep < 2 && $id > 0; ++$deep) {
            $child = (int) explode(' ', (string) @file_get_contents("/proc/$id/task/$id/children"))[0];
            if (0 === $child) {
                break;
            }
            $id = $child;
        }

        // Until the cage stands, the root is the machine's own.
        return $id > 0 && is_dir("/proc/$id/root".Cage::NOTHING) ? "/proc/$id/root" : null;
    }

    /** Ends it at once, with all that it started. */
    public function stop(): void
    {
        if (null !== $this->process) {
            proc_terminate($this->process, \SIGKILL);
            $this->close();
        }
    }

    /** @return bool whether there may be more to read */
    private function wait(float $seconds): bool
    {
        $read = array_filter([$this->pipes[1] ?? null, $this->pipes[2] ?? null]);
        $write = '' !== $this->toWrite && isset($this->pipes[0]) ? [$this->pipes[0]] : [];
        if ('' === $this->toWrite && $this->closing && isset($this->pipes[0])) {
            fclose($this->pipes[0]);
            unset($this->pipes[0]);
        }
        if ([] === $read) {
            return false;
        }
        $none = [];
        $whole = (int) $seconds;
        if (0 === (int) @stream_select($read, $write, $none, $whole, (int) (($seconds - $whole) * 1e6))) {
            return true;
        }
        foreach ($write as $pipe) {
            $wrote = @fwrite($pipe, $this->toWrite);
            // Whoever does not listen any more is told nothing more.
            $this->toWrite = false === $wrote ? '' : substr($this->toWrite, $wrote);
        }
        foreach ($read as $pipe) {
            $number = $pipe === ($this->pipes[1] ?? null) ? 1 : 2;
            $part = (string) fread($pipe, 1 << 16);
            if ('' === $part && feof($pipe)) {
                fclose($pipe);
                unset($this->pipes[$number]);
            }
            if (1 === $number) {
                $this->out .= $part;
            } else {
                $this->said = substr($this->said.$part, -8192);
            }
        }

        return [] !== $this->pipes && (isset($this->pipes[1]) || isset($this->pipes[2]));
    }

    private function close(): int
    {
        foreach ($this->pipes as $pipe) {
            fclose($pipe);
        }
        $this->pipes = [];
        if (null === $this->process) {
            return -1;
        }
        $this->runs();
        $code = proc_close($this->process);
        $this->process = null;

        return $this->code ?? $code;
    }
}
