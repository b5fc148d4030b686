<?php

declare(strict_types=1);

namespace Fasti\Model;

use Doctrine\DBAL\ArrayParameterType;
use Doctrine\ORM\EntityManagerInterface;
use Fasti\Account\Account;
use Fasti\Account\Act\Act;
use Fasti\Core\Finding\Severity;
use Fasti\Core\Model\Trial;
use Fasti\Source\Source;
use Fasti\Support\Again;
use Fasti\Support\Batch;
use Fasti\Support\Row;
use Fasti\Text\BadText;

/** The analytic models that people keep, the trials that are kept with them, and which fields they stand on. */
final readonly class Models
{
    public function __construct(private EntityManagerInterface $orm)
    {
    }

    public function one(int $id): ?KeptModel
    {
        return $this->orm->find(KeptModel::class, $id);
    }

    public function named(string $name): ?KeptModel
    {
        return $this->orm->getRepository(KeptModel::class)->findOneBy(['name' => $name]);
    }

    public static function isSeenBy(KeptModel $model, Account $account): bool
    {
        return $model->shared || $model->owner->id() === $account->id();
    }

    /** Who may change it: its owner, and once it is shared whoever describes. */
    public static function isChangedBy(KeptModel $model, Account $account): bool
    {
        return $account->may(Act::DESCRIBE) && self::isSeenBy($model, $account);
    }

    /**
     * Those that are shared and the person's own, by name, without their definitions.
     *
     * @return list<array{id: int, name: string, purpose: string, shared: bool, owner: string, source: string, changedAt: mixed, brief: ModelBrief}>
     */
    public function listed(Account $account): array
    {
        /** @var list<array<string, mixed>> $rows */
        $rows = $this->orm->createQueryBuilder()
            ->select(
                'm.id', 'm.name', 'm.purpose', 'm.shared', 'a.name AS owner', 's.name AS source', 'm.changedAt', 'm.brief',
            )->from(KeptModel::class, 'm')->join('m.owner', 'a')->join('m.source', 's')->where('m.shared = true OR a.id = :account')
            ->setParameter('account', $account->id())->orderBy('m.name')->getQuery()->getArrayResult();

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
        $sql = 'SELECT id, name FROM analytic_model WHERE owner_id = ? ORDER BY name';
        foreach ($this->orm->getConnection()->iterateAssociative($sql, [$account->id()]) as $row) {
            $names[Row::int($row, 'id')] = Row::text($row, 'name');
        }

        return $names;
    }

    /** @return array<int, int> faults that were found in the data, by model of an account */
    public function faults(Account $account): array
    {
        $faults = [];
        $sql = "SELECT id, JSON_EXTRACT(looked, '$.findings[*].severity') AS severities FROM analytic_model WHERE owner_id = ? AND looked IS NOT NULL";
        foreach ($this->orm->getConnection()->iterateAssociative($sql, [$account->id()]) as $row) {
            $found = json_decode(Row::text($row, 'severities'), true);
            $faults[Row::int($row, 'id')] = \count(array_keys(\is_array($found) ? $found : [], Severity::Fault->value, true));
        }

        return $faults;
    }

    /** @return list<KeptModel> */
    public function shared(): array
    {
        /** @var list<KeptModel> $found */
        $found = $this->orm->createQueryBuilder()->select('m', 'o', 's')->from(KeptModel::class, 'm')->join('m.owner', 'o')->join('m.source', 's')
            ->where('m.shared = true')->orderBy('m.name')->getQuery()->getResult();

        return $found;
    }

    /**
     * Lets one after the other change a model, each as the one before left it.
     *
     * @template T
     *
     * @param \Closure(KeptModel): T $change
     *
     * @return T
     *
     * @throws BadText where somebody else is at it for too long
     */
    public function locked(KeptModel $model, \Closure $change): mixed
    {
        $db = $this->orm->getConnection();

        $lock = 'fasti.model.'.$model->id();
        // A lock by name and no transaction around it all: each part within is made again by itself where the database takes it back.
        if (1 !== Row::int(['got' => $db->fetchOne('SELECT GET_LOCK(?, 20)', [$lock])], 'got')) {
            throw new BadText('Somebody else is changing this model for very long. Make your change again in a moment.');
        }
        try {
            return $change($this->fresh($model));
        } finally {
            $db->fetchOne('SELECT RELEASE_LOCK(?)', [$lock]);
        }
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
            $this->orm->find(Account::class, $owner->id()) ?? $owner,
            $this->orm->find(Source::class, $source->id()) ?? $source,
        );
        $this->orm->persist($model);
        $this->orm->flush();

        return $model;
    }

    public function remove(KeptModel $model): void
    {
        $this->orm->remove($model);
        $this->orm->flush();
    }

    public function fresh(KeptModel $model): KeptModel
    {
        $this->orm->refresh($model);

        return $model;
    }

    public function save(): void
    {
        $this->orm->flush();
    }

    // ---- kept trials ----

    public function trial(int $id): ?KeptTrial
    {
        return $this->orm->find(KeptTrial::class, $id);
    }

    /** @return list<KeptTrial> in the order in which they were kept */
    public function trials(KeptModel $model): array
    {
        return array_values($this->orm->getRepository(KeptTrial::class)->findBy(['model' => $model], ['id' => 'ASC']));
    }

    public function keepTrial(KeptModel $model, string $name, Trial $trial, Account $by): KeptTrial
    {
        $kept = new KeptTrial($model, $name, $trial, $this->orm->find(Account::class, $by->id()) ?? $by);
        $this->orm->persist($kept);
        $this->orm->flush();

        return $kept;
    }

    public function removeTrial(KeptTrial $trial): void
    {
        $this->orm->remove($trial);
        $this->orm->flush();
    }

    /** @return array<int, array{kept: int, answered: int, changed: int}> by model */
    public function tallies(): array
    {
        $sql = "SELECT model_id, COUNT(*) AS kept, SUM(state = 'answered') AS answered, SUM(changed IS NOT NULL) AS changed FROM kept_trial GROUP BY model_id";
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
     * @return array<int, list<array{model: int, name: string, kind: string, part: string}>> by field
     */
    public function standingOn(array $fields): array
    {
        $found = [];
        foreach (array_chunk($fields, Batch::SIZE) as $chunk) {
            $sql = 'SELECT u.field_id, u.kind, u.part, m.id, m.name FROM model_field u
                JOIN analytic_model m ON m.id = u.model_id WHERE m.shared = 1 AND u.field_id IN (?)
                ORDER BY m.name, u.kind, u.part';
            foreach ($this->orm->getConnection()->iterateAssociative($sql, [$chunk], [ArrayParameterType::INTEGER]) as $row) {
                $found[Row::int($row, 'field_id')][] = [
                    'model' => Row::int($row, 'id'), 'name' => Row::text($row, 'name'), 'kind' => Row::text($row, 'kind'), 'part' => Row::text($row, 'part'),
                ];
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
