<?php

declare(strict_types=1);

namespace Fasti\Survey;

use Doctrine\ORM\EntityManagerInterface;
use Fasti\Account\Act\Act;
use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\OpenForm;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Drift\Compare;
use Fasti\Core\Drift\RoutineDrift;
use Fasti\Core\Survey\Choice;
use Fasti\Drift\DriftItems;
use Fasti\Profile\DataAlike;
use Fasti\Register\ApplyCatalog;
use Fasti\Register\RegisterCatalog;
use Fasti\Source\Sources;
use Fasti\Support\Batch;
use Fasti\Work\Job;
use Fasti\Work\JobFailed;
use Fasti\Work\JobKind;
use Fasti\Work\Running;

/** Reads a source, then brings the register in line in one transaction: a survey is applied whole or not at all. */
final readonly class SurveyJob implements JobKind
{
    public const NAME = 'survey';

    public function __construct(
        private EntityManagerInterface $entities,
        private Sources $sources,
        private ApplyCatalog $apply,
        private RegisterCatalog $register,
        private DataAlike $alike,
    ) {
    }

    public function name(): string
    {
        return self::NAME;
    }

    public function act(): string
    {
        return Act::SURVEY;
    }

    public function pauses(): bool
    {
        return false;
    }

    /** Somebody waits for it; a profile of hours can wait for that. */
    public function urgency(): int
    {
        return 10;
    }

    public function page(Job $job): array
    {
        return ['survey', ['id' => $this->surveyOf($job)->id()]];
    }

    public function wordsWhenBroken(Job $job): string
    {
        return 'The worker stopped in the middle. Nothing was applied, and the register is as it was. Survey again.';
    }

    public function cameToItsEnd(Job $job): bool
    {
        return $this->surveyOf($job)->isDone();
    }

    public function run(Running $running): void
    {
        $survey = $this->surveyOf($running->job);
        $source = $survey->source;
        $running->at('Connecting', 0, 0);
        $choice = $source->choice();
        $survey->through = $source->connection()->label;
        $catalog = Storable::of($this->sources->reader($this->sources->target($source))->read($choice, $running->saying('Reading ')));
        $json = Batch::json(OpenForm::of($catalog));

        $this->entities->wrapInTransaction(function () use ($survey, $source, $catalog, $choice, $running, $json): void {
            $running->at('Comparing with the register', 0, 1);
            [$before, $gone] = $this->register->of($source->id());
            $former = $this->former($survey);
            $drift = [] === $before->tables ? [] : Compare::catalogs(
                self::within($before, $choice)->with(statements: $former?->statements), $catalog, $gone, $this->alike->of($source),
            );
            if ([] === $drift) {
                $source->engine = $catalog->engine;
                $this->entities->flush();
                $counts = $this->apply->apply($source->id(), $catalog, $choice, $running);
                $survey->drift = [] === $before->tables ? null : [];
                $survey->decidedAt = new \DateTimeImmutable();
            } else {
                // Whether to follow the source is a steward's decision; until then the register stays as it is.
                $items = DriftItems::of($drift);
                $survey->drift = DriftItems::kept($items);
                $counts = DriftItems::counts($items) + ['same' => \count($catalog->tables) - \count($drift)];
            }
            $running->at('Finishing', 1, 1);
            $source->engine = $catalog->engine;
            $survey->endedAt = $source->surveyedAt = new \DateTimeImmutable();
            // The register keeps no routines of its own.
            $routines = null === $former ? [] : Compare::routines($former, $catalog);
            $survey->summary = self::summary($catalog, $counts) + [
                'routinesDrift' => array_map(static fn (RoutineDrift $drift): string => $drift->inWords(), $routines),
            ];
            $survey->keepCatalog($json);
        });
    }

    /** What the survey before read, where that is still known. */
    private function former(Survey $survey): ?Catalog
    {
        $before = $this->entities->getRepository(Survey::class)->createQueryBuilder('s')->where(
            's.source = :source AND s.endedAt IS NOT NULL AND s.id <> :this',
        )
            ->setParameter('source', $survey->source)
            ->setParameter('this', $survey->id())
            ->orderBy('s.id', 'DESC')
            ->setMaxResults(1)
            ->getQuery()
            ->getOneOrNullResult();

        return $before instanceof Survey && null !== $before->catalogJson() ? $before->catalog() : null;
    }

    private function surveyOf(Job $job): Survey
    {
        return $this->entities->getRepository(Survey::class)->findOneBy(['job' => $job->id()]) ?? throw new JobFailed('The survey is not there any more.');
    }

    /** What the choice leaves out is neither gone nor renamed. A collection that is only planned is not expected to be there. */
    private static function within(Catalog $register, Choice $choice): Catalog
    {
        return $register->with(tables: array_values(array_filter(
            $register->tables,
            static fn (Table $table): bool => $choice->takes($table->schema, $table->name) && !$table->planned,
        )));
    }

    /**
     * @param array<string, int> $counts
     *
     * @return array<string, mixed>
     */
    private static function summary(Catalog $catalog, array $counts): array
    {
        $sum = static fn (callable $of): int => (int) array_sum(array_map($of, $catalog->tables));

        return [
            'server' => $catalog->server,
            'counts' => $counts,
            'schemas' => \count(array_unique(array_map(static fn (Table $table): string => $table->schema, $catalog->tables))),
            'tables' => $sum(static fn (Table $table): int => TableType::Table === $table->kind ? 1 : 0),
            'views' => $sum(static fn (Table $table): int => $table->kind->isView() ? 1 : 0),
            'collections' => $sum(static fn (Table $table): int => TableType::Collection === $table->kind ? 1 : 0),
            'fields' => $sum(static fn (Table $table): int => \count($table->columns)),
            'joins' => $sum(static fn (Table $table): int => \count(array_filter($table->foreignKeys, static fn ($key): bool => '' === $key->reason))),
            'proposed' => $sum(static fn (Table $table): int => \count(array_filter($table->foreignKeys, static fn ($key): bool => '' !== $key->reason))),
            'indexes' => $sum(static fn (Table $table): int => \count($table->indexes)),
            'checks' => $sum(static fn (Table $table): int => \count($table->checks)),
            'triggers' => $sum(static fn (Table $table): int => \count($table->triggers)),
            'routines' => \count($catalog->routines),
            'rows' => $sum(static fn (Table $table): int => $table->rowEstimate ?? 0),
            'bytes' => $sum(static fn (Table $table): int => $table->sizeBytes ?? 0),
            'notes' => $catalog->notes,
        ] + (null === $catalog->statements ? [] : ['statements' => OpenForm::of($catalog->statements)]);
    }
}
