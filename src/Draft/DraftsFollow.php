<?php

declare(strict_types=1);

namespace Fasti\Draft;

use Fasti\Profile\SourceProfiled;
use Fasti\Register\EntryKnown;
use Fasti\Register\Fields;
use Fasti\Register\RegisterFollowed;
use Fasti\Register\Topic\EntryTopic;
use Fasti\Register\Topic\FieldTopic;
use Fasti\Text\TextSaved;
use Fasti\Work\Jobs;
use Symfony\Component\EventDispatcher\Attribute\AsEventListener;

/** Drafts follow what they are made from. */
final readonly class DraftsFollow
{
    /** Texts from which others are drafted. */
    private const TELLS = ['businessName', 'meaning', 'unit', 'allowed', 'personal'];

    public function __construct(private DraftStore $store, private Fields $fields, private Jobs $jobs, private DraftsJob $kind)
    {
    }

    #[AsEventListener]
    public function followed(RegisterFollowed $followed): void
    {
        $this->jobs->start($this->kind, 'drafts '.$followed->source, ['source' => $followed->source], null);
    }

    #[AsEventListener]
    public function profiled(SourceProfiled $profiled): void
    {
        $this->jobs->start($this->kind, 'drafts '.$profiled->source, ['source' => $profiled->source], null);
    }

    #[AsEventListener]
    public function known(EntryKnown $known): void
    {
        $this->store->stale([$known->entry]);
    }

    #[AsEventListener]
    public function saved(TextSaved $saved): void
    {
        $topic = $saved->subject->topic;
        if ('join' === $topic) {
            if ('' !== $saved->value) {
                $this->store->drop($topic, $saved->subject->id, $saved->property);
            }
            $this->store->stale([$saved->subject->pageId]);
        }
        if (!\in_array($topic, [EntryTopic::NAME, FieldTopic::NAME], true)) {
            return;
        }
        if ('' !== $saved->value) {
            $this->store->drop($topic, $saved->subject->id, $saved->property);
        }
        if (FieldTopic::NAME === $topic && \in_array($saved->property, self::TELLS, true)) {
            $this->store->stale($this->fields->entriesAlike($saved->subject->id));
        } elseif ('businessName' === $saved->property || '' === $saved->value) {
            $this->store->stale([$saved->subject->pageId]);
        }
    }
}
