<?php

declare(strict_types=1);

namespace Fasti\Model\Topic;

use Doctrine\DBAL\ArrayParameterType;
use Doctrine\DBAL\Connection;
use Fasti\Support\Row;
use Fasti\Text\Property;
use Fasti\Text\Subject;
use Fasti\Text\Topic;

/** A question that is kept with a model; its history stands with the model. */
final readonly class TrialTopic implements Topic
{
    public const NAME = 'trial';

    public function __construct(private Connection $db, private ModelTopic $models)
    {
    }

    public function name(): string
    {
        return self::NAME;
    }

    public function locked(int $id): ?Subject
    {
        $model = $this->db->fetchOne('SELECT model_id FROM kept_trial WHERE id = ?', [$id]);
        if (!is_numeric($model) || null === $this->models->locked((int) $model)) {
            return null;
        }

        return new Subject(self::NAME, $id, ModelTopic::NAME, (int) $model);
    }

    public function read(int $id, string $column): string
    {
        return Row::text(['text' => $this->db->fetchOne("SELECT $column FROM kept_trial WHERE id = ? FOR UPDATE", [$id])], 'text');
    }

    public function write(Subject $subject, string $column, string $value): void
    {
        $this->db->executeStatement("UPDATE kept_trial SET $column = ? WHERE id = ?", [$value, $subject->id]);
    }

    /** The model itself is what it was. */
    public function touched(Subject $subject, Property $property): void
    {
    }

    public function names(array $ids): array
    {
        $names = [];
        $rows = $this->db->fetchAllAssociative('SELECT id, name FROM kept_trial WHERE id IN (?)', [$ids], [ArrayParameterType::INTEGER]);
        foreach ($rows as $row) {
            $names[Row::int($row, 'id')] = Row::text($row, 'name');
        }

        return $names;
    }
}
