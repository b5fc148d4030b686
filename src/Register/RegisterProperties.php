<?php

declare(strict_types=1);

namespace Fasti\Register;

use Fasti\Register\Topic\EntryTopic;
use Fasti\Register\Topic\FieldTopic;
use Fasti\Register\Topic\JoinTopic;
use Fasti\Text\BadText;
use Fasti\Text\Editor;
use Fasti\Text\Properties;
use Fasti\Text\Property;

/** What people write of entries, fields and joins. */
final readonly class RegisterProperties implements Properties
{
    public function __construct(private Fields $fields)
    {
    }

    public function all(): iterable
    {
        yield from $this->ofEntries(EntryTopic::NAME);
        yield from self::ofFields(FieldTopic::NAME);
        yield new Property(JoinTopic::NAME, 'verb', most: 190, column: 'verb');
        yield new Property(JoinTopic::NAME, 'verbBack', 'verb back', 190, 'verb_back');
    }

    /** @return iterable<Property> */
    private function ofEntries(string $topic): iterable
    {
        yield new Property($topic, 'businessName', 'business name', 190, 'business_name');
        yield new Property($topic, 'changesEvery', 'changes', 190, blank: 'how often does it change?', shownAmongFacts: true);
        yield new Property($topic, 'comesFrom', 'comes from', 2000, blank: 'where does its data come from?', shownAmongFacts: true);
        yield new Property($topic, 'grain', most: 2000, column: 'grain');
        yield new Property($topic, 'grainFields', 'fields that tell rows apart', 2000, 'grain_fields', check: $this->areItsFields(...));
        yield new Property($topic, 'keptFor', 'kept for', 190, blank: 'how long are its rows kept?', shownAmongFacts: true);
        yield new Property($topic, 'meaning', column: 'meaning', editor: Editor::Long);
        yield new Property($topic, 'owner', most: 190, blank: 'who answers for it?', shownAmongFacts: true);
        yield new Property($topic, 'jsonSchema', 'JSON Schema', 2000000, editor: Editor::Long, check: self::isSchema(...));
        yield Standing::property($topic);
        yield new Property($topic, 'steward', most: 190, blank: 'who describes it?', shownAmongFacts: true);
        yield new Property($topic, 'tags', most: 400, blank: 'words to find it by, with commas between', shownAmongFacts: true);
    }

    /** @return iterable<Property> */
    private static function ofFields(string $topic): iterable
    {
        yield new Property($topic, 'businessName', 'business name', 190, 'business_name');
        yield new Property($topic, 'computedAs', 'how it is computed', 2000, blank: 'how is it computed?', shownAmongFacts: true);
        yield new Property($topic, 'example', most: 400, blank: 'an example', shownAmongFacts: true);
        yield new Property($topic, 'format', most: 400, blank: 'how is it written? AAA-000', shownAmongFacts: true);
        yield new Property($topic, 'meaning', column: 'meaning', editor: Editor::Long);
        yield new Property($topic, 'personal', 'personal data', 3, 'personal', Editor::Choice, choices: [
            '' => 'as it seems', 'yes' => 'yes, never show values', 'no' => 'no, values may be shown',
        ]);
        yield new Property($topic, 'sensitivity', most: 12, editor: Editor::Choice, shownAmongFacts: true, choices: [
            '' => 'not said', 'open' => 'open: anybody may see it', 'internal' => 'internal: for those who work here',
            'confidential' => 'confidential: for those who need it', 'secret' => 'secret: for nobody without a reason that is kept',
        ]);
        yield new Property($topic, 'unit', most: 60, blank: 'unit: m, km², mg/l', shownAmongFacts: true, check: self::isUnit(...));
        yield new Property($topic, 'whyEmpty', 'why it may be empty', 1000, blank: 'when is it empty?', shownAmongFacts: true);
    }

    private function areItsFields(string $value, int $id): void
    {
        $unknown = array_diff(GrainFields::named($value), $this->fields->names($id));
        if ([] !== $unknown) {
            throw new BadText(\sprintf('The entry has no field %s. Name fields as the ledger does, with commas between.', implode(', ', $unknown)));
        }
    }

    private static function isSchema(string $value): void
    {
        if ('' !== $value && !json_decode($value) instanceof \stdClass) {
            $why = \JSON_ERROR_NONE === json_last_error() ? 'a schema is written in braces' : json_last_error_msg();
            throw new BadText(\sprintf('This is not a JSON object yet: %s. It is kept in this browser until it can be saved.', $why));
        }
    }

    /** A unit that is known is kept as it is written everywhere; others are kept as they are. */
    private static function isUnit(string $value): void
    {
        if (1 === preg_match('/^\d/', $value)) {
            throw new BadText('A unit has no number before it. Write m, km², mg/l, or a word.');
        }
    }
}
