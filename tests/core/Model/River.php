<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Model;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\ForeignKey;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Catalog\Place;
use Fasti\Core\Catalog\Reference;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Join\End;
use Fasti\Core\Model\Additivity;
use Fasti\Core\Model\Aggregate\Average;
use Fasti\Core\Model\Aggregate\Count;
use Fasti\Core\Model\Aggregate\Distinct;
use Fasti\Core\Model\Aggregate\Median;
use Fasti\Core\Model\Aggregate\Ratio;
use Fasti\Core\Model\Aggregate\Sum;
use Fasti\Core\Model\Attribute;
use Fasti\Core\Model\Ground;
use Fasti\Core\Model\Instead;
use Fasti\Core\Model\Level;
use Fasti\Core\Model\Measure;
use Fasti\Core\Model\Model;
use Fasti\Core\Model\ModelJoin;
use Fasti\Core\Model\Planner;
use Fasti\Core\Model\Role;
use Fasti\Core\Model\RoleKind;
use Fasti\Core\Survey\Rows;

/** A small model over small tables: sightings and readings, with stations in reaches, days in two roles, a group that nothing keeps unique. */
final class River
{
    private const TABLES = [
        'reach' => ['reach_id integer', 'reach_name varchar(20)', 'into_id integer'],
        'station' => ['station_id integer', 'station_name varchar(20)', 'reach_id integer'],
        'day' => ['day_id integer', 'day_date date', 'year integer', 'month integer'],
        'species' => ['species_id integer', 'name varchar(20)', 'kind varchar(20)'],
        'species_group' => ['species_id integer', 'group_name varchar(20)'],
        'sighting' => [
            'id integer',
            'seen_id integer',
            'confirmed_id integer',
            'station_id integer',
            'species_id integer',
            'individuals integer',
            'weight_g integer',
            'note varchar(40)',
        ],
        'reading' => ['id integer', 'day_id integer', 'station_id integer', 'value numeric(8,2)', 'in_stock integer'],
    ];

    /** @param array<string, int> $rows estimates by table */
    public static function catalog(string $engine = 'sqlite', array $rows = []): Catalog
    {
        $tables = [];
        foreach (self::TABLES as $name => $columns) {
            $key = 'species_group' === $name ? null : explode(' ', $columns[0])[0];
            $tables[] = new Table('', $name, TableType::Table, '', array_map(static function (string $column) use ($key): Column {
                [$field, $type] = explode(' ', $column);

                return new Column($field, $type, $field !== $key);
            }, $columns), null === $key ? null : new Key(null, [$key]), foreignKeys: 'reach' === $name
                ? [new ForeignKey(null, ['into_id'], new Reference('', 'reach', ['reach_id']))] : [], rowEstimate: $rows[$name] ?? null);
        }

        return new Catalog($engine, '', $tables);
    }

    public static function model(): Model
    {
        $dimension = static fn (string $name, string $table, string $key, array $attributes, string $like = '', string $label = ''): Role => new Role(
            $name, RoleKind::Dimension, new Place('', $table), $like, '', '', [$key], $label,
            self::attributes($attributes),
        );
        $fact = static fn (string $name): Role => new Role(
            $name,
            RoleKind::Fact,
            new Place('', $name),
            '',
            '',
            'one row each',
            ['id'],
            '',
            [new Attribute('number', 'id')],
        );

        return new Model('River', '', [
            $fact('sighting'), $fact('reading'),
            $dimension('day', 'day', 'day_id', ['date' => 'day_date', 'year' => 'year', 'month' => 'month'], '', 'date'),
            $dimension('day confirmed', 'day', 'day_id', [], 'day'),
            $dimension('station', 'station', 'station_id', ['station' => 'station_name'], '', 'station'),
            $dimension('reach', 'reach', 'reach_id', ['reach' => 'reach_name'], '', 'reach'),
            $dimension('species', 'species', 'species_id', ['species' => 'name', 'kind' => 'kind'], '', 'species'),
            $dimension('group', 'species_group', 'species_id', ['group name' => 'group_name']),
        ], [
            new ModelJoin('sighting', 'day', ['seen_id'], ['day_id'], toEnd: End::One),
            new ModelJoin('sighting', 'day confirmed', ['confirmed_id'], ['day_id']),
            new ModelJoin('sighting', 'station', ['station_id'], ['station_id']),
            new ModelJoin('sighting', 'species', ['species_id'], ['species_id']),
            new ModelJoin('reading', 'day', ['day_id'], ['day_id']),
            new ModelJoin('reading', 'station', ['station_id'], ['station_id']),
            new ModelJoin('station', 'reach', ['reach_id'], ['reach_id']),
            new ModelJoin('species', 'group', ['species_id'], ['species_id'], End::One, End::One),
        ], [
            new Measure('individuals', new Sum(), 'sighting', 'individuals', meaning: 'how many'),
            new Measure('sightings', new Count(), 'sighting', meaning: 'how often'),
            new Measure('species seen', new Distinct(), 'sighting', 'species_id', meaning: 'how many kinds', adds: Additivity::NonAdditive),
            new Measure('per sighting', new Ratio(), of: 'individuals', by: 'sightings', meaning: 'how many each time'),
            new Measure('mean value', new Average(), 'reading', 'value', meaning: 'the mean', unit: '°C'),
            new Measure('middle value', new Median(), 'reading', 'value', meaning: 'the middle'),
            new Measure(
                'stock', new Sum(), 'reading', 'in_stock', meaning: 'what lies there', adds: Additivity::SemiAdditive, notOver: ['day'],
                instant: new Level('day', 'date'),
                instead: Instead::Last, reason: 'it is a stock',
            ),
        ]);
    }

    /**
     * @param array<mixed> $attributes name → expression
     *
     * @return list<Attribute>
     */
    private static function attributes(array $attributes): array
    {
        $all = [];
        foreach ($attributes as $name => $sql) {
            $all[] = new Attribute((string) $name, \is_string($sql) ? $sql : '');
        }

        return $all;
    }

    /** @param array<string, string> $units */
    public static function ground(?Model $model = null, string $engine = 'sqlite', array $units = []): Ground
    {
        return new Ground($model ?? self::model(), self::catalog($engine), $units);
    }

    public static function planner(?Model $model = null, string $engine = 'sqlite'): Planner
    {
        return new Planner(self::ground($model, $engine), new \DateTimeImmutable('2026-03-15'));
    }

    /** The tables with a few rows, in memory. */
    public static function rows(): Rows
    {
        $pdo = new \PDO('sqlite::memory:', null, null, [\PDO::ATTR_ERRMODE => \PDO::ERRMODE_EXCEPTION, \PDO::ATTR_STRINGIFY_FETCHES => true]);
        foreach (self::TABLES as $name => $columns) {
            $pdo->exec("CREATE TABLE $name (".implode(', ', $columns).')');
        }
        $pdo->exec("INSERT INTO reach VALUES (1, 'upper', 2), (2, 'lower', NULL);
            INSERT INTO station VALUES (1, 'bridge', 1), (2, 'weir', 1), (3, 'mill', 2), (4, 'ford', NULL);
            INSERT INTO day VALUES (1, '2025-12-31', 2025, 12), (2, '2026-01-01', 2026, 1), (3, '2026-01-02', 2026, 1);
            INSERT INTO species VALUES (1, 'eel', 'fish'), (2, 'otter', 'mammal'), (3, 'trout', 'fish');
            INSERT INTO species_group VALUES (1, 'fish'), (1, 'migrants'), (2, 'mammals');
            INSERT INTO sighting VALUES (1, 1, 2, 1, 1, 5, 100, ''), (2, 2, NULL, 3, 2, 2, 900, ''), (3, 3, 3, 4, 3, 7, 300, ''), (4, 3, NULL, 9, 1, 1, 90, '');
            INSERT INTO reading VALUES (1, 1, 1, 4.0, 10), (2, 2, 1, 6.0, 12), (3, 3, 3, 8.5, 9), (4, 3, 1, NULL, 3)");

        return new class($pdo) implements Rows {
            public function __construct(private readonly \PDO $pdo)
            {
            }

            public function rows(string $sql, array $parameters = []): iterable
            {
                foreach ($this->pdo->query($sql) ?: [] as $row) {
                    $read = [];
                    foreach (\is_array($row) ? $row : [] as $name => $value) {
                        if (\is_string($name)) {
                            $read[$name] = \is_scalar($value) ? (string) $value : null;
                        }
                    }
                    yield $read;
                }
            }
        };
    }
}
