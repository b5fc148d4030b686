<?php

declare(strict_types=1);

namespace Fasti\Core\Finding;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Wording\Amount;

/** What stands out in a catalog by its structure alone, the most consequential first. */
final class Standouts
{
    /** Types that few schemas need. Their presence is usually a trace of something older, or of a special case. */
    private const UNUSUAL = '/^(tinyblob|blob|mediumblob|longblob|set|bit|float|year|geometry|point|linestring|polygon|multi\w+|geometrycollection)\b/i';

    /** @return list<Finding> */
    public static function of(Catalog $catalog): array
    {
        $tables = array_values(array_filter($catalog->tables, static fn (Table $table): bool => TableType::Table === $table->kind));

        return array_values(array_filter([
            self::withoutKey($tables),
            self::unjoined($tables),
            ...self::sameNameOtherType($tables),
            self::unusualTypes($tables),
            self::reserved($catalog->tables),
            self::withoutComment($tables),
        ]));
    }

    /** @param list<Table> $tables */
    private static function withoutKey(array $tables): ?Finding
    {
        $found = array_values(array_filter($tables, static fn (Table $table): bool => null === $table->primaryKey));

        return self::about('no-primary-key', $found, '%s no primary key', 'Nothing says what makes a row unique, so the same row may stand twice.');
    }

    /** @param list<Table> $tables */
    private static function unjoined(array $tables): ?Finding
    {
        $joined = [];
        foreach ($tables as $table) {
            foreach ($table->foreignKeys as $key) {
                $joined[$table->place()->key()] = $joined[$key->references->place()->key()] = true;
            }
        }
        $found = array_values(array_filter($tables, static fn (Table $table): bool => !isset($joined[$table->place()->key()])));

        return self::about('unjoined', $found, '%s no declared join', 'No foreign key leads to it or from it, so how its rows find others is known only to people.');
    }

    /** @param list<Table> $tables */
    private static function withoutComment(array $tables): ?Finding
    {
        $found = array_values(array_filter($tables, static fn (Table $table): bool => '' === $table->comment));

        return self::about('no-comment', $found, '%s no comment in the database', 'Here the dictionary starts from nothing.');
    }

    /** @param list<Table> $tables */
    private static function reserved(array $tables): ?Finding
    {
        $found = array_values(array_filter($tables, static fn (Table $table): bool => ReservedWords::has($table->name)));

        return self::about('reserved-word', $found, '%s a reserved word as a name', 'Queries fail unless they quote it.');
    }

    /**
     * @param list<Table> $tables
     *
     * @return list<Finding>
     */
    private static function sameNameOtherType(array $tables): array
    {
        $uses = [];
        foreach ($tables as $table) {
            foreach ($table->columns as $column) {
                $uses[strtolower($column->name)][self::comparable($column->type)][] = ['schema' => $table->schema, 'table' => $table->name, 'column' => $column->name, 'type' => $column->type];
            }
        }
        $found = [];
        foreach ($uses as $name => $byType) {
            if (\count($byType) < 2) {
                continue;
            }
            uasort($byType, static fn (array $a, array $b): int => \count($b) <=> \count($a));
            // The most frequent type is taken as the usual one; the places that differ from it are what needs a look.
            $usual = array_shift($byType);
            $others = array_merge(...array_values($byType));
            $found[] = new Finding(
                'same-name-other-type',
                \sprintf('“%s” is %s in %s, but %s in %s', $name, $usual[0]['type'], Amount::of(\count($usual), 'table'), implode(' or ', array_unique(array_column($others, 'type'))), 1 === \count($others) ? $others[0]['table'] : Amount::of(\count($others), 'table')),
                'The same name with different types often hides two meanings, or breaks a join.',
                array_map(static fn (array $use): array => ['schema' => $use['schema'], 'table' => $use['table'], 'column' => $use['column']], $others),
            );
        }
        usort($found, static fn (Finding $a, Finding $b): int => \count($a->places) <=> \count($b->places));

        return \array_slice($found, 0, 12);
    }

    /** @param list<Table> $tables */
    private static function unusualTypes(array $tables): ?Finding
    {
        $places = $types = [];
        foreach ($tables as $table) {
            foreach ($table->columns as $column) {
                if (1 === preg_match(self::UNUSUAL, $column->type, $m)) {
                    $places[] = ['schema' => $table->schema, 'table' => $table->name, 'column' => $column->name];
                    $types[strtolower($m[1])] = true;
                }
            }
        }

        return [] === $places ? null : new Finding(
            'unusual-type',
            \sprintf('%s an unusual type (%s)', self::have(\count($places), 'field'), implode(', ', array_keys($types))),
            'Tools differ in how they read such types; say what the field holds.',
            $places,
        );
    }

    /** Lengths of texts, sizes and signs of whole numbers differ for good reasons and join well; a precision does not. */
    private static function comparable(string $type): string
    {
        return match (true) {
            1 === preg_match('/^(tiny|small|medium|big)?int/i', $type) => 'whole number',
            1 === preg_match('/^(var)?char|text/i', $type) => 'text',
            default => strtolower($type),
        };
    }

    /** @param list<Table> $tables */
    private static function about(string $check, array $tables, string $title, string $why): ?Finding
    {
        return [] === $tables ? null : new Finding(
            $check,
            \sprintf($title, self::have(\count($tables), 'table')),
            $why,
            array_map(static fn (Table $table): array => ['schema' => $table->schema, 'table' => $table->name, 'column' => null], $tables),
        );
    }

    private static function have(int $count, string $noun): string
    {
        return Amount::of($count, $noun).(1 === $count ? ' has' : ' have');
    }
}
