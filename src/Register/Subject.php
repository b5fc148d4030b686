<?php

declare(strict_types=1);

namespace Fasti\Register;

/** What a text is about, and which of its texts people may write. */
enum Subject: string
{
    case Entry = 'entry';
    case Field = 'field';
    case Join = 'join';

    /** @return array<string, array{column: string, most: int}> property → where it is kept, and its greatest length in characters */
    public function properties(): array
    {
        $name = ['column' => 'business_name', 'most' => 190];
        $meaning = ['column' => 'meaning', 'most' => 15000];

        return match ($this) {
            self::Entry => ['businessName' => $name, 'grain' => ['column' => 'grain', 'most' => 2000], 'grainFields' => ['column' => 'grain_fields', 'most' => 2000], 'meaning' => $meaning, 'jsonSchema' => ['column' => 'json_schema', 'most' => 2000000], 'standing' => ['column' => 'standing', 'most' => 12]],
            self::Field => ['businessName' => $name, 'meaning' => $meaning, 'personal' => ['column' => 'personal', 'most' => 3]],
            self::Join => ['verb' => ['column' => 'verb', 'most' => 190], 'verbBack' => ['column' => 'verb_back', 'most' => 190]],
        };
    }

    public function table(): string
    {
        return self::Join === $this ? 'entry_join' : $this->value;
    }

    public function entryColumn(): string
    {
        return match ($this) {
            self::Entry => 'id',
            self::Field => 'entry_id',
            self::Join => 'from_entry_id',
        };
    }
}
