<?php

declare(strict_types=1);

namespace Fasti\Register\Property;

use Fasti\Text\BadText;
use Fasti\Text\Editor;
use Fasti\Text\Property;

final class EntrySchema extends Property
{
    public function topic(): string
    {
        return 'entry';
    }

    public function name(): string
    {
        return 'jsonSchema';
    }

    public function label(): string
    {
        return 'JSON Schema';
    }

    public function most(): int
    {
        return 2000000;
    }

    public function editor(): Editor
    {
        return Editor::Long;
    }

    public function check(string $value, int $id): void
    {
        if ('' !== $value && !json_decode($value) instanceof \stdClass) {
            $why = \JSON_ERROR_NONE === json_last_error() ? 'a schema is written in braces' : json_last_error_msg();
            throw new BadText(\sprintf('This is not a JSON object yet: %s. It is kept in this browser until it can be saved.', $why));
        }
    }
}
