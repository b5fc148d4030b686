<?php

declare(strict_types=1);

namespace Fasti\Survey;

use Doctrine\DBAL\Connection;
use Doctrine\ORM\EntityManagerInterface;
use Fasti\Account\Account;
use Fasti\Source\Source;
use Fasti\Work\Job;
use Fasti\Work\Jobs;
use Fasti\Work\RunJobHandler;

/** The surveys of sources: starting one, and the list of them. */
final readonly class Surveys
{
    private const LISTED = 50;

    public function __construct(
        private EntityManagerInterface $entities,
        private Connection $db,
        private Jobs $jobs,
        private SurveyJob $kind,
        private RunJobHandler $handler,
    ) {
    }

    /** Asks for a survey; one that is on its way already is given back instead. */
    public function start(Source $source, ?Account $account): Survey
    {
        return $this->of($this->jobs->start($this->kind, self::lane($source), [], $account, $this->begun($source)));
    }

    /** Surveys here and now, without a worker. */
    public function now(Source $source, ?Account $account): Survey
    {
        return $this->of($this->handler->now($this->kind, self::lane($source), [], $account, $this->begun($source)));
    }

    /** @return list<Survey> the latest first */
    public function list(Source $source): array
    {
        return $this->entities->getRepository(Survey::class)->findBy(['source' => $source], ['id' => 'DESC'], self::LISTED);
    }

    public function last(Source $source): ?Survey
    {
        return $this->entities->getRepository(Survey::class)->findOneBy(['source' => $source], ['id' => 'DESC']);
    }

    public function find(int $id): ?Survey
    {
        return $this->entities->find(Survey::class, $id);
    }

    public function ofJob(Job $job): ?Survey
    {
        return $this->entities->getRepository(Survey::class)->findOneBy(['job' => $job->id()]);
    }

    /** No later survey of the source has found anything. */
    public function isLatest(Survey $survey): bool
    {
        return false === $this->db->fetchOne(
            'SELECT id FROM survey WHERE source_id = ? AND id > ? AND ended_at IS NOT NULL LIMIT 1',
            [$survey->source->id(), $survey->id()],
        );
    }

    /**
     * Takes the right to decide about a survey, within the caller's transaction.
     *
     * @return bool false where somebody else has decided meanwhile
     */
    public function mayDecide(Survey $survey): bool
    {
        $row = $this->db->fetchAssociative('SELECT decided_at FROM survey WHERE id = ? FOR UPDATE', [$survey->id()]);

        return false !== $row && null === $row['decided_at'];
    }

    public static function lane(Source $source): string
    {
        return 'source '.$source->id();
    }

    /** @return \Closure(Job): void */
    private function begun(Source $source): \Closure
    {
        return function (Job $job) use ($source): void {
            $this->entities->persist(new Survey($source, $job));
        };
    }

    private function of(Job $job): Survey
    {
        return $this->ofJob($job) ?? throw new \LogicException('A survey\'s job has no survey.');
    }
}
