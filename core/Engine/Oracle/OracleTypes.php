<?php

declare(strict_types=1);

namespace Fasti\Core\Engine\Oracle;

use Fasti\Core\Dialect\GeneralType;
use Fasti\Core\Dialect\Native;
use Fasti\Core\Dialect\NativeTypes;

/** Types of Oracle Database 19c, SQL Language Reference, "Data Types". An empty text is no text there. */
final class OracleTypes extends NativeTypes
{
    protected const PLAIN = [
        'long text' => 'CLOB', 'approximate number' => 'BINARY_DOUBLE', 'yes or no' => 'NUMBER(1)', 'date' => 'DATE',
        'length of time' => 'INTERVAL DAY TO SECOND',
        'year' => 'NUMBER(4)', 'UUID' => 'RAW(16)', 'JSON document' => 'CLOB', 'XML document' => 'XMLTYPE', 'IP address' => 'VARCHAR2(45 CHAR)',
        'bytes' => 'BLOB',
        'point on a map' => 'SDO_GEOMETRY', 'line on a map' => 'SDO_GEOMETRY', 'area on a map' => 'SDO_GEOMETRY', 'shape on a map' => 'SDO_GEOMETRY',
    ];
    protected const TIMES = ['date and time' => 'TIMESTAMP%s', 'instant' => 'TIMESTAMP%s WITH TIME ZONE', 'time of day' => 'VARCHAR2(8 CHAR)'];
    protected const WHOLE = [16 => 'NUMBER(5)', 32 => 'NUMBER(10)', 64 => 'NUMBER(19)'];
    protected const TEXT = 'VARCHAR2(%d CHAR)';
    protected const FIXED = 'CHAR(%d CHAR)';
    protected const NUMBER = 'NUMBER(%d,%d)';
    protected const ANY_NUMBER = 'NUMBER';
    protected const BYTES = 'RAW(%d)';
    protected const FIXED_BYTES = 'RAW(%d)';
    protected const MOST_TEXT = 1000;
    protected const IN_KEYS = ['CLOB' => 'VARCHAR2(255 CHAR)', 'BLOB' => 'RAW(255)'];
    protected const NEVER_KEYS = '/^(?:XMLTYPE|SDO_GEOMETRY)$/';

    protected function length(): string
    {
        return 'LENGTH(%s)';
    }

    protected function plain(string $kind): Native
    {
        $native = parent::plain($kind);

        return match ($kind) {
            'yes or no' => $native->with('%s IN (0, 1)'),
            'JSON document' => $native->with('%s IS JSON'),
            'date' => $native->with('%s = TRUNC(%s)'),
            default => $native,
        };
    }

    protected function time(GeneralType $type): Native
    {
        return 'time of day' === $type->kind
            ? new Native('VARCHAR2(8 CHAR)', '', 'There is no time of day alone here: it stands as text.')
            : parent::time($type);
    }
}
