<?php

declare(strict_types=1);

namespace Fasti\Profile;

use Fasti\Register\Fields;
use Fasti\Register\Topic\FieldTopic;
use Fasti\Text\TextSaved;
use Symfony\Component\EventDispatcher\Attribute\AsEventListener;

/** When somebody says that a field is personal, the values of it that were kept so far are forgotten. */
final readonly class PersonalDecided
{
    public function __construct(private Profiles $profiles, private Fields $fields)
    {
    }

    #[AsEventListener(priority: 10)]
    public function saved(TextSaved $saved): void
    {
        if (FieldTopic::NAME === $saved->subject->topic && 'personal' === $saved->property && 'yes' === $saved->value) {
            $this->profiles->forget($saved->subject->pageId, $this->fields->name($saved->subject->id));
        }
    }
}
