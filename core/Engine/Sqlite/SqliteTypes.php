<?php

declare(strict_types=1);

namespace Fasti\Core\Engine\Sqlite;

use Fasti\Core\Dialect\GeneralType;
use Fasti\Core\Dialect\Native;
use Fasti\Core\Dialect\NativeTypes;

/** SQLite takes a type as advice, so that what was said is held by conditions. */
final class SqliteTypes extends NativeTypes
{
    protected const PLAIN = [
        'long text' => 'TEXT', 'approximate number' => 'REAL', 'yes or no' => 'BOOLEAN', 'date' => 'DATE', 'length of time' => 'TEXT',
        'year' => 'INTEGER', 'UUID' => 'TEXT', 'JSON document' => 'TEXT', 'XML document' => 'TEXT', 'IP address' => 'TEXT', 'bytes' => 'BLOB',
        'point on a map' => 'TEXT', 'line on a map' => 'TEXT', 'area on a map' => 'TEXT', 'shape on a map' => 'TEXT',
    ];
    protected const TIMES = ['date and time' => 'DATETIME', 'instant' => 'TIMESTAMP', 'time of day' => 'TIME'];
    protected const WHOLE = [64 => 'INTEGER'];
    protected const NUMBER = 'NUMERIC(%d,%d)';
    protected const ANY_NUMBER = 'NUMERIC';
    protected const IN_KEYS = [];
    private const BITS = [8 => [-128, 127, 255], 16 => [-32768, 32767, 65535], 32 => [-2147483648, 2147483647, 4294967295]];

    protected function textUpTo(int $length): Native
    {
        return new Native('TEXT', 'length(%s) <= '.$length);
    }

    protected function fixedText(int $length): Native
    {
        return new Native('TEXT', 'length(%s) = '.$length);
    }

    public function native(GeneralType $type): Native
    {
        return match (true) {
            '' === $type->kind => new Native('TEXT'),
            'bytes' === $type->kind && null !== $type->length => new Native('BLOB', 'length(%s) <= '.$type->length),
            'fixed bytes' === $type->kind => new Native('BLOB', 'length(%s) = '.$type->length),
            'yes or no' === $type->kind => new Native('BOOLEAN', '%s IN (0, 1)'),
            'JSON document' === $type->kind => new Native('TEXT', 'json_valid(%s)'),
            str_ends_with($type->kind, ' on a map') => new Native('TEXT', '', 'There are no shapes here: they stand as text.'),
            default => parent::native($type),
        };
    }

    protected function time(GeneralType $type): Native
    {
        return new Native(self::TIMES[$type->kind]);
    }

    protected function whole(GeneralType $type): Native
    {
        return null !== $type->from || null !== $type->to || !isset(self::BITS[$type->length ?? 32]) || null === $type->length
            ? new Native('INTEGER', self::between($type->from, $type->to))
            : new Native('INTEGER', self::between((string) self::BITS[$type->length][0], (string) self::BITS[$type->length][1]));
    }

    protected function ofDigits(int $digits, int $decimals): Native
    {
        $most = \Fasti\Core\Wording\TypeWords::greatest($digits, $decimals);

        return new Native(\sprintf(self::NUMBER, $digits, $decimals), $digits > 15 ? '' : "abs(%s) <= $most", $digits > 15
            ? 'A number has 15 digits here; beyond that it is approximate.' : '');
    }
}
