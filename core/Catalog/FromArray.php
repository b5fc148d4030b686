<?php

declare(strict_types=1);

namespace Fasti\Core\Catalog;

/** Reads back what CatalogArray wrote. Members that are missing or of another type fall back to "nothing known". */
final class FromArray
{
    /** @param array<mixed> $data */
    public static function column(array $data): Column
    {
        $generated = $data['generated'] ?? null;

        return new Column(
            self::text($data, 'name') ?? '',
            self::text($data, 'type') ?? '',
            true === ($data['nullable'] ?? true),
            self::text($data, 'default'),
            self::text($data, 'comment') ?? '',
            true === ($data['autoNumbered'] ?? false),
            \is_array($generated) ? new Generated(self::text($generated, 'expression') ?? '', true === ($generated['stored'] ?? false)) : null,
            self::text($data, 'onUpdate'),
            self::text($data, 'charset'),
            self::text($data, 'collation'),
            self::text($data, 'base'),
            \is_array($data['seen'] ?? null) ? self::seen($data['seen']) : null,
        );
    }

    /**
     * The whole catalog of a survey.
     *
     * @param array<mixed> $data
     */
    public static function catalog(array $data): Catalog
    {
        return new Catalog(
            self::text($data, 'engine') ?? '',
            self::text($data, 'server') ?? '',
            array_map(self::table(...), self::rows($data, 'tables')),
            array_map(static fn (array $routine): Routine => new Routine(self::text($routine, 'schema') ?? '', self::text($routine, 'name') ?? '', self::text($routine, 'kind') ?? '', self::text($routine, 'returns'), self::text($routine, 'body'), self::text($routine, 'comment') ?? ''), self::rows($data, 'routines')),
            self::names($data, 'notes'),
        );
    }

    /** @param array<mixed> $data */
    public static function table(array $data): Table
    {
        $primary = $data['primaryKey'] ?? null;

        return new Table(
            self::text($data, 'schema') ?? '',
            self::text($data, 'name') ?? '',
            TableType::tryFrom(self::text($data, 'kind') ?? '') ?? TableType::Table,
            self::text($data, 'comment') ?? '',
            array_map(self::column(...), self::rows($data, 'columns')),
            \is_array($primary) ? self::key($primary) : null,
            array_values(array_filter(array_map(self::key(...), self::rows($data, 'uniqueKeys')))),
            array_values(array_filter(array_map(self::foreignKey(...), self::rows($data, 'foreignKeys')))),
            array_map(self::index(...), self::rows($data, 'indexes')),
            array_map(static fn (array $check): CheckConstraint => new CheckConstraint(self::text($check, 'name') ?? '', self::text($check, 'expression') ?? '', self::text($check, 'column')), self::rows($data, 'checks')),
            array_map(static fn (array $trigger): Trigger => new Trigger(self::text($trigger, 'name') ?? '', self::text($trigger, 'timing') ?? '', self::text($trigger, 'event') ?? '', self::text($trigger, 'body') ?? ''), self::rows($data, 'triggers')),
            self::number($data, 'rowEstimate'),
            self::number($data, 'sizeBytes'),
            self::text($data, 'definition'),
            self::text($data, 'storage'),
            self::text($data, 'collation'),
            self::names($data, 'traits'),
            array_map(static fn (array $shape): DocumentShape => new DocumentShape(self::number($shape, 'count') ?? 0, self::names($shape, 'always'), self::names($shape, 'sometimes'), self::text($shape, 'example') ?? '', self::number($shape, 'first') ?? 0, self::number($shape, 'last') ?? 0), self::rows($data, 'shapes')),
        );
    }

    /** @param array<mixed> $data */
    public static function key(array $data): ?Key
    {
        $columns = self::names($data, 'columns');

        return [] === $columns ? null : new Key(self::text($data, 'name'), $columns);
    }

    /** @param array<mixed> $data */
    private static function foreignKey(array $data): ?ForeignKey
    {
        $far = \is_array($data['references'] ?? null) ? $data['references'] : [];
        [$columns, $farColumns] = [self::names($data, 'columns'), self::names($far, 'columns')];
        if ([] === $columns || [] === $farColumns || \count($columns) !== \count($farColumns)) {
            return null;
        }

        return new ForeignKey(
            self::text($data, 'name'),
            $columns,
            new Reference(self::text($far, 'schema') ?? '', self::text($far, 'table') ?? '', $farColumns),
            self::text($data, 'onDelete') ?? 'NO ACTION',
            self::text($data, 'onUpdate') ?? 'NO ACTION',
            self::text($data, 'reason') ?? '',
        );
    }

    /** @param array<mixed> $data */
    private static function index(array $data): Index
    {
        return new Index(
            self::text($data, 'name') ?? '',
            array_map(static fn (array $part): IndexPart => new IndexPart(self::text($part, 'column') ?? '', self::number($part, 'length'), true === ($part['descending'] ?? false)), self::rows($data, 'parts')),
            true === ($data['unique'] ?? false),
            self::text($data, 'method') ?? 'btree',
            self::text($data, 'comment') ?? '',
            self::text($data, 'where'),
        );
    }

    /** @param array<mixed> $data */
    private static function seen(array $data): Seen
    {
        return new Seen(self::number($data, 'present') ?? 0, self::number($data, 'of') ?? 0, self::counts($data, 'types'), self::counts($data, 'values'));
    }

    /**
     * @param array<mixed> $data
     *
     * @return array<string, int>
     */
    private static function counts(array $data, string $member): array
    {
        $counts = [];
        foreach (\is_array($data[$member] ?? null) ? $data[$member] : [] as $what => $count) {
            if (\is_int($count)) {
                $counts[(string) $what] = $count;
            }
        }

        return $counts;
    }

    /** @param array<mixed> $data */
    private static function text(array $data, string $member): ?string
    {
        $value = $data[$member] ?? null;

        return \is_string($value) ? $value : null;
    }

    /** @param array<mixed> $data */
    private static function number(array $data, string $member): ?int
    {
        $value = $data[$member] ?? null;

        return \is_int($value) ? $value : null;
    }

    /**
     * @param array<mixed> $data
     *
     * @return list<string>
     */
    private static function names(array $data, string $member): array
    {
        $value = $data[$member] ?? null;

        return \is_array($value) ? array_values(array_filter($value, is_string(...))) : [];
    }

    /**
     * @param array<mixed> $data
     *
     * @return list<array<mixed>>
     */
    private static function rows(array $data, string $member): array
    {
        $value = $data[$member] ?? null;

        return \is_array($value) ? array_values(array_filter($value, is_array(...))) : [];
    }
}
