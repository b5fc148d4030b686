<?php

declare(strict_types=1);

namespace Fasti\Work;

use Doctrine\DBAL\ArrayParameterType;
use Doctrine\DBAL\Connection;
use Doctrine\DBAL\LockMode;
use Doctrine\ORM\EntityManagerInterface;
use Fasti\Account\Account;
use Fasti\Support\Row;
use Symfony\Component\Messenger\MessageBusInterface;
use Symfony\Component\Messenger\Stamp\DelayStamp;

/**
 * The jobs there are: starting one, what is asked of it, and where it stands. Everything that a worker and the people who
 * wait for it tell each other goes over a connection of its own, since the work itself may be one long transaction.
 */
final readonly class Jobs
{
    /** Seconds without a sign of life after which a running job is taken for dead: longer than any one statement may take. */
    public const SILENCE = 150;
    private const LOCK = 'fasti.work';

    public function __construct(
        private EntityManagerInterface $entities,
        private Connection $progressConnection,
        private JobKinds $kinds,
        private MessageBusInterface $bus,
    ) {
    }

    /**
     * Asks for a job. Where one of the kind is under way or waiting in the lane, that one is given back instead.
     *
     * @param array<string, mixed> $payload
     * @param ?callable(Job): void $with    what belongs to a job that is really made, before it can begin
     */
    public function start(JobKind $kind, string $lane, array $payload, ?Account $account, ?callable $with = null): Job
    {
        [$job, $new] = $this->made($kind, $lane, $payload, $account, $with);
        if ($new) {
            $this->bus->dispatch(new RunJob($job->id()));
        }

        return $job;
    }

    /**
     * The same, for whoever runs it here and now.
     *
     * @param array<string, mixed> $payload
     * @param ?callable(Job): void $with
     */
    public function prepare(JobKind $kind, string $lane, array $payload, ?Account $account, ?callable $with = null): Job
    {
        return $this->made($kind, $lane, $payload, $account, $with)[0];
    }

    /**
     * @param array<string, mixed> $payload
     * @param ?callable(Job): void $with
     *
     * @return array{Job, bool} and whether it is a new one
     */
    private function made(JobKind $kind, string $lane, array $payload, ?Account $account, ?callable $with): array
    {
        $this->endAbandoned();

        return $this->locked(function () use ($kind, $lane, $payload, $account, $with): array {
            $open = $this->progressConnection->fetchOne(
                "SELECT id FROM job WHERE lane = ? AND kind = ? AND state IN ('waiting', 'running') ORDER BY id DESC LIMIT 1",
                [$lane, $kind->name()],
            );
            if (is_numeric($open)) {
                return [$this->open((int) $open), false];
            }
            $job = new Job($kind->name(), $lane, $payload, null === $account ? null : $this->entities->find(Account::class, $account->id()));
            $this->entities->persist($job);
            $this->entities->flush();
            if (null !== $with) {
                $with($job);
                $this->entities->flush();
            }

            return [$job, true];
        });
    }

    /** One that is there for certain: a transaction that began before it was asked for sees it by a locking read only. */
    private function open(int $id): Job
    {
        $job = $this->find($id);
        if (null === $job && $this->entities->getConnection()->isTransactionActive()) {
            $job = $this->entities->find(Job::class, $id, LockMode::PESSIMISTIC_READ);
        }

        return $job ?? throw new \LogicException('A job vanished.');
    }

    /** The newest of a lane, whatever became of it. */
    public function newest(string $lane): ?Job
    {
        return $this->entities->getRepository(Job::class)->findOneBy(['lane' => $lane], ['id' => 'DESC']);
    }

    public function find(int $id): ?Job
    {
        $job = $this->entities->find(Job::class, $id);
        if (null !== $job) {
            // Its row is written by others meanwhile.
            $this->entities->refresh($job);
        }

        return $job;
    }

    /** Pause, go on (resume), or cancel. */
    public function ask(Job $job, string $what): void
    {
        $kind = $this->kinds->of($job->kind);
        if ('resume' === $what) {
            if ($kind->pauses()) {
                $begun = $this->progressConnection->executeStatement(
                    "UPDATE job SET state = 'waiting', asked = '', error = '', ended_at = NULL WHERE id = ? AND state IN ('paused', 'failed', 'cancelled')",
                    [$job->id()],
                );
                if (1 === (int) $begun) {
                    $this->bus->dispatch(new RunJob($job->id()));
                }
            }

            return;
        }
        if ('pause' === $what && !$kind->pauses()) {
            return;
        }
        $this->progressConnection->executeStatement("UPDATE job SET asked = ? WHERE id = ? AND state IN ('waiting', 'running')", [$what, $job->id()]);
        // Nobody hears what is asked of one that waits, or whose worker is dead.
        $this->progressConnection->executeStatement(
            "UPDATE job SET state = ?, asked = '', ended_at = UTC_TIMESTAMP()
                WHERE id = ? AND (state IN ('waiting', 'paused') OR state = 'running' AND heard_at < UTC_TIMESTAMP() - INTERVAL ? SECOND)",
            ['pause' === $what ? State::Paused->value : State::Cancelled->value, $job->id(), self::SILENCE],
        );
    }

    /**
     * Takes a job for this worker.
     *
     * @return bool|null null where another of its lane, or of its kind that goes one at a time, is running, so that it has to wait
     */
    public function claim(int $id): ?bool
    {
        return $this->locked(function () use ($id): ?bool {
            $row = $this->progressConnection->fetchAssociative(
                "SELECT j.state, j.asked, EXISTS (SELECT 1 FROM job o
                    WHERE (o.lane = j.lane OR o.kind = j.kind AND o.kind IN (?)) AND o.id <> j.id
                    AND o.state = 'running' AND o.heard_at >= UTC_TIMESTAMP() - INTERVAL ? SECOND) AS busy
                    FROM job j WHERE j.id = ?",
                [$this->kinds->oneAtATime(), self::SILENCE, $id],
                [0 => ArrayParameterType::STRING],
            );
            if (false === $row || State::Waiting->value !== Row::text($row, 'state') || '' !== Row::text($row, 'asked')) {
                return false;
            }
            if (1 === Row::int($row, 'busy')) {
                return null;
            }
            $this->progressConnection->executeStatement(
                "UPDATE job SET state = 'running', started_at = COALESCE(started_at, UTC_TIMESTAMP()), heard_at = UTC_TIMESTAMP(), worker = ? WHERE id = ?",
                [WorkerProcess::own(), $id],
            );

            return true;
        });
    }

    public function end(int $id, State $state, string $error = ''): void
    {
        $this->progressConnection->executeStatement(
            "UPDATE job SET state = ?, error = ?, asked = '', heard_at = UTC_TIMESTAMP(), ended_at = UTC_TIMESTAMP() WHERE id = ? AND state = 'running'",
            [$state->value, $error, $id],
        );
    }

    public function stepBack(int $id): void
    {
        $this->progressConnection->executeStatement(
            "UPDATE job SET state = 'waiting', doing = 'Letting another go first' WHERE id = ? AND state = 'running'",
            [$id],
        );
        $this->later($id);
    }

    /** Brings it to a worker again in a moment. */
    public function later(int $id): void
    {
        $this->bus->dispatch(new RunJob($id), [new DelayStamp(1500)]);
    }

    public function heard(int $id, string $doing, int $done, int $total): void
    {
        $this->progressConnection->executeStatement(
            'UPDATE job SET doing = ?, done = ?, total = ?, heard_at = UTC_TIMESTAMP() WHERE id = ?',
            [mb_strimwidth($doing, 0, 390, '…'), $done, $total, $id],
        );
    }

    /**
     * @param array<string, mixed> $payload
     * @param list<string>         $notes
     */
    public function keep(int $id, array $payload, array $notes): void
    {
        $json = static fn (array $data): string => json_encode($data, \JSON_THROW_ON_ERROR | \JSON_UNESCAPED_UNICODE | \JSON_INVALID_UTF8_SUBSTITUTE);
        $this->progressConnection->executeStatement(
            'UPDATE job SET payload = ?, notes = ?, heard_at = UTC_TIMESTAMP() WHERE id = ?',
            [$json($payload), $json($notes), $id],
        );
    }

    /** @return string '', pause or cancel; cancel too where the job is not there any more or another took it for dead */
    public function asked(int $id): string
    {
        $row = $this->progressConnection->fetchAssociative('SELECT asked, state FROM job WHERE id = ?', [$id]);

        return false === $row || State::Running->value !== Row::text($row, 'state') ? 'cancel' : Row::text($row, 'asked');
    }

    /** Whether something more urgent waits that this one holds up: in its own lane, or anywhere while there is one worker for all. */
    public function anyWaitsBefore(JobKind $kind, Job $job): bool
    {
        $before = $this->kinds->before($kind->urgency());
        if ([] === $before) {
            return false;
        }

        return false !== $this->progressConnection->fetchOne(
            "SELECT id FROM job WHERE state = 'waiting' AND asked = '' AND id <> ? AND kind IN (?) LIMIT 1",
            [$job->id(), $before],
            [1 => ArrayParameterType::STRING],
        );
    }

    /** Jobs whose worker died say so: told by its process, or by their own silence, whatever other workers do. */
    public function endAbandoned(): void
    {
        $rows = $this->progressConnection->fetchAllAssociative(
            "SELECT id, worker, heard_at < UTC_TIMESTAMP() - INTERVAL ? SECOND AS silent FROM job WHERE state = 'running'",
            [self::SILENCE],
        );
        foreach ($rows as $row) {
            if (1 !== Row::int($row, 'silent') && !WorkerProcess::isGone(Row::text($row, 'worker'))) {
                continue;
            }
            $job = $this->find(Row::int($row, 'id'));
            if (null === $job || !$job->abandoned()) {
                continue;
            }
            $kind = $this->kinds->of($job->kind);
            $ended = $kind->cameToItsEnd($job);
            if (!$ended && $kind instanceof LeavesThings) {
                $kind->sweep($job);
            }
            $this->end($job->id(), match (true) {
                $ended => State::Done,
                $kind->pauses() => State::Paused,
                default => State::Failed,
            }, $ended ? '' : $kind->wordsWhenBroken($job));
        }
    }

    /**
     * @template T
     *
     * @param callable(): T $work
     *
     * @return T
     */
    private function locked(callable $work): mixed
    {
        if ('1' !== (string) self::scalar($this->progressConnection->fetchOne('SELECT GET_LOCK(?, 20)', [self::LOCK]))) {
            throw new \RuntimeException('Jobs are being handed out by somebody else for far too long.');
        }
        try {
            return $work();
        } finally {
            $this->progressConnection->fetchOne('SELECT RELEASE_LOCK(?)', [self::LOCK]);
        }
    }

    private static function scalar(mixed $value): string
    {
        return \is_scalar($value) ? (string) $value : '';
    }
}
