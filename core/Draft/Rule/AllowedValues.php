<?php

declare(strict_types=1);

namespace Fasti\Core\Draft\Rule;

use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Draft\Draft;
use Fasti\Core\Draft\Field;
use Fasti\Core\Draft\Rule;
use Fasti\Core\Value\Lists;

/** What values are allowed: a code list whose codes are exactly those found, a standard list, the values found, or a range. */
final class AllowedValues implements Rule
{
    private const MOST = 40;

    public function name(): string
    {
        return 'allowed-values';
    }

    public function of(Field $field): iterable
    {
        if (null !== $field->lead() || TypeFamily::Time === $field->type->family || $field->isPrimary() && $field->column->autoNumbered) {
            return;
        }
        $likely = $field->profile->likely ?? '';
        $standard = Lists::likely($likely, $field->name->words, $field->type->length);
        if (null !== $standard && TypeFamily::Text === $field->type->family) {
            yield new Draft('allowed', 'code list '.$standard->name, '' === $likely ? 0.62 : 0.85,
                ['' === $likely ? 'its name and length' : 'its values are on it']);
        }
        $range = $field->range();
        if (null !== $range) {
            $text = match (true) {
                '' === $range[0] => 'at most '.$range[1],
                '' === $range[1] => 'at least '.$range[0],
                default => $range[0].' to '.$range[1],
            };
            yield new Draft('allowed', $text, 0.9, ['a check of the database']);
        }
        $values = $field->values();
        if (null === $values || $field->isFlag() || $field->type->several || \count($values[0]) > self::MOST) {
            return;
        }
        [$list, $from] = $values;
        $same = self::sameList($field, $list);
        if (null !== $same) {
            yield new Draft('allowed', 'code list '.$same, 0.9, ["$same has exactly these"]);

            return;
        }
        $sure = 'the data holds no others' === $from ? 0.6 : 0.86;
        yield new Draft('allowed', 'one of '.implode(', ', array_map(\Fasti\Core\Value\Allowed::quoted(...), $list)), $sure, [$from]);
    }

    /** @param list<string> $values */
    private static function sameList(Field $field, array $values): ?string
    {
        sort($values);
        foreach ($field->material->lists as $name => $codes) {
            sort($codes);
            if ($codes === $values) {
                return (string) $name;
            }
        }

        return null;
    }
}
