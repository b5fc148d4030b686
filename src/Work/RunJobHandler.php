<?php

declare(strict_types=1);

namespace Fasti\Work;

use Doctrine\ORM\EntityManagerInterface;
use Doctrine\Persistence\ManagerRegistry;
use Fasti\Account\Account;
use Fasti\Core\Survey\SourceError;
use Fasti\Core\Survey\Stopped;
use Psr\Log\LoggerInterface;
use Symfony\Component\Messenger\Attribute\AsMessageHandler;

/** What a worker does with a job: takes it if nobody else has, and ends it, however it went. */
#[AsMessageHandler]
final readonly class RunJobHandler
{
    public function __construct(
        private Jobs $jobs,
        private JobKinds $kinds,
        private ManagerRegistry $managers,
        private LoggerInterface $logger,
        private CurrentJob $current,
    ) {
    }

    public function __invoke(RunJob $message): void
    {
        $mine = $this->jobs->claim($message->jobId);
        if (null === $mine) {
            // It may be a dead one that is in the way.
            $this->jobs->endAbandoned();
            // One job of a lane at a time: this one comes again.
            $this->jobs->later($message->jobId);
        } elseif ($mine) {
            $this->run($message->jobId);
        }
    }

    /**
     * Does a job here and now, without a worker; where one of the kind is under way in the lane, that one is given back.
     *
     * @param array<string, mixed> $payload
     * @param ?callable(Job): void $with    what belongs to a job that is really made; see Jobs::start()
     */
    public function now(JobKind $kind, string $lane, array $payload, ?Account $account, ?callable $with = null): Job
    {
        $job = $this->jobs->prepare($kind, $lane, $payload, $account, $with);
        $this(new RunJob($job->id()));

        return $this->jobs->find($job->id()) ?? throw new \LogicException('A job vanished.');
    }

    private function run(int $id): void
    {
        $job = $this->jobs->find($id) ?? throw new \LogicException('A job vanished.');
        $kind = $this->kinds->of($job->kind);
        try {
            $running = new Running($job, $this->jobs, $kind);
            $this->current->begin($running);
            $kind->run($running);
            $this->jobs->end($id, State::Done);
        } catch (Stopped) {
            $this->jobs->end($id, 'pause' === $this->jobs->asked($id) ? State::Paused : State::Cancelled);
        } catch (SteppedBack) {
            $this->jobs->stepBack($id);
        } catch (SourceError $e) {
            $this->jobs->end($id, State::Failed, $e->inWords());
        } catch (JobFailed $e) {
            $this->jobs->end($id, State::Failed, $e->getMessage());
        } catch (\Throwable $e) {
            $this->logger->error('Job {id}, a {kind}, failed', ['id' => $id, 'kind' => $job->kind, 'exception' => $e]);
            $this->jobs->end(
                $id,
                State::Failed,
                'Fasti itself failed here. '.$kind->wordsWhenBroken($job).' The log of the application says more; tell whoever looks after it.',
            );
        } finally {
            $this->current->end();
            // What failed in a transaction leaves the manager closed; the next job, and whoever waits for this one, needs one.
            $manager = $this->managers->getManager();
            if ($manager instanceof EntityManagerInterface && $manager->isOpen()) {
                $manager->clear();
            } else {
                $this->managers->resetManager();
            }
        }
    }
}
