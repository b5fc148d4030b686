<?php

declare(strict_types=1);

namespace Fasti\Bench;

use Doctrine\DBAL\Connection;
use Fasti\Edition\Editions;
use Fasti\Source\Source;
use Fasti\Support\Row;
use Fasti\Survey\Surveys;
use Fasti\Work\Job;
use Fasti\Work\JobKinds;
use Fasti\Work\Jobs;
use Symfony\Component\DependencyInjection\ContainerInterface;
use Symfony\Component\Process\Process;

/**
 * What a running Fasti stands: workers that are killed over each kind of job, many writers beside what is slow or mute, and writers while
 * the database is away. Only when it is named; each line is what happened, held against what may.
 */
final class FaultsBench
{
    private const PORT = 8157;
    private const DATABASE = 'fasti_bench';
    /** Kind → how often its worker is killed. */
    private const KILLS = ['design' => 30, 'survey' => 10, 'profile' => 10, 'drafts' => 10, 'joins' => 10, 'model' => 10, 'edition' => 10];

    private ?Process $fasti = null;

    /** @param \Closure(string, string, string, float, float): void $say */
    public function __construct(private readonly \Closure $say, private readonly ContainerInterface $services)
    {
    }

    public function faults(): void
    {
        $this->started();
        try {
            // The kills take most of the time; whoever looks at the writers alone leaves them out.
            foreach ('0' === getenv('FASTI_KILLS') ? [] : self::KILLS as $kind => $times) {
                $this->killed($kind, $times);
            }
            foreach (['busy', 'outage'] as $part) {
                $this->written($part);
            }
        } finally {
            $this->fasti?->signal(\SIGTERM);
            $this->fasti?->wait();
        }
    }

    private function started(): void
    {
        $this->fasti = new Process(
            ['bin/start', '--fresh', '--port', (string) self::PORT],
            \dirname(__DIR__),
            [
                'DATABASE_NAME' => self::DATABASE, 'EDITIONS_DIR' => 'var/bench/editions', 'FILES_DIR' => 'var/bench/files', 'FASTI_KEEP_DATABASE' => '1',
                'SYMFONY_DOTENV_VARS' => false,
            ],
            timeout: null,
        );
        $this->fasti->start();
        for ($i = 0; $i < 1800 && !str_contains($this->fasti->getOutput(), 'Ctrl-C stops it'); ++$i) {
            usleep(100_000);
        }
        if (!str_contains($this->fasti->getOutput(), 'Ctrl-C stops it')) {
            throw new \RuntimeException('Fasti did not start: '.$this->fasti->getErrorOutput());
        }
        // What the demo asked for by itself is done first.
        for ($i = 0; $i < 1200 && $this->number("SELECT COUNT(*) AS n FROM job WHERE state IN ('waiting', 'running')") > 0; ++$i) {
            usleep(100_000);
        }
    }

    private function killed(string $kind, int $times): void
    {
        $slow = 0.0;
        $left = $lost = $interrupted = 0;
        for ($i = 0; $i < $times; ++$i) {
            $before = $this->standing();
            $job = $this->start($kind);
            // Some die before they have begun, some in the middle, some have come to their end.
            $this->until(fn (): bool => 'waiting' !== $this->state($job), 20);
            usleep(random_int(0, 900_000));
            $interrupted += 'running' === $this->state($job) ? 1 : 0;
            $this->kill();
            $killed = microtime(true);
            $lost += $this->standing() === $before ? 0 : 1;
            // As somebody who asks again and again; a process takes a moment to die.
            $next = $job;
            $this->until(function () use ($kind, $job, &$next): bool {
                $next = $next === $job ? $this->start($kind) : $next;

                return $next !== $job && 'waiting' !== $this->state($next);
            }, 60);
            $slow = max($slow, microtime(true) - $killed);
            $this->until(fn (): bool => !\in_array($this->state($next), ['waiting', 'running'], true), 120);
            $left += $this->left();
        }
        ($this->say)("$kind: $times kills, $interrupted in the middle; next run, s", \sprintf('%.1f s', $slow), '', $slow, 10);
        ($this->say)("$kind: register other than before or after", (string) $lost, '', (float) $lost, 0);
        ($this->say)("$kind: processes and files left behind", (string) $left, '', (float) $left, 0);
    }

    /** What a register holds that none of these jobs changes. */
    private function standing(): string
    {
        return implode(' ', array_map(
            fn (string $table): string => (string) $this->number("SELECT COUNT(*) AS n FROM $table"),
            ['entry', 'field', 'term', 'code', 'analytic_model', 'kept_trial', 'design', 'diagram'],
        ));
    }

    private function start(string $kind): int
    {
        // It is of another connection and another moment than the last one.
        $jobs = $this->service(Jobs::class);
        $source = $this->number("SELECT MIN(id) AS n FROM source WHERE name = 'fieldwork'") ?: $this->number('SELECT MIN(id) AS n FROM source');
        $kinds = $this->service(JobKinds::class);
        $entries = array_map(
            static fn (mixed $id): int => is_numeric($id) ? (int) $id : 0,
            $this->db()->fetchFirstColumn('SELECT id FROM entry WHERE source_id = ? AND gone_at IS NULL', [$source]),
        );
        $model = $this->number('SELECT MIN(id) AS n FROM analytic_model');
        $design = $this->number('SELECT MIN(id) AS n FROM design');
        $jobs->endAbandoned();
        $job = match ($kind) {
            'survey' => $this->service(Surveys::class)->start(
                $this->service(\Doctrine\ORM\EntityManagerInterface::class)->find(Source::class, $source) ?? throw new \LogicException(),
                null,
            )->job ?? throw new \LogicException(),
            'edition' => $this->service(Editions::class)->start('Fault', '', null, [])->job ?? throw new \LogicException(),
            'profile' => $jobs->start(
                $kinds->of($kind),
                "source $source",
                ['source' => $source, 'waiting' => $entries, 'total' => \count($entries), 'entry' => 0],
                null,
            ),
            'model' => $jobs->start($kinds->of($kind), "model $model", ['model' => $model, 'whole' => 1], null),
            'design' => $jobs->start(
                $kinds->of($kind),
                "design $design",
                ['design' => $design, 'engine' => ['mariadb', 'postgresql', 'sqlite'][random_int(0, 2)]],
                null,
            ),
            default => $jobs->start($kinds->of($kind), "$kind $source", ['source' => $source], null),
        };

        return $job instanceof Job ? $job->id() : 0;
    }

    private function kill(): void
    {
        foreach ($this->workers() as $worker) {
            posix_kill($worker, \SIGKILL);
        }
    }

    /** @return list<int> */
    private function workers(): array
    {
        $found = [];
        $waiting = [(int) $this->fasti?->getPid()];
        while ([] !== $waiting) {
            $id = array_shift($waiting);
            $words = (string) @file_get_contents("/proc/$id/cmdline");
            if (str_contains($words, 'messenger:consume') && !str_starts_with($words, 'bash')) {
                $found[] = $id;
            }
            array_push($waiting, ...array_map(intval(...), array_filter(explode(' ', trim((string) @file_get_contents("/proc/$id/task/$id/children"))))));
        }

        return $found;
    }

    private function left(): int
    {
        $root = \dirname(__DIR__);
        $files = static fn (): array => [
            ...(glob("$root/var/bench/editions/*.making") ?: []),
            ...(glob("$root/var/scratch/*.making") ?: []),
            ...(glob('/tmp/fasti-scratch*') ?: []),
        ];
        $cages = static fn (): int => (int) shell_exec('pgrep -c -u fasti-cage');
        $this->until(static fn (): bool => 0 === $cages() && [] === $files(), 5);

        return $cages() + \count($files());
    }

    private function written(string $part): void
    {
        $node = new Process(['node', 'bench/faults.mjs', $part, 'http://127.0.0.1:'.self::PORT, (string) getenv('APP_ENV')], \dirname(__DIR__), timeout: 600);
        $node->run();
        fwrite(\STDERR, $node->getErrorOutput());
        $figures = json_decode(trim((string) strrchr("\n".trim($node->getOutput()), "\n")), true);
        if (!\is_array($figures)) {
            throw new \RuntimeException('The writers said nothing: '.$node->getErrorOutput().$node->getOutput());
        }
        foreach ($figures as $figure) {
            if (\is_array($figure) && \is_string($figure['what'] ?? null) && is_numeric($figure['taken'] ?? null) && is_numeric($figure['limit'] ?? null)) {
                ($this->say)($figure['what'], (string) $figure['taken'], '', (float) $figure['taken'], (float) $figure['limit']);
            }
        }
    }

    private function state(int $job): string
    {
        $state = $this->db()->fetchOne('SELECT state FROM job WHERE id = ?', [$job]);

        return \is_string($state) ? $state : '';
    }

    /** @param \Closure(): bool $holds */
    private function until(\Closure $holds, int $seconds): void
    {
        for ($until = microtime(true) + $seconds; microtime(true) < $until && !$holds();) {
            usleep(50_000);
        }
    }

    private function number(string $sql): int
    {
        return Row::int(['n' => $this->db()->fetchOne($sql) ?: 0], 'n');
    }

    private function db(): Connection
    {
        return $this->service(Connection::class);
    }

    /**
     * @template T of object
     *
     * @param class-string<T> $class
     *
     * @return T
     */
    private function service(string $class): object
    {
        $service = $this->services->get('bench.'.$class);

        return $service instanceof $class ? $service : throw new \LogicException($class);
    }
}
