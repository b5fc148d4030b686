<?php

declare(strict_types=1);

namespace Fasti\Core\Join;

use Fasti\Core\Catalog\Type;
use Fasti\Core\Catalog\TypeFamily;

/** Whether values of one type may be found among those of another. */
enum TypeFit: string
{
    case Same = 'same';
    /** One may hold more than the other. */
    case Size = 'size';
    /** Only by their texts: a number in a text, a code in a number. */
    case Loose = 'loose';

    public static function of(Type $field, Type $key): ?self
    {
        $a = self::family($field);
        $b = self::family($key);
        if (null === $a || null === $b) {
            return null;
        }
        if ($a === $b) {
            if (TypeFamily::Other === $a) {
                return self::named($field) === self::named($key) ? self::Same : null;
            }
            $same = $field->bits === $key->bits && $field->length === $key->length && $field->unsigned === $key->unsigned && $field->scale === $key->scale;

            return $same ? self::Same : self::Size;
        }
        $plain = [TypeFamily::Whole, TypeFamily::Text, TypeFamily::Other];

        return \in_array($a, $plain, true) && \in_array($b, $plain, true) ? self::Loose : null;
    }

    /** The family that matters for a reference; null where values of the type are no key of anything. */
    public static function family(Type $type): ?TypeFamily
    {
        return match ($type->family) {
            TypeFamily::Number => self::whole($type) ? TypeFamily::Whole : null,
            TypeFamily::Bytes => null !== $type->length && $type->length <= 64 ? TypeFamily::Other : null,
            TypeFamily::Flag, TypeFamily::Document, TypeFamily::Spatial => null,
            TypeFamily::Text => $type->several ? null : TypeFamily::Text,
            // `tinyint(1)` says yes or no.
            TypeFamily::Whole => 1 === $type->length && null !== $type->bits ? null : TypeFamily::Whole,
            default => $type->family,
        };
    }

    /** Whether nobody would use the type for anything but numbers of rows. */
    public static function isSpecial(Type $type): bool
    {
        return \in_array(
            strtolower($type->name),
            ['uuid', 'oid', 'uniqueidentifier', 'guid', 'rowid', 'urowid'],
            true,
        ) || TypeFamily::Bytes === $type->family && 16 === $type->length;
    }

    private static function named(Type $type): string
    {
        return TypeFamily::Bytes === $type->family ? 'bytes '.$type->length : $type->name;
    }

    /** `number(10)` of an engine without whole numbers, and numbers whose size is left open. */
    private static function whole(Type $type): bool
    {
        return 0 === ($type->scale ?? 0) && !\in_array($type->name, ['float', 'double', 'double precision', 'real', 'money'], true);
    }
}
