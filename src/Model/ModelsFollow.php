<?php

declare(strict_types=1);

namespace Fasti\Model;

use Fasti\Core\Model\Edits;
use Fasti\Model\Topic\ModelTopic;
use Fasti\Model\Topic\TrialTopic;
use Fasti\Register\EntryRenamed;
use Fasti\Register\EntryStore;
use Fasti\Register\FieldsRenamed;
use Fasti\Register\RegisterFollowed;
use Fasti\Text\TextSaved;
use Symfony\Component\EventDispatcher\Attribute\AsEventListener;

/** What of models follows when a source has changed: names at once, and then everything is proven again. */
final readonly class ModelsFollow
{
    public function __construct(private Models $models, private Editing $editing, private EntryStore $entries)
    {
    }

    #[AsEventListener]
    public function entry(EntryRenamed $renamed): void
    {
        foreach ($this->models->ofSource($renamed->source) as $kept) {
            $kept->definition = KeptModel::definitionOf(Edits::entryMoved($kept->model(), $renamed->from, $renamed->to));
        }
        $this->models->save();
    }

    #[AsEventListener]
    public function fields(FieldsRenamed $renamed): void
    {
        $at = $this->entries->placed([$renamed->entry])[$renamed->entry] ?? null;
        if (null === $at) {
            return;
        }
        foreach ($this->models->ofSource($at->source) as $kept) {
            $kept->definition = KeptModel::definitionOf(Edits::fieldsRenamed($kept->model(), $at->place, $renamed->names));
        }
        $this->models->save();
    }

    /** Whatever was written about a model, a change that was taken back too. */
    #[AsEventListener]
    public function written(TextSaved $saved): void
    {
        $is = ModelTopic::NAME === $saved->subject->topic && ModelProperties::DEFINITION === $saved->property;
        $kept = $is ? $this->models->one($saved->subject->id) : null;
        if (null !== $kept) {
            $this->editing->follow($this->models->fresh($kept));
        }
        $trial = TrialTopic::NAME === $saved->subject->topic ? $this->models->trial($saved->subject->id) : null;
        if (null !== $trial && \in_array($saved->property, [ModelProperties::QUESTION, 'removed', 'name'], true)) {
            $this->editing->follow($trial->model, 'name' !== $saved->property && !$trial->removed);
        }
    }

    #[AsEventListener]
    public function followed(RegisterFollowed $followed): void
    {
        foreach ($this->models->ofSource($followed->source) as $kept) {
            $this->editing->follow($kept);
        }
    }
}
