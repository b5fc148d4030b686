<?php

declare(strict_types=1);

namespace Fasti\Core\Dialect\Sqlite;

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
        $head = '/^CREATE TABLE ('.self::NAME.')\s*\(/';
        $element = '/\G\s*(?:CONSTRAINT\s+(?<label>'.self::NAME.')\s+)?(?:FOREIGN KEY\s*\((?<own>'.self::NAME.'(?:\s*,\s*'
            .self::NAME.')*)\)\s*REFERENCES\s+(?<far>'.self::NAME.')\s*\((?<there>'.self::NAME.'(?:\s*,\s*'
                .self::NAME.')*)\)(?:\s+ON DELETE (?<delete>CASCADE|RESTRICT|SET NULL))?|PRIMARY KEY\s*\((?<key>'.self::NAME.'(?:\s*,\s*'
                    .self::NAME.')*)\)|(?<name>(?!(?:'.self::NOT_NAMES.')\b)'.self::NAME.')\s+(?<type>(?!(?:'
                        .self::NOT_NAMES.')\b)[A-Za-z]\w*(?:\(\d+(?:,\s*\d+)?\))?)(?<required>\s+NOT NULL)?)\s*(?:,|\)$)/i';
        $plainIndex = '/^CREATE (UNIQUE )?INDEX ('.self::NAME.') ON '.self::NAME.'\s*\(('.self::NAME.'(?:\s*,\s*'.self::NAME.')*)\)$/i';
        if (1 !== preg_match($head, $sql, $m)) {
            return null;
        }
        $name = trim($m[1], '"');
        $at = \strlen($m[0]);
        $end = \strlen($sql);
        preg_match_all($element, $sql, $found, \PREG_SET_ORDER, $at);
        foreach ($found as $match) {
            $at += \strlen($match[0]);
        }
        if ($at !== $end) {
            return null;
        }
        $columns = $foreign = [];
        $primary = null;
        foreach ($found as $match) {
            if ('' !== ($match['name'] ?? '')) {
                $column = trim($match['name'], '"');
                $columns[$column] = [$column, $match['type'] ?? '', '' === ($match['required'] ?? '')];
            } elseif ('' !== ($match['key'] ?? '')) {
                $primary = new Key('' === ($match['label'] ?? '') ? null : trim($match['label'] ?? '', '"'), self::names($match['key']));
            } else {
                [$own, $there] = [self::names($match['own'] ?? ''), self::names($match['there'] ?? '')];
                if (\count($own) !== \count($there)) {
                    return null;
                }
                $foreign[] = new ForeignKey(
                    '' === ($match['label'] ?? '') ? null : trim($match['label'] ?? '', '"'),
                    $own,
                    new Reference('main', trim($match['far'] ?? '', '"'), $there),
                    strtoupper(($match['delete'] ?? '') ?: 'NO ACTION'),
                );
            }
        }
        // The engine takes letters in either case for the same; the name is the one that the column has.
        $lower = array_combine(array_map(strtolower(...), array_map(strval(...), array_keys($columns))), array_map(strval(...), array_keys($columns)));
        $known = static fn (string $column): string => $lower[strtolower($column)] ?? $column;
        $primary = null === $primary ? null : new Key($primary->name, array_map($known, $primary->columns));
        $made = [];
        foreach ($indexes as $index) {
            if (1 !== preg_match($plainIndex, $index, $m)) {
                return null;
            }
            $made[] = new Index(
                trim($m[2], '"'),
                array_map(static fn (string $column): IndexPart => new IndexPart($known($column)), self::names($m[3])),
                '' !== $m[1],
            );
        }
        $byName = static fn (ForeignKey|Index $a, ForeignKey|Index $b): int => strcmp($a->name ?? '', $b->name ?? '');
        usort($made, $byName);
        usort($foreign, $byName);
        $alias = null !== $primary && 1 === \count($primary->columns) && 'INTEGER' === strtoupper($columns[$primary->columns[0]][1] ?? '')
            ? $primary->columns[0] : null;

        return new Table(
            'main',
            $name,
            TableType::Table,
            '',
            array_map(
                static fn (array $c): Column => new Column($c[0], $c[1], $c[2] && $c[0] !== $alias, autoNumbered: $c[0] === $alias),
                array_values($columns),
            ),
            $primary,
            [],
            $foreign,
            $made,
        );
    }

    /** @return non-empty-list<string> */
    private static function names(string $list): array
    {
        preg_match_all('/'.self::NAME.'/', $list, $found);

        return array_map(static fn (string $name): string => trim($name, '"'), [] === $found[0] ? [$list] : $found[0]);
    }
}
