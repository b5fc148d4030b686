<?php

declare(strict_types=1);

namespace Fasti\Design\Topic;

use Fasti\Core\Design\Outline;
use Fasti\Design\DesignBrief;
use Fasti\Design\Designs;
use Fasti\Kept\KeptTopic;
use Fasti\Text\Property;
use Fasti\Text\Subject;

/** A design: its outline says everything, its name and its rules included. */
final readonly class DesignTopic extends KeptTopic
{
    public const NAME = 'design';

    public function name(): string
    {
        return self::NAME;
    }

    protected function table(): string
    {
        return 'design';
    }

    /** The name follows the outline, and so does what was understood last. */
    public function touched(Subject $subject, Property $property): void
    {
        $outline = $this->read($subject->id, 'outline');
        $read = Outline::read($outline);
        [$name, $purpose] = Designs::called($read->design);
        $set = ['name = ?', 'purpose = ?', 'changed_at = UTC_TIMESTAMP()'];
        $values = [$name, $purpose];
        if ([] === $read->faults) {
            array_push($set, 'readable = outline', 'brief = ?');
            $values[] = DesignBrief::of($outline)->json();
        }
        $this->db->executeStatement('UPDATE design SET '.implode(', ', $set).' WHERE id = ?', [...$values, $subject->id]);
    }
}
