<?php

declare(strict_types=1);

namespace Fasti\Join;

use Fasti\Core\Join\End;
use Fasti\Core\Join\EntryKind;
use Fasti\Register\JoinKind;
use Fasti\Register\Topic\EntryTopic;
use Fasti\Register\Topic\JoinTopic;
use Fasti\Text\Editor;
use Fasti\Text\Properties;
use Fasti\Text\Property;

/** What stewards say of joins that no constraint says, and of the area and the kind of entries. */
final readonly class JoinProperties implements Properties
{
    public const AREA = 'area';
    public const KIND = 'kind';
    public const DECISION = 'decision';
    public const DISMISSED = 'dismissed';
    public const FROM_END = 'fromEnd';
    public const PURPOSE = 'purpose';
    public const TO_END = 'toEnd';

    public function all(): iterable
    {
        $kinds = array_map(static fn (EntryKind $kind): string => $kind->value, EntryKind::cases());
        $ends = ['' => 'as the constraints say'];
        foreach (End::cases() as $end) {
            $ends[$end->value] = $end->inWords();
        }
        $choice = Editor::Choice;
        yield new Property(EntryTopic::NAME, self::AREA, 'subject area', 120, blank: 'in no area yet');
        yield new Property(EntryTopic::NAME, self::KIND, most: 12, editor: $choice, choices: ['' => 'as it seems'] + array_combine($kinds, $kinds));
        // Whether a join that the database does not enforce holds.
        yield new Property(JoinTopic::NAME, self::DECISION, most: 12, column: 'stated', editor: $choice, choices: [
            '' => 'open', JoinKind::Documented->value => 'taken', self::DISMISSED => 'dismissed',
        ]);
        // The rows at the end that holds the reference, and at the one that is referred to.
        yield new Property(JoinTopic::NAME, self::FROM_END, 'rows that refer', 12, editor: $choice, choices: $ends);
        yield new Property(JoinTopic::NAME, self::PURPOSE, editor: Editor::Long, blank: 'Which questions does it answer?');
        yield new Property(JoinTopic::NAME, self::TO_END, 'rows referred to', 12, editor: $choice, choices: $ends);
    }
}
