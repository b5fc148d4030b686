<?php

declare(strict_types=1);

namespace Fasti\Core\Finding;

/** Words that SQL:2016 reserves and that turn up as names of tables and columns. */
final class ReservedWords
{
    private const WORDS = [
        'all', 'alter', 'and', 'any', 'array', 'as', 'between', 'both', 'by', 'call', 'case', 'cast', 'check', 'column', 'condition', 'constraint', 'create',
        'cross', 'cube', 'current', 'cursor', 'date', 'day', 'default', 'delete', 'desc', 'describe', 'distinct', 'drop', 'each', 'element', 'else', 'end',
        'exists', 'filter', 'for', 'foreign', 'from', 'function', 'grant', 'group', 'grouping', 'groups', 'having', 'hour', 'in', 'index', 'inner', 'insert',
        'interval', 'into', 'is', 'join', 'key', 'keys', 'language', 'leading', 'left', 'like', 'limit', 'local', 'match', 'member', 'method', 'minute',
        'module', 'month', 'natural', 'new', 'no', 'not', 'null', 'of', 'old', 'on', 'only', 'or', 'order', 'out', 'outer', 'over', 'parameter', 'partition',
        'precision', 'primary', 'procedure', 'range', 'rank', 'read', 'recursive', 'references', 'release', 'result', 'return', 'revoke', 'right', 'row',
        'rows',
        'scope', 'scroll', 'second', 'select', 'session_user', 'set', 'similar', 'some', 'start', 'static', 'table', 'then', 'time', 'timestamp', 'to',
        'trailing', 'trigger', 'true', 'union', 'unique', 'unknown', 'update', 'user', 'using', 'value', 'values', 'when', 'where', 'window', 'with', 'year',
    ];
    /** Reserved by the standard, yet usable unquoted in every engine that Fasti reads: naming a table so does no harm. */
    private const HARMLESS = [
        'method', 'parameter', 'day', 'hour', 'minute', 'month', 'second', 'year', 'date', 'time', 'timestamp', 'value', 'result', 'member', 'module',
        'language', 'element', 'local', 'start', 'session_user', 'scope', 'filter', 'unknown', 'no', 'any', 'some', 'array', 'old', 'new', 'module',
        'static', 'similar', 'scroll', 'cube', 'current', 'only',
    ];

    public static function has(string $name): bool
    {
        $name = strtolower($name);

        return \in_array($name, self::WORDS, true) && !\in_array($name, self::HARMLESS, true);
    }
}
