<?php

declare(strict_types=1);

namespace Fasti\Core\Profile;

/** The open form of a profile, as `fasti:profile --format=json` prints it and the register keeps it. */
final class ProfileArray
{
    /** @return array<string, mixed> */
    public static function of(TableProfile $profile): array
    {
        return [
            'rows' => $profile->rows,
            'looked' => $profile->looked,
            'how' => $profile->how,
            'grain' => $profile->grain,
            'repeated' => $profile->repeated,
            'repeats' => $profile->repeats,
            'notes' => $profile->notes,
            'seconds' => $profile->seconds,
            'fields' => array_map(static fn (FieldProfile $field): array => get_object_vars($field), $profile->fields),
        ];
    }

    /** @param array<mixed> $data */
    public static function read(array $data): TableProfile
    {
        $fields = [];
        foreach (\is_array($data['fields'] ?? null) ? $data['fields'] : [] as $name => $field) {
            if (\is_array($field)) {
                $fields[(string) $name] = self::field($field);
            }
        }
        $strings = static fn (mixed $list): array => \is_array($list) ? array_values(array_filter($list, is_string(...))) : [];
        $repeated = $data['repeated'] ?? null;

        return new TableProfile(
            self::int($data, 'rows'),
            self::int($data, 'looked'),
            self::text($data, 'how') ?? '',
            $fields,
            $strings($data['grain'] ?? null),
            \is_int($repeated) ? $repeated : null,
            $strings($data['notes'] ?? null),
            (float) self::int($data, 'seconds'),
            self::repeats($data['repeats'] ?? null),
        );
    }

    /** @return list<array{values: list<string>, rows: int}> */
    private static function repeats(mixed $kept): array
    {
        $repeats = [];
        foreach (\is_array($kept) ? $kept : [] as $one) {
            if (\is_array($one) && \is_array($one['values'] ?? null) && \is_int($one['rows'] ?? null)) {
                $repeats[] = ['values' => array_values(array_filter($one['values'], is_string(...))), 'rows' => $one['rows']];
            }
        }

        return $repeats;
    }

    /** @param array<mixed> $data */
    private static function field(array $data): FieldProfile
    {
        $maybe = static fn (string $key): ?int => \is_int($data[$key] ?? null) ? $data[$key] : null;
        $average = $data['average'] ?? null;
        $histogram = [];
        foreach (\is_array($data['histogram'] ?? null) ? $data['histogram'] : [] as $step) {
            if (\is_array($step)) {
                $histogram[] = ['from' => self::text($step, 'from') ?? '', 'to' => self::text($step, 'to') ?? '', 'count' => self::int($step, 'count')];
            }
        }

        return new FieldProfile(
            self::int($data, 'rows'),
            self::int($data, 'values'),
            self::int($data, 'blank'),
            $maybe('distinct'),
            self::text($data, 'least'),
            self::text($data, 'greatest'),
            $maybe('shortest'),
            $maybe('longest'),
            \is_int($average) || \is_float($average) ? (float) $average : null,
            self::counts($data, 'frequent'),
            self::int($data, 'frequentOf'),
            $histogram,
            self::counts($data, 'shapes'),
            self::text($data, 'likely') ?? '',
            self::int($data, 'percent'),
            self::text($data, 'personal') ?? '',
            self::int($data, 'beyond'),
            self::text($data, 'allowed') ?? '',
            $maybe('broken'),
            self::counts($data, 'breaking'),
            self::lists($data['lists'] ?? null),
        );
    }

    /** @return array{lists: int, empty: int, fewest: int, most: int, average: float}|null */
    private static function lists(mixed $kept): ?array
    {
        if (!\is_array($kept)) {
            return null;
        }
        $average = $kept['average'] ?? 0;

        return [
            'lists' => self::int($kept, 'lists'),
            'empty' => self::int($kept, 'empty'),
            'fewest' => self::int($kept, 'fewest'),
            'most' => self::int($kept, 'most'),
            'average' => is_numeric($average) ? (float) $average : 0.0,
        ];
    }

    /**
     * @param array<mixed> $data
     *
     * @return array<string, int>
     */
    private static function counts(array $data, string $key): array
    {
        $counts = [];
        foreach (\is_array($data[$key] ?? null) ? $data[$key] : [] as $what => $count) {
            if (\is_int($count)) {
                $counts[(string) $what] = $count;
            }
        }

        return $counts;
    }

    /** @param array<mixed> $data */
    private static function int(array $data, string $key): int
    {
        $value = $data[$key] ?? 0;

        return is_numeric($value) ? (int) $value : 0;
    }

    /** @param array<mixed> $data */
    private static function text(array $data, string $key): ?string
    {
        $value = $data[$key] ?? null;

        return \is_string($value) ? $value : null;
    }
}
