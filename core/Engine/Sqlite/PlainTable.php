<?php

declare(strict_types=1);

namespace Fasti\Core\Engine\Sqlite;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\ForeignKey;
use Fasti\Core\Catalog\Index;
use Fasti\Core\Catalog\IndexPart;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Catalog\Reference;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;

/**
 * A short cut through the plainest statements of SQLite, several times as fast as reading them word by word: columns with
 * a type and NOT NULL, a primary key, foreign keys, indexes over columns. Anything else is left to Script, which gives the
 * same for what both understand.
 */
final class PlainTable
{
    private const NAME = '(?:"[^"]+"|[A-Za-z_]\w*)';
    private const NOT_NAMES = 'CONSTRAINT|PRIMARY|UNIQUE|CHECK|FOREIGN|NOT|NULL|DEFAULT|REFERENCES|COLLATE|GENERATED|AS|ON';

    /** @param list<string> $indexes the statements of its indexes */
    public static function of(string $sql, array $indexes): ?Table
    {
        if (1 !== preg_match('/^CREATE TABLE ('.self::NAME.')\s*\(/', $sql, $m)) {
            return null;
        }
        $name = trim($m[1], '"');
        $found = self::elements($sql, \strlen($m[0]));
        $columns = $foreign = [];
        $primary = null;
        foreach ($found ?? [] as $match) {
            $label = '' === ($match['label'] ?? '') ? null : trim($match['label'], '"');
            if ('' !== ($match['name'] ?? '')) {
                $column = trim($match['name'], '"');
                $columns[$column] = [$column, $match['type'] ?? '', '' === ($match['required'] ?? '')];
            } elseif ('' !== ($match['key'] ?? '')) {
                $primary = new Key($label, self::names($match['key']));
            } else {
                $own = self::names($match['own'] ?? '');
                $there = self::names($match['there'] ?? '');
                if (\count($own) !== \count($there)) {
                    return null;
                }
                $to = new Reference('main', trim($match['far'] ?? '', '"'), $there);
                $foreign[] = new ForeignKey($label, $own, $to, strtoupper(($match['delete'] ?? '') ?: 'NO ACTION'));
            }
        }
        // The engine takes letters in either case for the same; the name is the one that the column has.
        $names = array_map(strval(...), array_keys($columns));
        $lower = array_combine(array_map(strtolower(...), $names), $names);
        $plain = null === $found ? null : self::indexes($indexes, $lower);
        if (null === $plain) {
            return null;
        }
        $primary = null === $primary ? null : new Key($primary->name, array_map(
            static fn (string $column): string => $lower[strtolower($column)] ?? $column,
            $primary->columns,
        ));
        usort($foreign, static fn (ForeignKey $a, ForeignKey $b): int => strcmp($a->name ?? '', $b->name ?? ''));
        $alias = null !== $primary && 1 === \count($primary->columns) && 'INTEGER' === strtoupper($columns[$primary->columns[0]][1] ?? '')
            ? $primary->columns[0] : null;
        $made = [];
        foreach ($columns as [$column, $type, $nullable]) {
            $made[] = new Column($column, $type, $nullable && $column !== $alias, autoNumbered: $column === $alias);
        }

        return new Table('main', $name, TableType::Table, '', $made, $primary, [], $foreign, $plain);
    }

    /** @return list<array<array-key, string>>|null the parts between its parentheses; null where not all of them are plain */
    private static function elements(string $sql, int $at): ?array
    {
        $names = self::NAME.'(?:\s*,\s*'.self::NAME.')*';
        $plain = '(?!(?:'.self::NOT_NAMES.')\b)';
        $element = '/\G\s*(?:CONSTRAINT\s+(?<label>'.self::NAME.')\s+)?(?:'
            .'FOREIGN KEY\s*\((?<own>'.$names.')\)\s*REFERENCES\s+(?<far>'.self::NAME.')\s*\((?<there>'.$names.')\)'
            .'(?:\s+ON DELETE (?<delete>CASCADE|RESTRICT|SET NULL))?'
            .'|PRIMARY KEY\s*\((?<key>'.$names.')\)'
            .'|(?<name>'.$plain.self::NAME.')\s+(?<type>'.$plain.'[A-Za-z]\w*(?:\(\d+(?:,\s*\d+)?\))?)(?<required>\s+NOT NULL)?'
            .')\s*(?:,|\)$)/i';
        preg_match_all($element, $sql, $found, \PREG_SET_ORDER, $at);
        foreach ($found as $match) {
            $at += \strlen($match[0]);
        }

        return $at === \strlen($sql) ? $found : null;
    }

    /**
     * @param list<string>          $statements
     * @param array<string, string> $names      of columns, by their small letters
     *
     * @return list<Index>|null null where not all of them are plain
     */
    private static function indexes(array $statements, array $names): ?array
    {
        $plain = '/^CREATE (UNIQUE )?INDEX ('.self::NAME.') ON '.self::NAME.'\s*\(('.self::NAME.'(?:\s*,\s*'.self::NAME.')*)\)$/i';
        $made = [];
        foreach ($statements as $statement) {
            if (1 !== preg_match($plain, $statement, $m)) {
                return null;
            }
            $parts = array_map(static fn (string $column): IndexPart => new IndexPart($names[strtolower($column)] ?? $column), self::names($m[3]));
            $made[] = new Index(trim($m[2], '"'), $parts, '' !== $m[1]);
        }
        usort($made, static fn (Index $a, Index $b): int => strcmp($a->name, $b->name));

        return $made;
    }

    /** @return non-empty-list<string> */
    private static function names(string $list): array
    {
        preg_match_all('/'.self::NAME.'/', $list, $found);

        return array_map(static fn (string $name): string => trim($name, '"'), [] === $found[0] ? [$list] : $found[0]);
    }
}
