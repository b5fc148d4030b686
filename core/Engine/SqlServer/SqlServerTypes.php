<?php

declare(strict_types=1);

namespace Fasti\Core\Engine\SqlServer;

use Fasti\Core\Dialect\GeneralType;
use Fasti\Core\Dialect\Native;
use Fasti\Core\Dialect\NativeTypes;

/** Types of SQL Server, Transact-SQL reference, "Data types". */
final class SqlServerTypes extends NativeTypes
{
    protected const PLAIN = [
        'long text' => 'nvarchar(max)', 'approximate number' => 'float', 'yes or no' => 'bit', 'date' => 'date', 'length of time' => 'bigint',
        'year' => 'smallint', 'UUID' => 'uniqueidentifier', 'JSON document' => 'nvarchar(max)', 'XML document' => 'xml', 'IP address' => 'varchar(45)',
        'bytes' => 'varbinary(max)', 'point on a map' => 'geography', 'line on a map' => 'geography', 'area on a map' => 'geography',
        'shape on a map' => 'geography',
    ];
    protected const TIMES = ['date and time' => 'datetime2%s', 'instant' => 'datetimeoffset%s', 'time of day' => 'time%s'];
    protected const WHOLE = [16 => 'smallint', 32 => 'int', 64 => 'bigint'];
    protected const UNSIGNED = [8 => 'tinyint'];
    protected const TEXT = 'nvarchar(%d)';
    protected const FIXED = 'nchar(%d)';
    protected const MOST_TEXT = 4000;
    protected const IN_KEYS = ['nvarchar(max)' => 'nvarchar(450)', 'varbinary(max)' => 'varbinary(450)'];
    protected const NEVER_KEYS = '/^(?:xml|geography)$/';

    protected function length(): string
    {
        return 'LEN(%s)';
    }

    protected function plain(string $kind): Native
    {
        $native = parent::plain($kind);

        return match ($kind) {
            'JSON document' => $native->with('ISJSON(%s) = 1'),
            'length of time' => $native->with('', 'There is no length of time here: it stands as a number of seconds.'),
            default => $native,
        };
    }

    protected function whole(GeneralType $type): Native
    {
        return 8 === $type->length && '0' === $type->from && null === $type->to ? new Native('tinyint') : parent::whole($type);
    }
}
