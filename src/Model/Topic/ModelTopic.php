<?php

declare(strict_types=1);

namespace Fasti\Model\Topic;

use Fasti\Kept\KeptTopic;
use Fasti\Model\KeptModel;
use Fasti\Model\ModelBrief;
use Fasti\Text\Property;
use Fasti\Text\Subject;

/** An analytic model: its name, its purpose, and what it offers. */
final readonly class ModelTopic extends KeptTopic
{
    public const NAME = 'model';

    public function name(): string
    {
        return self::NAME;
    }

    protected function table(): string
    {
        return 'analytic_model';
    }

    public function touched(Subject $subject, Property $property): void
    {
        $brief = ModelBrief::of(KeptModel::modelOf($this->read($subject->id, 'definition')));
        $this->db->executeStatement('UPDATE analytic_model SET changed_at = UTC_TIMESTAMP(), brief = ? WHERE id = ?', [$brief->json(), $subject->id]);
    }
}
