<?php

declare(strict_types=1);

namespace Fasti\Demo;

/**
 * Makes the fieldwork database of the Arrowmere Rivers Trust, rows and flaws included. The same seed gives the same rows.
 */
final class Fieldwork
{
    private const SEED = 20261;
    /** A table that the second season drops. */
    public const ONLY_IN_FIRST_SEASON = 'tmp_import_0423';
    private const FIRST = [
        'Ada', 'Bran', 'Cleo', 'Dov', 'Elin', 'Farid', 'Greta', 'Hale', 'Ines', 'Joss', 'Kari', 'Lorn', 'Mina', 'Niall', 'Orla', 'Pell', 'Quill', 'Rhea',
        'Sten', 'Tamsin',
    ];
    private const LAST = [
        'Amberley', 'Brook', 'Calder', 'Dunmarsh', 'Eddery', 'Fenwright', 'Glede', 'Holloway', 'Inkpen', 'Jessop', 'Kestrelman', 'Lisk', 'Marlow', 'Nettle',
        'Osier', 'Pike',
    ];
    private const WATERS = ['Arrow', 'Mere', 'Sallow', 'Tinker', 'Withy', 'Rush', 'Otter', 'Black', 'Long', 'Heron', 'Stone', 'Alder'];

    /** @var array<string, list<list<string|int|float|null>>> */
    private array $waiting = [];
    /** @var array<string, int> */
    public array $counts = [];
    /** @var array<int, int> when each began */
    private array $visits = [];

    public function __construct(private readonly \PDO $server, private readonly string $fieldwork = 'fieldwork', private readonly string $archive = 'archive')
    {
    }

    /**
     * What makes an account that may read both schemas and nothing else, for whoever may make accounts on the server.
     *
     * @return list<string> statements
     */
    public function accountSql(string $account, #[\SensitiveParameter] string $secret): array
    {
        $statements = [];
        $quoted = static fn (string $text): string => "'".str_replace(['\\', "'"], ['\\\\', "''"], $text)."'";
        foreach (['localhost', '127.0.0.1'] as $host) {
            $name = $quoted($account).'@'.$quoted($host);
            $statements[] = \sprintf('CREATE OR REPLACE USER %s IDENTIFIED BY %s', $name, $quoted($secret));
            foreach ([$this->fieldwork, $this->archive] as $schema) {
                // The name of a function is seen only by those who may call it.
                $statements[] = \sprintf('GRANT SELECT, SHOW VIEW, TRIGGER, EXECUTE ON `%s`.* TO %s', $schema, $name);
            }
        }

        return $statements;
    }

    /** Drops both schemas and makes them anew with all rows. */
    public function make(): void
    {
        mt_srand(self::SEED);
        foreach ([$this->fieldwork, $this->archive] as $schema) {
            $this->server->exec("DROP DATABASE IF EXISTS `$schema`");
            $this->server->exec("CREATE DATABASE `$schema` CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci");
        }
        $this->run('fieldwork.sql');
        $this->server->exec('SET SESSION foreign_key_checks = 0, SESSION unique_checks = 0, SESSION autocommit = 0');
        $this->places();
        $this->people();
        $this->readings();
        $this->laboratory();
        $this->riverLife();
        $this->alerts();
        foreach (array_keys($this->waiting) as $table) {
            $this->flush($table);
        }
        $this->server->exec('COMMIT');
        $this->server->exec('SET SESSION foreign_key_checks = 1, SESSION unique_checks = 1, SESSION autocommit = 1');
        $this->run('fieldwork-triggers.sql');
        foreach (array_keys($this->counts) as $table) {
            $this->server->prepare("ANALYZE TABLE $table")->execute();
        }
    }

    /** Whether it stands in its first season, with which what is written of it agrees. */
    public function isFirst(): bool
    {
        $looked = $this->server->prepare('SELECT COUNT(*) FROM information_schema.COLUMNS WHERE TABLE_SCHEMA = ? AND TABLE_NAME = ? AND COLUMN_NAME = ?');
        $looked->execute([$this->fieldwork, 'station', 'opened_on']);

        return 1 === (int) $looked->fetchColumn();
    }

    /** Turns the first state into the second, one season later. */
    public function advance(): void
    {
        $this->run('fieldwork-second.sql');
    }

    private function run(string $file): void
    {
        $sql = str_replace(['{fieldwork}', '{archive}'], [$this->fieldwork, $this->archive], (string) file_get_contents(__DIR__.'/'.$file));
        $this->server->exec("USE `$this->fieldwork`");
        foreach (preg_split('/;\s*$/m', preg_replace('/^--.*$/m', '', $sql) ?? '', -1, \PREG_SPLIT_NO_EMPTY) ?: [] as $statement) {
            if ('' !== trim($statement)) {
                $this->server->exec($statement);
            }
        }
    }

    /** @param list<string|int|float|null> $row */
    private function put(string $table, array $row, bool $archived = false): void
    {
        $name = '`'.($archived ? $this->archive : $this->fieldwork).'`.'.$table;
        $this->waiting[$name][] = $row;
        if (\count($this->waiting[$name]) >= 2000) {
            $this->flush($name);
        }
    }

    private function flush(string $name): void
    {
        $rows = $this->waiting[$name] ?? [];
        if ([] === $rows) {
            return;
        }
        $values = [];
        foreach ($rows as $row) {
            $values[] = '('.implode(',', array_map(fn (string|int|float|null $value): string => match (true) {
                null === $value => 'NULL',
                \is_string($value) => $this->server->quote($value),
                default => (string) $value,
            }, $row)).')';
        }
        $columns = [
            'station' => '(id, code, reach_id, name, status, opened_on, closed_on, easting, northing, datum)',
            'barrier' => '(id, reach_id, name, kind, height_cm, passable)',
        ][substr($name, (int) strrpos($name, '.') + 1)] ?? '';
        $this->server->exec("INSERT INTO $name $columns VALUES ".implode(',', $values));
        $this->counts[$name] = ($this->counts[$name] ?? 0) + \count($rows);
        $this->waiting[$name] = [];
    }

    private function date(int $fromDays, int $toDays): string
    {
        return gmdate('Y-m-d', 1_640_995_200 + 86400 * mt_rand($fromDays, $toDays));
    }

    private function name(): string
    {
        return self::FIRST[array_rand(self::FIRST)].' '.self::LAST[array_rand(self::LAST)];
    }

    private function phone(): string
    {
        return \sprintf('0%d %d', mt_rand(500, 599), mt_rand(100000, 999999));
    }

    private function places(): void
    {
        for ($i = 1; $i <= 6; ++$i) {
            $this->put('catchment', [$i, self::WATERS[$i - 1].' basin', mt_rand(8000, 90000) / 100]);
        }
        for ($i = 1; $i <= 60; ++$i) {
            $this->put(
                'reach',
                [
                    $i, 1 + intdiv($i - 1, 10), 1 === $i % 10 ? null : $i - 1, self::WATERS[$i % 12].' '.['Upper', 'Middle', 'Lower'][$i % 3].' '.$i,
                    mt_rand(400, 9000),
                ],
            );
        }
        for ($i = 1; $i <= 48; ++$i) {
            $closed = 0 === $i % 11 ? '2025-09-30' : null;
            $this->put(
                'station',
                [
                    $i,
                    \sprintf('%s%03d', strtoupper(substr(self::WATERS[$i % 12], 0, 3)), $i),
                    1 + ($i * 7) % 60,
                    self::WATERS[$i % 12].' '.['bridge', 'weir', 'ford', 'mill'][$i % 4],
                    match (true) {
                        null !== $closed => 'closed',
                        47 === $i => 'paused',
                        default => 'open',
                    },
                    $this->date(0, 300),
                    $closed,
                    mt_rand(10000, 99999),
                    mt_rand(10000, 99999),
                    'local',
                ],
            );
        }
        $this->kinds();
        $this->instruments();
    }

    private function kinds(): void
    {
        foreach ([
            ['m', 'metre'], ['m3/s', 'cubic metre per second'], ['°C', 'degree Celsius'], ['mg/l', 'milligram per litre'],
            ['µS/cm', 'microsiemens per centimetre'], ['NTU', 'turbidity unit'], ['1', 'plain number'],
        ] as $i => [$symbol, $name]) {
            $this->put('unit', [$i + 1, $symbol, $name]);
        }
        foreach ([
            ['LEVEL', 1, 'Water level'], ['FLOW', 2, 'Flow'], ['TEMP', 3, 'Water temperature'], ['DO', 4, 'Dissolved oxygen'], ['COND', 5, 'Conductivity'],
            ['TURB', 6, 'Turbidity'], ['PH', 7, 'Acidity'], ['NO3', 4, 'Nitrate'],
        ] as [$code, $unit, $name]) {
            $this->put('parameter', [$code, $unit, $name]);
        }
        foreach (['G' => 'good', 'S' => 'suspect', 'B' => 'bad', 'M' => 'missing'] as $code => $label) {
            $this->put('quality_flag', [$code, $label]);
        }
        foreach ([
            ['Fennel & Pike', 'LevelSense 2'],
            ['Fennel & Pike', 'Clarity 9'],
            ['Oxbow Works', 'Q-Probe'],
            ['Oxbow Works', 'Thermo S'],
        ] as $i => [$maker, $model]) {
            $this->put('instrument_model', [$i + 1, $maker, $model, null]);
        }
    }

    private function instruments(): void
    {
        for ($i = 1; $i <= 120; ++$i) {
            $this->put('instrument', [$i, 1 + $i % 4, \sprintf('%s-%05d', ['FP', 'OX'][$i % 2], mt_rand(10000, 99999) + $i), $this->date(0, 240)]);
            $this->put('deployment', [$i, $i, 1 + $i % 48, $this->date(250, 500), 0 === $i % 5 ? $this->date(900, 1090) : null]);
            $this->put('calibration', [null, $i, 0 === $i % 4 ? null : mt_rand(1, 90), $this->date(500, 1500), mt_rand(-50, 50) / 1000]);
            $this->put('calibration', [null, $i, mt_rand(1, 90), $this->date(500, 1500), null]);
        }
    }

    private function people(): void
    {
        for ($i = 1; $i <= 9; ++$i) {
            $this->put('team', [$i, self::WATERS[$i].' team']);
        }
        for ($i = 1; $i <= 180; ++$i) {
            $name = $this->name();
            $this->put(
                'person',
                [
                    $i, 0 === $i % 6 ? null : mt_rand(1, 9), $name, $this->phone(),
                    0 === $i % 9 ? null : strtolower(str_replace(' ', '.', $name)).$i.'@arrowmere.example', mt_rand(1, 99).' '.self::WATERS[$i % 12].' Lane',
                    null, $this->date(0, 1600),
                ],
            );
        }
        for ($i = 1; $i <= 40; ++$i) {
            $this->put('landowner', [1000 + $i, $this->name(), $this->phone(), mt_rand(1, 30).' Farm Road', ['ARW', 'ARW', 'MER', 'SAL'][$i % 4]]);
            $this->put('access_permit', [null, 1000 + $i, 1 + $i % 48, \sprintf('%02d/%02d/%d', mt_rand(1, 28), mt_rand(1, 12), mt_rand(2025, 2028))]);
        }
        for ($i = 1; $i <= 1800; ++$i) {
            // A closed station is not visited any more.
            $start = 1_672_531_200 + mt_rand(0, 0 === (1 + $i % 48) % 11 ? 1000 : 1400) * 86400 + mt_rand(7, 16) * 3600;
            $this->visits[$i] = $start;
            // Nobody has ever left the team out, although the column allows it.
            $this->put(
                'visit',
                [
                    $i, 1 + $i % 48, mt_rand(1, 9), gmdate('Y-m-d H:i:s', $start), gmdate('Y-m-d H:i:s', $start + mt_rand(20, 240) * 60),
                    [null, 'dry', 'rain', 'dry,wind'][$i % 4], 0 === $i % 7 ? 'Reeds cut back around the sensor.' : null,
                ],
            );
            for ($j = 0; $j < 2; ++$j) {
                $person = 0 === $i % 90 ? 7 : mt_rand(1, 180);
                $this->put('visit_member', [null, $i, $person]);
            }
        }
    }

    private function readings(): void
    {
        $hour = 1_735_689_600;
        $id = 0;
        for ($step = 0; $step < 822; ++$step) {
            $at = gmdate('Y-m-d H:i:s', $hour + $step * 3600 * 6);
            for ($station = 1; $station <= 48; ++$station) {
                foreach (['LEVEL', 'TEMP', 'COND'] as $k => $parameter) {
                    $value = match ($parameter) {
                        'LEVEL' => 80 + 40 * sin($step / 40 + $station) + mt_rand(0, 200) / 100,
                        'TEMP' => 11 + 7 * sin($step / 200) + mt_rand(-100, 100) / 100,
                        // Conductivity in estuary stations runs past what the column can hold.
                        default => min(9999.99, 300 + $station * 12 + (47 === $station ? 9700 : 0) + mt_rand(0, 9000) / 100),
                    };
                    $flag = mt_rand(0, 99);
                    $this->put('reading', [
                        ++$id, $station, $parameter,
                        match (true) {
                            mt_rand(0, 99) < 39 => null,
                            0 === mt_rand(0, 6999) => 900 + $station,
                            default => self::deployment($station, $k),
                        },
                        $at, 0 === $flag ? null : round($value, 2), match (true) {
                            $flag < 90 => 'G',
                            $flag < 95 => 'S',
                            $flag < 98 => 'B',
                            $flag < 99 => 'M',
                            default => null,
                        },
                    ]);
                }
            }
        }
        foreach ([2023, 2024] as $year) {
            for ($step = 0; $step < 120; ++$step) {
                for ($station = 1; $station <= 40; ++$station) {
                    foreach (['LEVEL', 'TEMP'] as $parameter) {
                        $this->put(
                            'reading_'.$year,
                            [
                                $station,
                                $parameter,
                                gmdate('Y-m-d H:i:s', gmmktime(0, 0, 0, 1, 1, $year) + $step * 3 * 86400),
                                mt_rand(100, 9000) / 100,
                                ['G', 'G', 'G', 'S', 'B', 'M', 'G'][mt_rand(0, 6)],
                            ],
                            true,
                        );
                    }
                }
            }
        }
    }

    /** One of the deployments at a station that had not ended when the readings begin. */
    private static function deployment(int $station, int $turn): int
    {
        $there = array_values(array_filter(
            [$station - 1, $station + 47, $station + 95],
            static fn (int $id): bool => $id >= 1 && $id <= 120 && 0 !== $id % 5,
        ));

        return $there[$turn % max(1, \count($there))] ?? $station + 47;
    }

    private function laboratory(): void
    {
        foreach (['ALB', 'BRK', 'CAL'] as $i => $lab) {
            $this->put('lab', [$lab, self::WATERS[$i].' Laboratory', '2027-0'.($i + 3).'-30']);
            foreach (['NO3', 'PH', 'DO', 'TURB'] as $k => $parameter) {
                $this->put('method', [$lab, 'M'.($k + 1), $parameter, mt_rand(1, 900) / 1000]);
            }
        }
        for ($i = 1; $i <= 2400; ++$i) {
            $station = 1 + $i % 48;
            // Taken on a visit to the same station, while it lasted.
            $visit = $i > 1800 ? $i - 624 : $i;
            $taken = $this->visits[$visit] + 60 * mt_rand(2, 18);
            $this->put(
                'sample',
                [
                    $i,
                    0 === $i % 10 ? null : $visit,
                    \sprintf('%s%03d', strtoupper(substr(self::WATERS[$station % 12], 0, 3)), $station),
                    \sprintf('B%06d', $i * 3),
                    gmdate('Y-m-d H:i:s', $taken),
                    0 === $i % 3 ? null : mt_rand(10, 200),
                ],
            );
            for ($k = 1; $k <= 3; ++$k) {
                $this->put(
                    'lab_result',
                    [
                        $i,
                        ['ALB', 'BRK', 'CAL'][$i % 3],
                        'M'.$k,
                        0 === mt_rand(0, 20) ? null : mt_rand(1, 90000) / 1000,
                        mt_rand(0, 9) > 8 ? 1 : 0,
                        gmdate('Y-m-d', $taken + 86400 * mt_rand(3, 20)),
                    ],
                );
            }
        }
    }

    private function riverLife(): void
    {
        foreach ([
            ['TROUT', 'Brown trout', 'Salmo fictus', 0], ['OTTER', 'River otter', 'Lutra ficta', 1], ['KINGF', 'Kingfisher', 'Alcedo ficta', 1],
            ['CRAYF', 'White-clawed crayfish', 'Astacus fictus', 1], ['EELXX', 'Eel', 'Anguilla ficta', 1], ['MAYFL', 'Mayfly', 'Ephemera ficta', 0],
        ] as $row) {
            $this->put('species', $row);
        }
        $codes = ['TROUT', 'OTTER', 'KINGF', 'CRAYF', 'EELXX', 'MAYFL'];
        for ($i = 1; $i <= 6000; ++$i) {
            $this->put(
                'sighting',
                [
                    $i, $codes[mt_rand(0, 5)], mt_rand(1, 60), 0 === $i % 12 ? null : mt_rand(1, 180), $this->date(400, 1600),
                    0 === $i % 3 ? null : $this->date(1600, 1700), mt_rand(1, 12),
                ],
            );
        }
        for ($i = 1; $i <= 90; ++$i) {
            $this->put(
                'barrier',
                [
                    $i, mt_rand(1, 60), self::WATERS[$i % 12].' '.['weir', 'sluice', 'culvert', 'dam'][$i % 4].' '.$i,
                    ['weir', 'sluice', 'culvert', 'dam'][$i % 4], mt_rand(20, 420), $i % 2,
                ],
            );
            for ($k = 0; $k < 3; ++$k) {
                // Meant to be one row a barrier and day, yet some days were entered twice.
                $this->put('barrier_survey', [null, $i, 0 === $i % 15 ? '2025-06-01' : $this->date(700 + $k * 200, 800 + $k * 200), mt_rand(0, 100)]);
            }
        }
        for ($i = 1; $i <= 260; ++$i) {
            $this->put(
                'incident',
                [
                    null, 0 === $i % 8 ? null : 1 + $i % 48, gmdate('Y-m-d H:i:s', 1_704_067_200 + $i * 90000), $this->phone(),
                    ['Foam below the outfall', 'Dead fish seen', 'Oil on the water', 'Gauge board damaged'][$i % 4], 1 + $i % 5,
                ],
            );
        }
    }

    private function alerts(): void
    {
        for ($i = 1; $i <= 24; ++$i) {
            $this->put('alert_rule', [$i, ['LEVEL', 'TEMP', 'COND', 'DO'][$i % 4], 0 === $i % 3 ? null : 1 + $i % 48, mt_rand(50, 9000) / 10, null]);
        }
        for ($i = 1; $i <= 1500; ++$i) {
            $kind = 0 === $i % 4 ? 'barrier' : 'station';
            // A rule for one site watches that site only; the others watch everything, and barriers too.
            $rule = 'barrier' === $kind ? 3 * mt_rand(1, 8) : mt_rand(1, 24);
            $subject = match (true) {
                'barrier' === $kind => mt_rand(1, 90),
                0 === $rule % 3 => mt_rand(1, 48),
                default => 1 + $rule % 48,
            };
            $this->put(
                'alert',
                [
                    $rule,
                    $kind,
                    $subject,
                    gmdate('Y-m-d H:i:s', 1_735_689_600 + $i * 9000),
                    0 === $i % 20 ? null : gmdate('Y-m-d H:i:s', 1_735_689_600 + $i * 9000 + 7200),
                ],
            );
        }
        for ($i = 1; $i <= 35; ++$i) {
            $this->put('`order`', [5000 + $i, ['Sensor cable', 'Sample bottles', 'Waders'][$i % 3], $this->date(1000, 1600), mt_rand(1000, 90000) / 100]);
        }
        for ($i = 1; $i <= 60; ++$i) {
            $this->put('tmp_import_0423', [$i, 'LEVEL;'.$i.';'.mt_rand(50, 150)]);
        }
    }
}
