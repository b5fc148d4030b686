<?php

declare(strict_types=1);

namespace Fasti\Core\Engine\PostgreSql;

use Fasti\Core\Dialect\GeneralType;
use Fasti\Core\Dialect\Native;
use Fasti\Core\Dialect\NativeTypes;

/** https://www.postgresql.org/docs/15/datatype.html, written as the server's catalog writes them. */
final class PostgreSqlTypes extends NativeTypes
{
    protected const PLAIN = [
        'long text' => 'text', 'approximate number' => 'double precision', 'yes or no' => 'boolean', 'date' => 'date', 'length of time' => 'interval',
        'year' => 'smallint', 'UUID' => 'uuid', 'JSON document' => 'jsonb', 'XML document' => 'xml', 'IP address' => 'inet', 'bytes' => 'bytea',
        'point on a map' => 'point', 'line on a map' => 'path', 'area on a map' => 'polygon', 'shape on a map' => 'polygon',
    ];
    protected const TIMES = [
        'date and time' => 'timestamp%s without time zone', 'instant' => 'timestamp%s with time zone', 'time of day' => 'time%s without time zone',
    ];
    protected const NO_DECIMALS = '';
    protected const TEXT = 'character varying(%d)';
    protected const FIXED = 'character(%d)';
    protected const NUMBER = 'numeric(%d,%d)';
    protected const ANY_NUMBER = 'numeric';
    protected const MOST_TEXT = 10485760;
    protected const MOST_DIGITS = 1000;
    protected const IN_KEYS = [];
    protected const NEVER_KEYS = '/^(?:xml|json|point|path|polygon)$/';

    protected function anyText(): string
    {
        return 'text';
    }

    /** A text in quotation marks gets the type of its column as a cast. */
    public function bare(string $default, string $type): string
    {
        $plain = preg_replace('/\(.*\)/', '', $type) ?? $type;

        return str_starts_with($default, "'") && str_ends_with($default, "'::".$plain) ? substr($default, 0, -\strlen('::'.$plain)) : $default;
    }

    public function native(GeneralType $type): Native
    {
        return match (true) {
            'bytes' === $type->kind && null !== $type->length => new Native('bytea', 'octet_length(%s) <= '.$type->length),
            'fixed bytes' === $type->kind => new Native('bytea', 'octet_length(%s) = '.$type->length),
            'year' === $type->kind => new Native('smallint', '%s BETWEEN 0 AND 9999'),
            default => parent::native($type),
        };
    }

    /** @param list<string> $members */
    protected function anyOf(array $members): Native
    {
        $sql = $this->dialect->writing();
        $said = array_map(static fn (string $member): string => str_replace('%', '%%', $sql->literal($member)), $members);

        return new Native('text[]', '%s <@ ARRAY['.implode(', ', $said).']::text[]');
    }
}
