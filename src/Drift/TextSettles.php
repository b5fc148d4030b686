<?php

declare(strict_types=1);

namespace Fasti\Drift;

use Fasti\Finding\Findings;
use Fasti\Register\Topic\EntryTopic;
use Fasti\Register\Topic\FieldTopic;
use Fasti\Text\TextSaved;
use Symfony\Component\EventDispatcher\Attribute\AsEventListener;

/** A text that has been written anew is no longer doubtful. */
final readonly class TextSettles
{
    public function __construct(private Findings $findings)
    {
    }

    #[AsEventListener]
    public function saved(TextSaved $saved): void
    {
        if (\in_array($saved->subject->topic, [EntryTopic::NAME, FieldTopic::NAME], true)) {
            $field = FieldTopic::NAME === $saved->subject->topic ? $saved->subject->id : null;
            $this->findings->endAbout(DoubtfulText::NAME, $saved->subject->pageId, $field, $saved->property);
        }
    }
}
