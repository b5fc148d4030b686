<?php

declare(strict_types=1);

namespace Fasti\Profile;

use Doctrine\DBAL\Connection;
use Doctrine\ORM\EntityManagerInterface;
use Fasti\Core\Survey\SourceError;
use Fasti\Core\Survey\Stopped;
use Fasti\Profile\Message\RunProfile;
use Fasti\Register\RegisterCatalog;
use Fasti\Source\Sources;
use Fasti\Support\Row;
use Fasti\Support\State;
use Psr\Log\LoggerInterface;
use Symfony\Component\EventDispatcher\Attribute\AsEventListener;
use Symfony\Component\Messenger\Attribute\AsMessageHandler;
use Symfony\Component\Messenger\Event\WorkerStartedEvent;
use Symfony\Component\Messenger\MessageBusInterface;

/** Profiles the entries of a run one by one. Each is kept as soon as it is done, so that a pause or a fault loses at most one. */
#[AsMessageHandler]
final readonly class RunProfileHandler
{
    public const INTERRUPTED = 'The worker stopped in the middle. What was profiled is kept; go on with the rest when you like.';

    public function __construct(
        private EntityManagerInterface $entities,
        private Connection $db,
        private Connection $progressConnection,
        private Sources $sources,
        private RegisterCatalog $register,
        private Profiles $profiles,
        private LoggerInterface $logger,
        private MessageBusInterface $bus,
    ) {
    }

    public function __invoke(RunProfile $message): void
    {
        $id = $message->runId;
        $mine = $this->progressConnection->executeStatement("UPDATE profile_run SET state = 'running', heard_at = UTC_TIMESTAMP() WHERE id = ? AND state = 'waiting' AND asked = ''", [$id]);
        if (0 === (int) $mine) {
            $this->progressConnection->executeStatement("UPDATE profile_run SET state = IF(asked = 'pause', 'paused', 'cancelled'), asked = '' WHERE id = ? AND state = 'waiting'", [$id]);

            return;
        }
        $progress = new ProfileProgress($this->progressConnection, $id);
        try {
            if ($this->run($id, $progress)) {
                $this->end($id, State::Done, '');
            }
        } catch (Stopped) {
            $this->end($id, 'pause' === $progress->asked() ? State::Paused : State::Cancelled, '');
        } catch (SourceError $e) {
            $this->end($id, State::Failed, $e->inWords().' What was profiled before is kept.');
        } catch (\Throwable $e) {
            $this->logger->error('Profile run {id} failed', ['id' => $id, 'exception' => $e]);
            $this->end($id, State::Failed, 'Fasti itself failed here. What was profiled before is kept. The log of the application says more; tell whoever looks after it.');
        } finally {
            $this->entities->clear();
        }
    }

    #[AsEventListener]
    public function workerStarted(WorkerStartedEvent $event): void
    {
        $this->db->executeStatement("UPDATE profile_run SET state = 'paused', asked = '', error = ? WHERE state = 'running'", [self::INTERRUPTED]);
    }

    /**
     * @return bool false where it stepped back for others and will go on later
     *
     * @throws SourceError
     * @throws Stopped
     */
    private function run(int $id, ProfileProgress $progress): bool
    {
        $run = $this->entities->find(ProfileRun::class, $id) ?? throw new \LogicException('No such run.');
        $left = $run->waiting;
        $notes = $run->notes;
        $profiling = new Profiling($this->sources, $this->sources->target($run->source));
        while ([] !== $left) {
            if ('' !== $progress->asked()) {
                throw new Stopped();
            }
            $entry = $left[0];
            $table = $this->register->entry($entry);
            if (null !== $table) {
                try {
                    $this->profiles->keep($entry, $profiling->table($table, $this->grain($entry), $this->decisions($entry), $progress));
                } catch (SourceError $e) {
                    if (SourceError::LOST === $e->what) {
                        throw $e;
                    }
                    // One table that cannot be read, dropped or closed meanwhile, must not keep the others from being profiled.
                    $notes[] = \sprintf('%s.%s was left out: %s', $table->schema, $table->name, $e->inWords());
                }
            }
            array_shift($left);
            $this->progressConnection->executeStatement('UPDATE profile_run SET waiting = ?, notes = ?, heard_at = UTC_TIMESTAMP() WHERE id = ?', [json_encode($left, \JSON_THROW_ON_ERROR), json_encode($notes, \JSON_THROW_ON_ERROR | \JSON_UNESCAPED_UNICODE), $id]);
            if ([] !== $left && false !== $this->progressConnection->fetchOne("SELECT id FROM survey WHERE state = 'waiting' LIMIT 1")) {
                // There is one worker. A survey that somebody waits for goes first.
                $this->progressConnection->executeStatement("UPDATE profile_run SET state = 'waiting', doing = 'letting a survey go first' WHERE id = ? AND state = 'running'", [$id]);
                $this->bus->dispatch(new RunProfile($id));

                return false;
            }
        }

        return true;
    }

    /** @return list<string> */
    private function grain(int $entry): array
    {
        $text = $this->db->fetchOne('SELECT grain_fields FROM entry WHERE id = ?', [$entry]);

        return array_values(array_filter(array_map(trim(...), explode(',', \is_string($text) ? $text : ''))));
    }

    /** @return array<string, string> */
    private function decisions(int $entry): array
    {
        $decisions = [];
        foreach ($this->db->iterateAssociative("SELECT name, personal FROM field WHERE entry_id = ? AND personal <> ''", [$entry]) as $row) {
            $decisions[Row::text($row, 'name')] = Row::text($row, 'personal');
        }

        return $decisions;
    }

    private function end(int $id, State $state, string $error): void
    {
        $this->progressConnection->executeStatement("UPDATE profile_run SET state = ?, error = ?, asked = '', ended_at = UTC_TIMESTAMP() WHERE id = ?", [$state->value, $error, $id]);
    }
}
