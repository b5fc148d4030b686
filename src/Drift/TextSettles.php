<?php

declare(strict_types=1);

namespace Fasti\Drift;

use Doctrine\DBAL\Connection;
use Fasti\Register\Saved;
use Fasti\Register\Subject;
use Symfony\Component\EventDispatcher\Attribute\AsEventListener;

/** A text that has been written anew is no longer doubtful: its notes leave the margin. */
final readonly class TextSettles
{
    public function __construct(private Connection $db)
    {
    }

    #[AsEventListener]
    public function saved(Saved $saved): void
    {
        if (Subject::Join !== $saved->subject) {
            $this->db->executeStatement('UPDATE margin_note SET settled_at = UTC_TIMESTAMP() WHERE entry_id = ? AND field_id <=> ? AND property = ? AND settled_at IS NULL', [$saved->entryId, Subject::Field === $saved->subject ? $saved->id : null, $saved->property]);
        }
    }
}
