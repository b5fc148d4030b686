<?php

declare(strict_types=1);

namespace Fasti\Core\Draft\Rule;

use Fasti\Core\Draft\Draft;
use Fasti\Core\Draft\Field;
use Fasti\Core\Draft\Rule;

/** What the glossary says of the words of the name. */
final class FromTerm implements Rule
{
    public function name(): string
    {
        return 'from-term';
    }

    public function of(Field $field): iterable
    {
        $terms = $field->material->terms;
        if ([] === $terms || null !== $field->lead()) {
            return;
        }
        $phrase = $field->name->phrase();
        $whole = $terms[$phrase] ?? $terms[\Fasti\Core\Wording\Noun::singular($phrase)] ?? null;
        if (null !== $whole && '' !== $whole) {
            yield new Draft('meaning', $whole, 0.75, ["the glossary says it of “{$phrase}”"]);
        }
    }
}
