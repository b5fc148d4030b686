<?php

declare(strict_types=1);

namespace Fasti\Demo;

/** Makes the analytics database of the Arrowmere Rivers Trust, in SQLite or PostgreSQL. The same seed gives the same rows. */
final class Mart
{
    private const SEED = 20262;
    private const WATERS = ['Arrow', 'Mere', 'Sallow', 'Tinker', 'Withy', 'Rush'];
    private const SPECIES = [
        ['OTTER', 'River otter', 1], ['KINGF', 'Kingfisher', 1], ['DIPPR', 'Dipper', 0], ['TROUT', 'Brown trout', 0], ['EELXX', 'Eel', 1],
        ['CRAYF', 'Crayfish', 1], ['MINKX', 'Mink', 0], ['HERON', 'Heron', 0],
    ];
    private const PARAMETERS = [
        ['LEVEL', 'Water level', 'm', 0.4, 3.5], ['FLOW', 'Flow', 'm3/s', 0.1, 40], ['TEMP', 'Temperature', 'degC', 1, 22], ['PH', 'Acidity', 'pH', 6, 9],
        ['OXY', 'Oxygen', 'mg/l', 5, 14],
    ];
    private const DAYS = 730;

    public static function make(\PDO $database): void
    {
        mt_srand(self::SEED);
        $database->beginTransaction();
        foreach (preg_split(
            '/;\s*$/m',
            (string) preg_replace('/^--.*$/m', '', (string) file_get_contents(__DIR__.'/mart.sql')),
            -1,
            \PREG_SPLIT_NO_EMPTY,
        ) ?: [] as $statement) {
            if ('' !== trim($statement)) {
                $database->exec($statement);
            }
        }
        /** @param list<list<string|int|float|null>> $rows */
        $put = static function (string $table, array $rows) use ($database): void {
            foreach (array_chunk($rows, 400) as $chunk) {
                $database->exec("INSERT INTO $table VALUES ".implode(', ',
                    array_map(static fn (mixed $row): string => '('.implode(', ',
                        array_map(static fn (mixed $value): string => match (true) {
                            null === $value => 'NULL',
                            \is_string($value) => $database->quote($value),
                            \is_scalar($value) => (string) $value,
                            default => '',
                        }, (array) $row)).')', $chunk)));
            }
        };
        self::places($put);
        $days = self::days($put);
        self::facts($put);
        self::stock($put, $days);
        $database->exec(
            'INSERT INTO month_summary SELECT d.year, d.month, f.station_id, SUM(f.readings), 0 FROM reading_day f JOIN day d ON d.day_id = f.day_id GROUP '
                .'BY d.year, d.month, f.station_id',
        );
        $database->commit();
    }

    /** @param \Closure(string, list<list<string|int|float|null>>): void $put */
    private static function places(\Closure $put): void
    {
        $put('catchment', [[1, 'Arrow valley'], [2, 'Mere and Sallow'], [3, 'Upper Tinker']]);
        $reaches = $stations = [];
        for ($i = 1; $i <= 9; ++$i) {
            $reaches[] = [$i, self::WATERS[$i % 6].' '.['upper', 'middle', 'lower'][$i % 3], 1 + $i % 3];
        }
        for ($i = 1; $i <= 24; ++$i) {
            $water = self::WATERS[$i % 6];
            $stations[] = [
                $i, strtoupper(substr($water, 0, 3)).\sprintf('-%02d', $i), $water.' '.['bridge', 'weir', 'ford', 'mill'][$i % 4], 1 + $i % 9,
                0 === $i % 8 ? null : \sprintf('20%02d-%02d-01', 10 + $i % 12, 1 + $i % 12),
            ];
        }
        $put('reach', $reaches);
        $put('station', $stations);
    }

    /**
     * @param \Closure(string, list<list<string|int|float|null>>): void $put
     *
     * @return list<array{int, string, int, int, string}>
     */
    private static function days(\Closure $put): array
    {
        $days = [];
        for ($i = 1; $i <= self::DAYS; ++$i) {
            $at = (int) gmmktime(0, 0, 0, 10, $i, 2022);
            $days[] = [
                $i, gmdate('Y-m-d', $at), (int) gmdate('Y', $at), (int) gmdate('n', $at),
                ['winter', 'spring', 'summer', 'autumn'][intdiv((int) gmdate('n', $at) % 12, 3)],
            ];
        }
        $put('day', $days);

        return $days;
    }

    /** @param \Closure(string, list<list<string|int|float|null>>): void $put */
    private static function facts(\Closure $put): void
    {
        $put('parameter', array_map(static fn (int $i): array => [$i + 1, ...\array_slice(self::PARAMETERS[$i], 0, 3)], array_keys(self::PARAMETERS)));
        $put('species', array_map(static fn (int $i): array => [$i + 1, ...self::SPECIES[$i]], array_keys(self::SPECIES)));
        $facts = $sightings = [];
        for ($day = 1; $day <= self::DAYS; ++$day) {
            foreach (array_rand(array_flip(range(1, 24)), 8) as $station) {
                $parameter = mt_rand(1, 5);
                [, , , $low, $high] = self::PARAMETERS[$parameter - 1];
                $mean = $low + ($high - $low) * mt_rand(0, 1000) / 1000;
                $facts[] = [
                    $day, $station, $parameter, mt_rand(1, 96), round(0.9 * $mean, 2), 0 === mt_rand(0, 40) ? null : round($mean, 2), round(1.1 * $mean, 2),
                ];
            }
            for ($n = mt_rand(0, 3); $n > 0; --$n) {
                $sightings[] = [
                    \count($sightings) + 1, $day, 0 === mt_rand(0, 3) ? null : min(self::DAYS, $day + mt_rand(0, 20)), mt_rand(1, 24), mt_rand(1, 8),
                    mt_rand(1, 6),
                ];
            }
        }
        $put('reading_day', $facts);
        $put('sighting', $sightings);
    }

    /**
     * @param \Closure(string, list<list<string|int|float|null>>): void $put
     * @param list<array{int, string, int, int, string}>               $days
     */
    private static function stock(\Closure $put, array $days): void
    {
        // What lies in store at the end of each month, for each thing that is measured.
        $store = [];
        foreach ($days as $i => [$day, , , $month]) {
            foreach (isset($days[$i + 1]) && $days[$i + 1][3] === $month ? [] : range(1, 5) as $parameter) {
                $store[] = [$day, $parameter, 4 + $parameter + ($day * 7 + $parameter * 13) % 9];
            }
        }
        $put('instrument_stock', $store);
        // Eels stand in two groups: whoever joins the groups counts them twice.
        $groups = ['mammals', 'birds', 'birds', 'fish', 'fish', 'shellfish', 'mammals', 'birds'];
        $put('species_group', [...array_map(static fn (int $i): array => [$i + 1, $groups[$i]], array_keys($groups)), [5, 'migrants']]);
    }
}
