<?php

declare(strict_types=1);

namespace Fasti\Lineage;

use Fasti\Register\Topic\EntryTopic;
use Fasti\Register\Topic\FieldTopic;
use Fasti\Text\BadText;
use Fasti\Text\Day;
use Fasti\Text\Editor;
use Fasti\Text\Properties;
use Fasti\Text\Property;

/** Where fields of other sources come from, and what is not to be used any more. */
final readonly class LineageProperties implements Properties
{
    public function __construct(private Origins $origins)
    {
    }

    public function all(): iterable
    {
        yield new Property(FieldTopic::NAME, Origins::PROPERTY, 'filled from', 400, blank: 'source: table.field', check: $this->isAnother(...));
        yield new Property(FieldTopic::NAME, 'retired', 'standing of the field', 7, editor: Editor::Choice, choices: [
            '' => 'in use', 'retired' => 'retired: not to be used any more',
        ]);
        $day = static function (string $value): void {
            Day::check($value);
        };
        foreach ([EntryTopic::NAME, FieldTopic::NAME] as $topic) {
            yield new Property($topic, 'replacedBy', 'replaced by', 400, blank: 'what replaces it?');
            yield new Property($topic, 'retiresOn', 'until', 10, blank: 'until when? 2027-03-31', check: $day);
        }
    }

    /** The field of another source, as `source: table.field`. */
    private function isAnother(string $value, int $id): void
    {
        $found = '' === $value ? null : $this->origins->named($value);
        if (\is_string($found)) {
            throw new BadText($found);
        }
        if ($found === $id) {
            throw new BadText('This is the field itself.');
        }
    }
}
