<?php

declare(strict_types=1);

namespace Fasti\Join\Property;

use Fasti\Core\Join\EntryKind;
use Fasti\Text\Editor;
use Fasti\Text\Property;

final class EntryKindProperty extends Property
{
    public const NAME = 'kind';

    public function topic(): string
    {
        return 'entry';
    }

    public function name(): string
    {
        return self::NAME;
    }

    public function label(): string
    {
        return 'kind';
    }

    public function most(): int
    {
        return 12;
    }

    public function editor(): Editor
    {
        return Editor::Choice;
    }

    public function choices(): array
    {
        $words = array_map(static fn (EntryKind $kind): string => $kind->value, EntryKind::cases());

        return ['' => 'as it seems'] + array_combine($words, $words);
    }
}
