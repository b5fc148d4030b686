<?php

declare(strict_types=1);

namespace Fasti\Design;

use Fasti\Account\Account;
use Fasti\Core\Catalog\Place;
use Fasti\Core\Design\Physical;
use Fasti\Core\Design\WorkedTable;
use Fasti\Core\Dialect\Dialects;
use Fasti\Register\EntryStore;
use Fasti\Register\Fields;
use Fasti\Register\RegisterFollowed;
use Fasti\Register\Topic\EntryTopic;
use Fasti\Register\Topic\FieldTopic;
use Fasti\Source\SourceStore;
use Fasti\Text\BadText;
use Fasti\Text\Texts;
use Symfony\Component\EventDispatcher\Attribute\AsEventListener;

/** What was meant by a table goes to its entry once a survey has found the table; what somebody has written there stays. */
final readonly class DesignsFollow
{
    public function __construct(
        private Designs $designs,
        private Texts $texts,
        private EntryStore $entries,
        private Fields $fields,
        private SourceStore $sources,
        private Abbreviations $short,
    ) {
    }

    #[AsEventListener]
    public function followed(RegisterFollowed $followed): void
    {
        $engine = $this->sources->engine($followed->source);
        if ('' === $engine || !Dialects::of($engine)->writes()) {
            return;
        }
        $named = [];
        foreach ($this->entries->places($followed->source) as $place => $entry) {
            $named[mb_strtolower(Place::ofKey($place)->name)][] = $entry;
        }
        foreach ($this->designs->shared() as $kept) {
            if (null === $kept->source || $kept->source->id() === $followed->source) {
                $this->of($kept, Physical::of($kept->design(), $engine, $this->short->all()), $named);
            }
        }
    }

    /** @param array<string, list<int>> $named entries by the name of their table */
    private function of(KeptDesign $kept, Physical $physical, array $named): void
    {
        foreach ($physical->worked->tables as $key => $table) {
            $entries = $named[mb_strtolower($physical->tables[$key])] ?? [];
            if (1 !== \count($entries)) {
                continue;
            }
            $fields = $this->fields->ids($entries)[$entries[0]] ?? [];
            // A table of the same name with other fields is another one.
            if ([] === array_diff($physical->columns[$key], array_keys($fields))) {
                $this->say($kept->owner, $entries[0], $table, $physical->columns[$key], $fields);
            }
        }
    }

    /**
     * @param array<string, string> $columns key of a column → its name
     * @param array<string, int>    $fields  name → field
     */
    private function say(Account $by, int $entry, WorkedTable $table, array $columns, array $fields): void
    {
        $this->save($by, EntryTopic::NAME, $entry, 'meaning', $table->meaning);
        $this->save($by, EntryTopic::NAME, $entry, 'grain', '' === $table->grain ? '' : 'one row per '.$table->grain);
        foreach ($table->columns as $key => $column) {
            $field = $fields[$columns[$key]] ?? null;
            if (null !== $field) {
                $this->save($by, FieldTopic::NAME, $field, 'meaning', $column->meaning);
                $this->save($by, FieldTopic::NAME, $field, 'unit', $column->attribute->unit ?? '');
            }
        }
    }

    private function save(Account $by, string $topic, int $id, string $property, string $text): void
    {
        if ('' === $text) {
            return;
        }
        try {
            // It began as nothing: where something stands by now, that stays.
            $this->texts->save($by, $topic, $id, $property, '', $text, 'design');
        } catch (BadText) {
            // A text that may not be kept there stays in the design.
        }
    }
}
