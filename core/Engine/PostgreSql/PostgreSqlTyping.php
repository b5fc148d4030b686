<?php

declare(strict_types=1);

namespace Fasti\Core\Engine\PostgreSql;

use Fasti\Core\Dialect\Typing;

/**
 * Types as PostgreSQL gives them: overloads are chosen and common types found as its documentation says (“Type Conversion”),
 * over the server's own lists of functions, operators and casts (see TypeCatalog).
 */
final class PostgreSqlTyping extends Typing
{
    private const CONDITIONS = '/^(?:AND|OR|NOT|(?:NOT )?(?:LIKE|ILIKE|IN|BETWEEN|SIMILAR|OVERLAPS)(?: ANY| ALL)?|IS .*|.+ (?:ANY|ALL))$/';
    private const OWN = [
        'current_date' => 'date', 'current_time' => 'timetz', 'current_timestamp' => 'timestamptz', 'localtime' => 'time', 'localtimestamp' => 'timestamp',
        'current_user' => 'name', 'current_role' => 'name', 'session_user' => 'name', 'user' => 'name', 'current_catalog' => 'name', 'current_schema' => 'name',
        'extract' => 'numeric', 'grouping' => 'int4', 'xmlelement' => 'xml', 'xmlforest' => 'xml', 'xmlconcat' => 'xml', 'xmlpi' => 'xml', 'xmlparse' => 'xml',
        'xmlroot' => 'xml', 'xmlexists' => 'bool', 'collation' => 'text', 'normalize' => 'text', 'xmlserialize' => 'text', 'overlaps' => 'bool',
    ];
    /** Functions that are written in words of their own, by the name under which the server keeps them. */
    private const KEPT_AS = ['trim' => 'btrim', 'char_length' => 'length', 'character_length' => 'length'];

    public readonly Overloads $overloads;
    /** @var array<string, ?string> what was chosen before, by name and types */
    private array $chosen = [];

    public function __construct()
    {
        $this->overloads = new Overloads(TypeCatalog::read(), $this);
    }

    public function isAggregate(string $name): bool
    {
        return 'a' === ($this->overloads->catalog->functions[$name][0][2][0] ?? '') || parent::isAggregate($name);
    }

    public function literal(string $kind, string $text): ?string
    {
        return match ($kind) {
            'number' => match (true) {
                1 === preg_match('/^\d+$/', $text) => match (true) {
                    \strlen($text) < 10 || (10 === \strlen($text) && $text <= '2147483647') => 'integer',
                    \strlen($text) < 19 || (19 === \strlen($text) && $text <= '9223372036854775807') => 'bigint',
                    default => 'numeric',
                },
                default => 'numeric',
            },
            'bool' => 'boolean',
            'text', 'null' => self::UNTYPED,
            'bits', 'bytes' => '"bit"',
            'national' => 'bpchar',
            'interval' => 'interval',
            default => null,
        };
    }

    public function operation(string $sign, array $types): ?string
    {
        if ($this->isCondition($sign, self::CONDITIONS)) {
            return 'boolean';
        }
        if ('COLLATE' === $sign) {
            return self::UNTYPED === $types[0] ? 'text' : $types[0];
        }
        if (str_starts_with($sign, 'INTERVAL')) {
            return strtolower($sign);
        }
        if ('AT TIME ZONE' === $sign) {
            return $this->call('timezone', [$types[1] ?? null, $types[0]]);
        }
        if (\in_array(null, $types, true)) {
            return 1 === preg_match('/^(?:=|<>|!=|<|>|<=|>=|~~?\*?|!~~?\*?|@>|<@|&&|\?[|&]?|@@)$/', $sign) && 2 === \count($types) ? 'boolean' : null;
        }
        if (2 === \count($types) && ['record', 'record'] === array_map($this->bare(...), $types)) {
            return 'boolean';
        }
        $key = $sign."\0".implode("\0", $types);
        if (!\array_key_exists($key, $this->chosen)) {
            $result = $this->overloads->operator('!=' === $sign ? '<>' : $sign, array_map($this->internal(...), $types));
            $this->chosen[$key] = null === $result ? null : $this->shown($result);
        }

        return $this->chosen[$key];
    }

    public function call(string $name, array $types, bool $window = false, array $literals = []): ?string
    {
        if (isset($literals[0]) && 1 === preg_match('/^(?:current|local)time(?:stamp)?$/', $name)) {
            return (string) preg_replace('/^(time(?:stamp)?)/', "$1($literals[0])", $this->shown(self::OWN[$name]));
        }
        if (isset(self::OWN[$name])) {
            return $this->shown(self::OWN[$name]);
        }
        if ('coalesce' === $name || 'greatest' === $name || 'least' === $name) {
            $common = $this->common($types);

            return self::UNTYPED === $common ? 'text' : $common;
        }
        if (\in_array(null, $types, true)) {
            return parent::call($name, $types, $window);
        }
        $key = $name."(\0".implode("\0", $types);
        if (!\array_key_exists($key, $this->chosen)) {
            $this->chosen[$key] = $this->called($name, $types);
        }

        return $this->chosen[$key];
    }

    /** @param list<string> $types */
    private function called(string $name, array $types): ?string
    {
        $internal = array_map($this->internal(...), $types);
        if ('nullif' === $name) {
            $compared = $this->overloads->chosenOperator('=', $internal);

            return match (true) {
                null === $compared => null,
                $compared[0] === $internal[0] || $this->isGeneric($compared[0]) => $types[0],
                default => $this->shown($compared[0]),
            };
        }
        $result = $this->overloads->call(self::KEPT_AS[$name] ?? $name, $internal);
        if (null === $result && 1 === \count($types) && isset($this->overloads->catalog->types[$name])) {
            // The name of a type, used like a function, is a cast.
            return $this->shown($name);
        }

        return null === $result ? null : $this->shown($result);
    }

    private function isGeneric(string $type): bool
    {
        return str_starts_with($type, 'any');
    }

    public function common(array $types): ?string
    {
        if ([] === $types) {
            return null;
        }
        if (1 === \count(array_unique($types))) {
            return $this->stored($types[0]);
        }
        $known = array_values(array_filter($types, static fn (?string $type): bool => self::UNTYPED !== $type));
        if (\in_array(null, $known, true)) {
            return null;
        }
        if (1 === \count(array_unique($known)) && \count($known) < \count($types)) {
            // A text beside it takes the type, but not its length.
            return $this->shown($this->based($this->internal((string) $known[0])));
        }
        $internal = array_map(fn (?string $type): string => $this->internal((string) $type), $types);
        if (1 === \count(array_unique($internal))) {
            return $this->shown($internal[0]);
        }
        $common = $this->overloads->common(array_map($this->based(...), $internal));

        return null === $common ? null : $this->shown($common);
    }

    public function stored(?string $type): ?string
    {
        return self::UNTYPED === $type ? 'text' : $type;
    }

    public function listOf(?string $type): ?string
    {
        return match (true) {
            null === $type => null,
            str_ends_with($type, '[]') => $type,
            default => $this->stored($type).'[]',
        };
    }

    public function elementOf(?string $type): ?string
    {
        $element = match ($type) {
            'int2vector' => 'smallint',
            'oidvector' => 'oid',
            'jsonb' => 'jsonb',
            'point', 'lseg', 'box' => 'double precision',
            'name' => '"char"',
            default => null,
        };

        return $element ?? parent::elementOf(null === $type ? null : $this->bases[$type] ?? $type);
    }

    public function rowOf(): string
    {
        return 'record';
    }

    public function ownFields(): array
    {
        return ['ctid' => 'tid', 'xmin' => 'xid', 'xmax' => 'xid', 'cmin' => 'cid', 'cmax' => 'cid', 'tableoid' => 'oid'];
    }

    public function produced(string $name, array $types): ?array
    {
        if (\in_array(null, $types, true)) {
            return parent::produced($name, $types) ?? (isset($this->overloads->catalog->functions[$name]) ? ['' => null] : null);
        }
        $chosen = $this->overloads->chosen($name, array_map($this->internal(...), $types));
        if (null === $chosen) {
            $type = $this->call($name, $types);

            return null === $type ? parent::produced($name, $types) : ['' => $type];
        }
        if ([] !== $chosen[5]) {
            return array_map(fn (string $type): string => $this->shown($type), $chosen[5]);
        }

        return ['' => $this->call($name, $types)];
    }

    public function callMayBeEmpty(string $name, array $arguments, bool $grouped, bool $window): ?bool
    {
        if (\in_array(
            $name,
            ['concat', 'concat_ws', 'num_nulls', 'num_nonnulls', 'jsonb_build_object', 'json_build_object', 'jsonb_build_array', 'json_build_array'],
            true,
        )) {
            return false;
        }
        if ('concat_ws' === $name) {
            return $arguments[0] ?? null;
        }

        return parent::callMayBeEmpty($name, $arguments, $grouped, $window);
    }

    public function nameOf(string $kind, ?string $name): string
    {
        return match ($kind) {
            'call', 'member', 'ref' => 'trim' === strtolower((string) $name) ? 'btrim' : (string) $name,
            'cast' => $this->lastWord($this->internal((string) $name)),
            'caseof' => 'case',
            'arrayof' => 'array',
            'rowof' => 'row',
            'exists' => 'exists',
            'values' => 'column'.$name,
            default => '?column?',
        };
    }

    private function lastWord(string $internal): string
    {
        $name = str_starts_with($internal, '_') ? substr($internal, 1) : $internal;
        $dot = strrpos($name, '.');

        return trim(false === $dot ? $name : substr($name, $dot + 1), '"');
    }

    /** The server's short name of a type as it is shown: `_int4` of `integer[]`. What is not its own keeps its name. */
    public function internal(string $type): string
    {
        return $this->overloads->catalog->internal($type);
    }

    /** What a domain stands for; an enumeration stays itself. */
    public function based(string $internal): string
    {
        $base = $this->bases[$internal] ?? null;

        return null === $base || str_starts_with($base, 'enum(') ? $internal : $this->based($this->internal($base));
    }

    public function isEnum(string $internal): bool
    {
        return str_starts_with($this->bases[$internal] ?? '', 'enum(');
    }

    /** A type as the server shows it. */
    public function shownType(string $internal): string
    {
        return $this->shown($internal);
    }

    private function shown(string $internal): string
    {
        return $this->overloads->catalog->shown($internal);
    }

    private function bare(string $type): string
    {
        return $this->internal($type);
    }
}
