<?php

declare(strict_types=1);

namespace Fasti\Core\Engine\MariaDb;

use Fasti\Core\Dialect\GeneralType;
use Fasti\Core\Dialect\Native;
use Fasti\Core\Dialect\NativeTypes;

/** https://mariadb.com/kb/en/data-types/, written as the server's catalog writes them. */
class MariaDbTypes extends NativeTypes
{
    protected const PLAIN = [
        'long text' => 'longtext', 'approximate number' => 'double', 'yes or no' => 'tinyint(1)', 'date' => 'date', 'length of time' => 'time',
        'year' => 'year(4)', 'UUID' => 'uuid', 'JSON document' => 'longtext', 'XML document' => 'longtext', 'IP address' => 'inet6', 'bytes' => 'longblob',
        'point on a map' => 'point', 'line on a map' => 'linestring', 'area on a map' => 'polygon', 'shape on a map' => 'geometry',
    ];
    protected const TIMES = ['date and time' => 'datetime%s', 'instant' => 'timestamp%s', 'time of day' => 'time%s'];
    protected const NO_DECIMALS = '';
    protected const WHOLE = [8 => 'tinyint(4)', 16 => 'smallint(6)', 32 => 'int(11)', 64 => 'bigint(20)'];
    protected const UNSIGNED = [8 => 'tinyint(3) unsigned', 16 => 'smallint(5) unsigned', 32 => 'int(10) unsigned', 64 => 'bigint(20) unsigned'];
    protected const MOST_TEXT = 16383;
    protected const MOST_DIGITS = 65;
    protected const IN_KEYS = ['text' => 'varchar(255)', 'longtext' => 'varchar(255)', 'longblob' => 'varbinary(255)'];
    protected const NEVER_KEYS = '/^(?:point|linestring|polygon|geometry|json)$/';

    public function ownList(array $members, bool $several): string
    {
        $sql = $this->dialect->writing();

        return ($several ? 'set(' : 'enum(').implode(',', array_map($sql->literal(...), $members)).')';
    }

    /** @param list<string> $members */
    protected function anyOf(array $members): Native
    {
        return new Native($this->ownList($members, true));
    }

    protected function anyText(): string
    {
        return 'text';
    }

    protected function plain(string $kind): Native
    {
        $native = parent::plain($kind);

        return match ($kind) {
            'JSON document' => $native->with('json_valid(%s)'),
            'length of time' => $native->with('', 'A length of time goes up to 838 hours here.'),
            default => $native,
        };
    }

    protected function time(GeneralType $type): Native
    {
        $native = parent::time($type);

        return 'instant' === $type->kind ? $native->with('', 'Instants end in January 2038 here.') : $native;
    }

    protected function ofDigits(int $digits, int $decimals): Native
    {
        $native = parent::ofDigits($digits, $decimals);

        return $decimals > 38 ? $native->with('', 'A number has 38 decimals at most here.') : $native;
    }
}
