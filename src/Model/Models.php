<?php

declare(strict_types=1);

namespace Fasti\Model;

use Doctrine\DBAL\ArrayParameterType;
use Fasti\Account\Account;
use Fasti\Core\Finding\Severity;
use Fasti\Core\Model\Trial;
use Fasti\Kept\KeptNamed;
use Fasti\Kept\KeptStore;
use Fasti\Kept\Within;
use Fasti\Source\Source;
use Fasti\Support\Again;
use Fasti\Support\Batch;
use Fasti\Support\Row;

/**
 * The analytic models that people keep, the trials that are kept with them, and which fields they stand on.
 *
 * @extends KeptStore<KeptModel>
 */
final readonly class Models extends KeptStore
{
    public function kind(): string
    {
        return 'model';
    }

    protected function entity(): string
    {
        return KeptModel::class;
    }

    public function route(): string
    {
        return 'model';
    }

    public function listRoute(): string
    {
        return 'models';
    }

    public function beginning(): array
    {
        return ['model_new', 'fact'];
    }

    public function standingIn(array $entries): array
    {
        $of = $found = [];
        foreach ($entries as $entry) {
            $of += array_fill_keys(array_map(static fn ($field): int => $field->id, $entry->fields), $entry->id);
        }
        foreach ($this->standingOn(array_keys($of)) as $field => $uses) {
            foreach ($uses as $use) {
                $found[$of[$field]][$use->model] = $use->name;
            }
        }

        return $found;
    }

    public function within(Account $account, string $words): iterable
    {
        foreach ($this->listed($account) as $kept) {
            foreach (array_filter($kept['brief']->measures, static fn (string $one): bool => str_contains(KeptNamed::folded($one), $words)) as $measure) {
                yield new Within('Measure: '.$measure.' of '.$kept['name'], $kept['id'], 'm-'.Anchors::of($measure));
            }
        }
    }

    /**
     * Those that are shared and the person's own, by name, without their definitions.
     *
     * @return list<array{id: int, name: string, purpose: string, shared: bool, owner: string, source: string, changedAt: mixed, brief: ModelBrief}>
     */
    public function listed(Account $account): array
    {
        /** @var list<array<string, mixed>> $rows */
        $rows = $this->visible($account)->join('k.source', 's')
            ->select('k.id', 'k.name', 'k.purpose', 'k.shared', 'a.name AS owner', 's.name AS source', 'k.changedAt', 'k.brief')
            ->getQuery()->getArrayResult();

        return array_map(static fn (array $row): array => [
            'id' => Row::int($row, 'id'), 'name' => Row::text($row, 'name'), 'purpose' => Row::text($row, 'purpose'), 'shared' => true === $row['shared'],
            'owner' => Row::text($row, 'owner'), 'source' => Row::text($row, 'source'), 'changedAt' => $row['changedAt'],
            'brief' => ModelBrief::read($row['brief']),
        ], $rows);
    }

    /** @return array<int, string> names by id */
    public function ownedBy(Account $account): array
    {
        $names = [];
        $sql = 'SELECT id, name FROM analytic_model WHERE owner_id = ? AND thrown_at IS NULL ORDER BY name';
        foreach ($this->orm->getConnection()->iterateAssociative($sql, [$account->id()]) as $row) {
            $names[Row::int($row, 'id')] = Row::text($row, 'name');
        }

        return $names;
    }

    /** @return array<int, int> faults that were found in the data, by model of an account */
    public function faults(Account $account): array
    {
        $faults = [];
        $sql = "SELECT id, JSON_EXTRACT(looked, '$.findings[*].severity') AS severities FROM analytic_model
            WHERE owner_id = ? AND thrown_at IS NULL AND looked IS NOT NULL";
        foreach ($this->orm->getConnection()->iterateAssociative($sql, [$account->id()]) as $row) {
            $found = json_decode(Row::text($row, 'severities'), true);
            $faults[Row::int($row, 'id')] = \count(array_keys(\is_array($found) ? $found : [], Severity::Fault->value, true));
        }

        return $faults;
    }

    /** @return list<KeptModel> */
    public function ofSource(int $source): array
    {
        return array_values($this->orm->getRepository(KeptModel::class)->findBy(['source' => $source], ['id' => 'ASC']));
    }

    public function keep(string $name, string $purpose, Account $owner, Source $source): KeptModel
    {
        $model = new KeptModel(
            $name,
            $purpose,
            $this->owner($owner),
            $this->orm->find(Source::class, $source->id()) ?? $source,
        );
        $this->orm->persist($model);
        $this->orm->flush();

        return $model;
    }

    /**
     * One more time that measures were asked for.
     *
     * @param list<string> $measures
     */
    public function asked(KeptModel $model, array $measures): void
    {
        foreach (array_unique($measures) as $measure) {
            $this->orm->getConnection()->executeStatement(
                'INSERT INTO model_asked (model_id, measure, times, last_at) VALUES (?, ?, 1, UTC_TIMESTAMP())'
                .' ON DUPLICATE KEY UPDATE times = times + 1, last_at = UTC_TIMESTAMP()',
                [$model->id(), mb_substr($measure, 0, 160)],
            );
        }
    }

    /** @return array<string, int> how often each measure was asked for */
    public function timesAsked(KeptModel $model): array
    {
        $times = [];
        foreach ($this->orm->getRepository(MeasureAsked::class)->findBy(['model' => $model]) as $one) {
            $times[$one->measure] = $one->times;
        }

        return $times;
    }

    // ---- kept trials ----

    /** As it is kept now, whatever of it was read before. */
    public function trial(int $id): ?KeptTrial
    {
        $trial = $this->orm->find(KeptTrial::class, $id);
        if (null !== $trial) {
            $this->orm->refresh($trial);
        }

        return $trial;
    }

    /** One that is kept with a model. */
    public function keptTrial(KeptModel $model, int $id): ?KeptTrial
    {
        $trial = 0 === $id ? null : $this->orm->find(KeptTrial::class, $id);

        return $trial?->model->id() === $model->id() && !$trial->removed ? $trial : null;
    }

    /** @return list<KeptTrial> in the order in which they were kept */
    public function trials(KeptModel $model): array
    {
        return array_values($this->orm->getRepository(KeptTrial::class)->findBy(['model' => $model, 'removed' => false], ['id' => 'ASC']));
    }

    public function keepTrial(KeptModel $model, string $name, Trial $trial, Account $by): KeptTrial
    {
        $kept = new KeptTrial($model, $name, $trial, $this->owner($by));
        $this->orm->persist($kept);
        $this->orm->flush();

        return $kept;
    }

    /** @return array<int, array{kept: int, answered: int, changed: int}> by model */
    public function tallies(): array
    {
        $sql = "SELECT model_id, COUNT(*) AS kept, SUM(state = 'answered') AS answered, SUM(changed IS NOT NULL) AS changed
            FROM kept_trial WHERE NOT removed GROUP BY model_id";
        $tallies = [];
        foreach ($this->orm->getConnection()->iterateAssociative($sql) as $row) {
            $tallies[Row::int($row, 'model_id')] = [
                'kept' => Row::int($row, 'kept'),
                'answered' => Row::int($row, 'answered'),
                'changed' => Row::int($row, 'changed'),
            ];
        }

        return $tallies;
    }

    // ---- what they stand on ----

    /**
     * @param list<array{field: int, kind: string, part: string}> $uses kind: measure, attribute, key, join or trial
     */
    public function standOn(int $model, array $uses): void
    {
        $rows = [];
        foreach ($uses as $use) {
            $rows[$use['field']."\0".$use['kind']."\0".mb_strtolower(mb_substr($use['part'], 0, 160))] = [
                $model,
                $use['field'],
                $use['kind'],
                mb_substr($use['part'], 0, 160),
            ];
        }
        $db = $this->orm->getConnection();
        Again::transaction($db, static function () use ($db, $model, $rows): void {
            $db->executeStatement('DELETE FROM model_field WHERE model_id = ?', [$model]);
            Batch::insert($db, 'INSERT INTO model_field (model_id, field_id, kind, part) VALUES', array_values($rows));
        });
    }

    /**
     * What of shared models stands on fields.
     *
     * @param list<int> $fields
     *
     * @return array<int, list<ModelUse>> by field
     */
    public function standingOn(array $fields): array
    {
        $found = [];
        foreach (array_chunk($fields, Batch::SIZE) as $chunk) {
            $sql = 'SELECT u.field_id, u.kind, u.part, m.id, m.name FROM model_field u
                JOIN analytic_model m ON m.id = u.model_id WHERE m.shared = 1 AND m.thrown_at IS NULL AND u.field_id IN (?)
                ORDER BY m.name, u.kind, u.part';
            foreach ($this->orm->getConnection()->iterateAssociative($sql, [$chunk], [ArrayParameterType::INTEGER]) as $row) {
                $found[Row::int($row, 'field_id')][] = new ModelUse(
                    Row::int($row, 'id'), Row::text($row, 'name'), Row::text($row, 'kind'), Row::text($row, 'part'),
                );
            }
        }

        return $found;
    }

    /** @return array<string, list<int>> "kind\0part" → fields */
    public function fieldsOf(int $model): array
    {
        $found = [];
        foreach ($this->orm->getConnection()->iterateAssociative(
            'SELECT field_id, kind, part FROM model_field WHERE model_id = ? ORDER BY kind, part, field_id',
            [$model],
        ) as $row) {
            $found[Row::text($row, 'kind')."\0".Row::text($row, 'part')][] = Row::int($row, 'field_id');
        }

        return $found;
    }
}
