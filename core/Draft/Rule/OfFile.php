<?php

declare(strict_types=1);

namespace Fasti\Core\Draft\Rule;

use Fasti\Core\Draft\Draft;
use Fasti\Core\Draft\English;
use Fasti\Core\Draft\Field;
use Fasti\Core\Draft\Rule;

/** The meaning of a field that holds a file or a document. */
final class OfFile implements Rule
{
    public function name(): string
    {
        return 'of-file';
    }

    public function of(Field $field): iterable
    {
        $phrase = implode(' ', $field->name->without($field->noun()));
        if ('' === $phrase || [] !== array_intersect($field->name->words, ['hash', 'digest', 'password', 'salt', 'key', 'ID', 'UUID'])) {
            return;
        }
        if (\Fasti\Core\Catalog\TypeFamily::Bytes === $field->type->family && !\in_array($field->type->name, ['bit', 'binary'], true)) {
            yield new Draft('meaning', English::sentence("The $phrase of the {$field->noun()}, kept as a file"), 0.7, ['it holds bytes']);
        } elseif (\Fasti\Core\Catalog\TypeFamily::Document === $field->type->family) {
            yield new Draft('meaning', English::sentence("The $phrase of the {$field->noun()}, kept as a JSON document"), 0.6, ['it holds documents']);
        }
    }
}
