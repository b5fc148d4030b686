<?php

declare(strict_types=1);

namespace Fasti\Desk;

use Fasti\Draft\DraftsMadeAnew;
use Fasti\Finding\Findings;
use Fasti\Register\Entries;
use Fasti\Register\SoughtInVain;
use Fasti\Register\Topic\EntryTopic;
use Fasti\Register\Topic\FieldTopic;
use Fasti\Text\TextSaved;
use Symfony\Component\EventDispatcher\Attribute\AsEventListener;

/** The queue follows what is written and what is worked out. */
final readonly class QueueFollows
{
    public function __construct(private Queue $queue, private Weighing $weighing, private Entries $entries, private Findings $findings,
        private Undescribed $check)
    {
    }

    #[AsEventListener]
    public function made(DraftsMadeAnew $made): void
    {
        $this->weighing->source($made->source);
        $this->findings->follow($this->check, $this->check->of(), null);
    }

    #[AsEventListener]
    public function sought(SoughtInVain $sought): void
    {
        $this->queue->sought($sought->words);
    }

    #[AsEventListener]
    public function saved(TextSaved $saved): void
    {
        $subject = $saved->subject;
        if ('meaning' !== $saved->property || !\in_array($subject->topic, [EntryTopic::NAME, FieldTopic::NAME], true)) {
            return;
        }
        if ('' !== $saved->value) {
            $this->queue->drop($subject->topic, $subject->id);
            if (!$this->queue->hasFields($subject->pageId)) {
                $this->findings->endAbout(Undescribed::NAME, $subject->pageId, null, '');
            }
        } elseif (null !== $entry = $this->entries->one($subject->pageId)) {
            // Until all is weighed again it stands where somebody was at work on it.
            $beside = $this->queue->one(EntryTopic::NAME, $subject->pageId);
            $this->queue->add([
                'topic' => $subject->topic, 'id' => $subject->id, 'entry' => $subject->pageId, 'source' => $entry->sourceId,
                'worth' => $beside['worth'] ?? 1.0, 'why' => ['its text was taken away'], 'drafted' => false,
            ]);
        }
    }
}
