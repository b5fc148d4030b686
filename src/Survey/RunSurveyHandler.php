<?php

declare(strict_types=1);

namespace Fasti\Survey;

use Doctrine\DBAL\Connection;
use Doctrine\ORM\EntityManagerInterface;
use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\OpenForm;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Drift\Compare;
use Fasti\Core\Finding\Standouts;
use Fasti\Core\Survey\Choice;
use Fasti\Core\Survey\SourceError;
use Fasti\Core\Survey\Stopped;
use Fasti\Core\Wording\Amount;
use Fasti\Drift\DriftItems;
use Fasti\Profile\DataAlike;
use Fasti\Register\ApplyCatalog;
use Fasti\Register\RegisterCatalog;
use Fasti\Source\Sources;
use Fasti\Support\State;
use Fasti\Survey\Message\RunSurvey;
use Psr\Log\LoggerInterface;
use Symfony\Component\Messenger\Attribute\AsMessageHandler;

/** Reads the source, then brings the register in line in one transaction: a survey is applied whole or not at all. */
#[AsMessageHandler]
final readonly class RunSurveyHandler
{
    public function __construct(
        private EntityManagerInterface $entities,
        private Connection $progressConnection,
        private Sources $sources,
        private ApplyCatalog $apply,
        private RegisterCatalog $register,
        private DataAlike $alike,
        private LoggerInterface $logger,
    ) {
    }

    public function __invoke(RunSurvey $message): void
    {
        $id = $message->surveyId;
        // Only one worker gets it, and a message that comes a second time finds nothing to do.
        $mine = $this->progressConnection->executeStatement("UPDATE survey SET state = 'running', started_at = UTC_TIMESTAMP(), heard_at = UTC_TIMESTAMP() WHERE id = ? AND state = 'waiting' AND cancel_asked = 0", [$id]);
        if (0 === (int) $mine) {
            $this->progressConnection->executeStatement("UPDATE survey SET state = 'cancelled', ended_at = UTC_TIMESTAMP() WHERE id = ? AND state = 'waiting'", [$id]);

            return;
        }
        try {
            $this->run($id);
        } catch (Stopped) {
            $this->end($id, State::Cancelled, '');
        } catch (SourceError $e) {
            $this->end($id, State::Failed, $e->inWords());
        } catch (\Throwable $e) {
            $this->logger->error('Survey {id} failed', ['id' => $id, 'exception' => $e]);
            $this->end($id, State::Failed, 'Fasti itself failed here, and the register is as it was. The log of the application says more; tell whoever looks after it.');
        } finally {
            $this->entities->clear();
        }
    }

    /**
     * @throws SourceError
     * @throws Stopped
     */
    private function run(int $id): void
    {
        $survey = $this->entities->find(Survey::class, $id) ?? throw new \LogicException('No such survey.');
        $source = $survey->source;
        $progress = new SurveyProgress($this->progressConnection, $id);
        $progress->at('connecting', 0, 0);
        $choice = $source->choice();
        $catalog = self::storable($this->sources->reader($this->sources->target($source))->read($choice, $progress));
        $json = json_encode(OpenForm::of($catalog), \JSON_THROW_ON_ERROR | \JSON_INVALID_UTF8_SUBSTITUTE | \JSON_UNESCAPED_UNICODE | \JSON_UNESCAPED_SLASHES);

        $this->entities->wrapInTransaction(function () use ($survey, $source, $catalog, $choice, $progress, $json): void {
            $progress->at('comparing', 0, 1);
            [$before, $gone] = $this->register->of($source->id());
            $drift = [] === $before->tables ? [] : Compare::catalogs(self::within($before, $choice), $catalog, $gone, $this->alike->of($source));
            if ([] === $drift) {
                $counts = $this->apply->apply($source->id(), $catalog, $choice, $progress);
                $survey->drift = [] === $before->tables ? null : [];
                $survey->decidedAt = new \DateTimeImmutable();
            } else {
                // Whether to follow the source is a steward's decision; until then the register stays as it is.
                $survey->drift = DriftItems::of($drift);
                $counts = DriftItems::counts($survey->drift) + ['same' => \count($catalog->tables) - \count($drift)];
            }
            $progress->at('finishing', 1, 1);
            $source->engine = $catalog->engine;
            $survey->state = State::Done;
            $survey->endedAt = $source->surveyedAt = new \DateTimeImmutable();
            $survey->summary = self::summary($catalog, $counts);
            $survey->keepCatalog($json);
        });
    }

    /** Names may be longer than the register can keep: in SQLite, and as paths of deeply nested members. Such are left out, and said. */
    private static function storable(Catalog $catalog): Catalog
    {
        $tables = [];
        $notes = $catalog->notes;
        foreach ($catalog->tables as $table) {
            if (mb_strlen($table->schema) > 190 || mb_strlen($table->name) > 255) {
                $notes[] = \sprintf('%s was left out: its name has more than 255 characters.', mb_strimwidth($table->name, 0, 80, '…'));
                continue;
            }
            $columns = array_values(array_filter($table->columns, static fn (Column $column): bool => mb_strlen($column->name) <= 700));
            if (\count($columns) < \count($table->columns)) {
                $notes[] = \sprintf('%s: %s left out, whose name or path has more than 700 characters.', $table->name, Amount::of(\count($table->columns) - \count($columns), 'field').(1 === \count($table->columns) - \count($columns) ? ' was' : ' were'));
                $table = $table->with(columns: $columns);
            }
            $tables[] = $table;
        }

        return $catalog->with(tables: $tables, notes: $notes);
    }

    /** What the choice leaves out is neither gone nor renamed. A collection that is only planned is not expected to be there. */
    private static function within(Catalog $register, Choice $choice): Catalog
    {
        return new Catalog('', '', array_values(array_filter($register->tables, static fn (Table $table): bool => $choice->takes($table->schema, $table->name) && !$table->planned)));
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
            'joins' => $sum(static fn (Table $table): int => \count($table->foreignKeys)),
            'indexes' => $sum(static fn (Table $table): int => \count($table->indexes)),
            'checks' => $sum(static fn (Table $table): int => \count($table->checks)),
            'triggers' => $sum(static fn (Table $table): int => \count($table->triggers)),
            'routines' => \count($catalog->routines),
            'rows' => $sum(static fn (Table $table): int => $table->rowEstimate ?? 0),
            'bytes' => $sum(static fn (Table $table): int => $table->sizeBytes ?? 0),
            'standouts' => array_map(static fn (object $finding): array => get_object_vars($finding), Standouts::of($catalog)),
            'notes' => $catalog->notes,
        ];
    }

    private function end(int $id, State $state, string $error): void
    {
        $this->progressConnection->executeStatement('UPDATE survey SET state = ?, error = ?, ended_at = UTC_TIMESTAMP() WHERE id = ?', [$state->value, $error, $id]);
    }
}
