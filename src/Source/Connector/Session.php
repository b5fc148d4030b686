<?php

declare(strict_types=1);

namespace Fasti\Source\Connector;

use Fasti\Core\Cage\Child;
use Fasti\Core\Survey\Rows;
use Fasti\Core\Survey\SourceError;

/**
 * A session with a source, in a process of its own, since no driver can be trusted to hear when its time is up: a source that says nothing
 * any more, whether before, during or after it let somebody in, costs its limit and no more.
 */
final class Session implements Rows
{
    /** Seconds beyond what a question may take, in which the engine itself is expected to give up on it. */
    private const GRACE = 2.0;
    private const LISTEN = 0.25;

    private ?Child $child = null;
    /** Reads to its end the answer that somebody still reads. */
    private ?\Closure $pending = null;
    /** Nobody reads the answer any more that is under way. */
    private bool $abandoned = false;

    /**
     * @param \Closure(): Child                                $start   the process that serves
     * @param array{door: class-string<Door>, with: list<mixed>} $opening
     * @param int                                              $connect seconds until it has let us in and answered once
     * @param int                                              $seconds that one question may take
     * @param \Closure(Fault): SourceError                     $explain
     * @param \Closure(string): SourceError                    $silent  by SourceError::OVER_TIME, SourceError::LOST, or '' where it never answered
     * @param ?\Closure(): void                                $listen  called every now and then while it waits; may throw
     * @param bool                                             $once    never opened again, since what was done in it would be gone
     *
     * @throws SourceError
     */
    public function __construct(
        private readonly \Closure $start,
        private readonly array $opening,
        private readonly int $connect,
        private readonly int $seconds,
        private readonly \Closure $explain,
        private readonly \Closure $silent,
        private readonly ?\Closure $listen = null,
        private readonly bool $once = false,
    ) {
        $this->open();
    }

    public function rows(string $sql, array $parameters = []): iterable
    {
        $until = $this->ask(['sql' => $sql, 'parameters' => $parameters]);
        [$rows, $over] = $this->next($until);
        $rest = [];
        $this->pending = $over ? null : function () use (&$rest, &$over, $until): void {
            while (!$over) {
                [$more, $over] = $this->next($until);
                array_push($rest, ...$more);
            }
            $this->pending = null;
        };

        return $this->stream($rows, $rest, $over, $until);
    }

    /**
     * Runs statements that give no rows.
     *
     * @throws SourceError
     */
    public function exec(string $sql): void
    {
        $this->next($this->ask(['sql' => $sql, 'all' => true]));
    }

    public function end(): void
    {
        $this->child?->stop();
        $this->child = null;
        $this->pending = null;
        $this->abandoned = false;
    }

    /**
     * @param list<array<string, string|null>> $rows
     * @param list<array<string, string|null>> $rest
     *
     * @return \Generator<array<string, string|null>>
     */
    private function stream(array $rows, array &$rest, bool &$over, float $until): \Generator
    {
        $read = false;
        try {
            yield from $rows;
            while (true) {
                while ([] !== $rest) {
                    yield array_shift($rest);
                }
                if ($over) {
                    break;
                }
                // Whoever takes long over a row does so on their own time, and an engine that streams waits for them.
                [$rows, $over] = $this->next(max($until, microtime(true) + $this->seconds + self::GRACE));
                yield from $rows;
            }
            $read = true;
            $this->pending = null;
        } finally {
            $this->abandoned = $this->abandoned || !$read && !$over && null !== $this->pending;
        }
    }

    /**
     * @param array<string, mixed> $question
     *
     * @return float until when it may take
     */
    private function ask(array $question): float
    {
        if ($this->abandoned && !$this->once) {
            $this->end();
        } elseif (null !== $this->pending) {
            ($this->pending)();
        }
        $this->abandoned = false;
        if (null === $this->child || !$this->child->runs()) {
            if ($this->once) {
                throw ($this->silent)(SourceError::LOST);
            }
            $this->open();
        }
        $this->child?->write(json_encode($question, \JSON_THROW_ON_ERROR | \JSON_INVALID_UTF8_SUBSTITUTE)."\n");

        return microtime(true) + $this->seconds + self::GRACE;
    }

    private function open(): void
    {
        $this->child = ($this->start)();
        $this->child->write(json_encode($this->opening, \JSON_THROW_ON_ERROR)."\n");
        $this->next(microtime(true) + $this->connect, true);
    }

    /** @return array{list<array<string, string|null>>, bool} rows, and whether there are no more */
    private function next(float $until, bool $opening = false): array
    {
        $line = $this->line($until);
        if (null === $line) {
            $late = true === $this->child?->runs();
            $this->end();
            throw ($this->silent)(match (true) {
                !$late => SourceError::LOST,
                $opening => '',
                default => SourceError::OVER_TIME,
            });
        }
        $answer = json_decode($line, true);
        $answer = \is_array($answer) ? $answer : ['error' => ''];
        if (isset($answer['error'])) {
            $this->pending = null;
            if ($opening) {
                $this->end();
            }
            $text = static fn (string $part): string => \is_string($answer[$part] ?? null) ? $answer[$part] : '';
            throw ($this->explain)(new Fault($text('state'), \is_int($answer['code'] ?? null) ? $answer['code'] : 0, $text('error')));
        }
        /** @var list<string> $columns */
        $columns = $answer['columns'] ?? [];
        /** @var list<list<string|null>> $rows */
        $rows = $answer['rows'] ?? [];
        /** @var list<list<string|null>> $bytes */
        $bytes = $answer['bytes'] ?? [];
        foreach ($bytes as $row) {
            $rows[] = array_map(static fn (?string $value): ?string => null === $value ? null : (string) base64_decode($value, true), $row);
        }

        return [array_map(static fn (array $row): array => array_combine($columns, $row), $rows), true === ($answer['over'] ?? true)];
    }

    private function line(float $until): ?string
    {
        do {
            $line = $this->child?->line(max(0.0, min(self::LISTEN, $until - microtime(true))));
            if (null !== $line) {
                return $line;
            }
            if (null !== $this->listen) {
                try {
                    ($this->listen)();
                } catch (\Throwable $e) {
                    $this->end();
                    throw $e;
                }
            }
        } while (true === $this->child?->runs() && microtime(true) < $until);

        return null;
    }
}
