<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Profile;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Profile\Closeness;
use Fasti\Core\Profile\FieldProfile;
use Fasti\Core\Profile\Histogram;
use Fasti\Core\Profile\Likely;
use Fasti\Core\Profile\ProfileArray;
use Fasti\Core\Profile\SqlProfiler;
use Fasti\Core\Profile\Tally;
use Fasti\Core\Profile\TextShape;
use Fasti\Core\Survey\Progress;
use Fasti\Core\Survey\Rows;
use Fasti\Core\Survey\SilentProgress;
use Fasti\Core\Value\Allowed;
use Fasti\Tests\Core\Golden\Recording;
use Fasti\Tests\Core\Golden\Snapshot;
use Fasti\Tests\Core\Golden\World;
use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;

/** Every figure of some profiles, what is asked for it, and what fields are taken for, as it was seen to be. */
final class SeenTest extends TestCase
{
    #[TestWith(['coop'])]
    #[TestWith(['hospital'])]
    public function testProfilesOfSchemasWithRows(string $name): void
    {
        $lines = [];
        foreach (\array_slice(World::profiles($name), 0, 4, true) as $i => $profile) {
            $known = ProfileArray::of($profile);
            unset($known['seconds']);
            self::assertEquals($known, array_diff_key(ProfileArray::of(ProfileArray::read($known)), ['seconds' => true]));
            array_push($lines, ...World::lines(World::made($name)->tables[$i]->name, $known));
        }

        Snapshot::same("profiles.$name", $lines);
    }

    public function testWhatIsAskedOfTheSourceAndHowFarItIsSaidToBe(): void
    {
        $table = self::odd();
        $rows = new Recording(self::rows());
        $said = new class implements Progress {
            /** @var list<string> */
            public array $said = [];

            public function at(string $what, int $done, int $total): void
            {
                $this->said[] = "$what $done of $total";
            }
        };
        $allowed = [
            'code' => Allowed::parse('one of C-0, C-1', static fn (): ?array => null), 'v' => Allowed::parse('0 to 100', static fn (): ?array => null),
            'day' => Allowed::parse('from 2024-01-01', static fn (): ?array => null), 'note' => Allowed::parse(
                '2 to 6 characters',
                static fn (): ?array => null,
            ),
        ];
        $profiler = new SqlProfiler($rows, Dialects::of('sqlite'));
        $lines = [];
        foreach ([[[], []], [['code', 'day'], []], [['a', 'gone'], ['note' => 'yes', 'mail' => 'no']]] as $i => [$grain, $decisions]) {
            $known = ProfileArray::of($profiler->profile($table, $grain, $decisions, $said, $allowed));
            unset($known['seconds']);
            array_push($lines, ...World::lines("profile $i", $known));
        }
        foreach ($rows->answers as [$sql, $parameters]) {
            $lines[] = 'asked: '.preg_replace('/\s+/', ' ', $sql).' '.json_encode($parameters);
        }

        Snapshot::same('profiles.odd', [...$lines, ...$said->said]);
    }

    public function testTheSqlForOtherEngines(): void
    {
        $lines = [];
        foreach (['mariadb', 'postgresql'] as $engine) {
            $silent = new class implements Rows {
                /** @var list<string> */
                public array $asked = [];

                public function rows(string $sql, array $parameters = []): iterable
                {
                    $this->asked[] = (string) preg_replace('/\s+/', ' ', $sql);

                    return [];
                }
            };
            foreach ([null, 9_000_000] as $estimate) {
                $table = self::odd()->with(rowEstimate: $estimate);
                $allowed = [
                    'code' => Allowed::parse('one of A, B', static fn (): ?array => null),
                    'v' => Allowed::parse('at least 0', static fn (): ?array => null),
                ];
                $known = ProfileArray::of((new SqlProfiler($silent, Dialects::of($engine)))->profile($table, ['code'], [], new SilentProgress(), $allowed));
                unset($known['seconds']);
                array_push($lines, ...World::lines("$engine ".json_encode($estimate), $known));
            }
            array_push($lines, ...array_map(static fn (string $sql): string => "$engine: $sql", $silent->asked));
        }

        Snapshot::same('profiles.sql', $lines);
    }

    public function testWhatFieldsAreTakenFor(): void
    {
        $lines = [];
        foreach ([
            'numbers' => self::many(static fn (int $i): string => (string) $i), 'codes' => self::many(
                static fn (int $i): string => ['G', 'S', 'B'][$i % 3],
            ), 'uuids' => self::many(
                static fn (int $i): string => \sprintf('%08x-1111-4222-8333-%012x', $i, $i),
            ),
            'mails' => self::many(static fn (int $i): string => "a$i@post.example"), 'addresses' => self::many(
                static fn (int $i): string => "https://post.example/$i",
            ),
            'days' => self::many(static fn (int $i): string => \sprintf('2024-%02d-%02d', 1 + $i % 12, 1 + $i % 28)), 'german days' => self::many(
                static fn (int $i): string => \sprintf('%02d.%02d.2024', 1 + $i % 28, 1 + $i % 12),
            ),
            'instants' => self::many(
                static fn (int $i): string => \sprintf('2024-01-02T10:%02d:00Z', $i),
            ), 'joined days' => self::many(static fn (int $i): string => \sprintf('202401%02d', 1 + $i % 28)),
            'decimals' => self::many(
                static fn (int $i): string => \sprintf('%d,%02d', $i, $i),
            ), 'flags' => self::many(static fn (int $i): string => (string) ($i % 2)),
            'yes and no' => self::many(static fn (int $i): string => 0 === $i % 2 ? 'yes' : 'no'), 'texts' => self::many(
                static fn (int $i): string => "The gauge $i was cleaned and read again.",
            ),
            'json' => self::many(
                static fn (int $i): string => "{\"a\": $i}",
            ), 'broken json' => self::many(static fn (int $i): string => "{\"a\": $i"), 'names' => self::many(
                static fn (int $i): string => ['Ada Hale', 'Tom Moss', 'Una Reed'][$i % 3].$i,
            ),
            'phones' => self::many(
                static fn (int $i): string => "+49 170 10000$i",
            ), 'hashes' => self::many(static fn (int $i): string => md5((string) $i)), 'one value' => self::many(static fn (): string => 'x'),
            'countries' => self::many(
                static fn (int $i): string => ['DE', 'FR', 'IT', 'PL', 'AT'][$i % 5],
            ), 'years' => self::many(static fn (int $i): string => (string) (1990 + $i % 30)),
            'coordinates' => self::many(static fn (int $i): string => \sprintf('48.%04d, 11.%04d', $i, $i)), 'few' => ['a', 'b'], 'none' => [],
            'mostly days' => self::many(
                static fn (int $i): string => 0 === $i % 20 ? 'soon' : '2024-01-02',
            ), 'half days' => self::many(static fn (int $i): string => 0 === $i % 2 ? 'soon' : '2024-01-02'),
        ] as $name => $values) {
            foreach ([TypeFamily::Text, TypeFamily::Whole, TypeFamily::Number, TypeFamily::Time] as $family) {
                foreach ([null, \count(array_unique($values)), 2] as $distinct) {
                    $longest = [] === $values ? 0 : max(array_map(mb_strlen(...), $values));
                    [$kind, $percent] = Likely::kind($family, $values, 100, \count($values), $distinct, $longest);
                    $lines[] = "$name as $family->value of ".json_encode($distinct).": $kind $percent";
                }
            }
            array_push($lines, ...World::lines("shapes of $name", TextShape::counted($values, 4)));
        }

        Snapshot::same('profiles.likely', $lines);
    }

    public function testHistogramsAndWhatLiesBeyond(): void
    {
        $lines = [];
        foreach ([
            [[], false], [['1'], false], [['1', '1', '1'], false], [array_map(strval(...), range(1, 300)), false], [['1', '2', '3', '1000000'], false],
            [
                array_merge(array_map(strval(...), range(1, 200)), ['99999999']),
                false,
            ], [['-5.5', '0', '7.25'], false], [['2024-01-01', '2024-12-31', '2024-06-01'], true],
            [['2024-01-01 10:00:00', '2024-01-01 11:30:00'], true], [['x', '1'], false], [['1900-01-01', ...array_fill(0, 99, '2024-05-05')], true],
        ] as $i => [$values, $time]) {
            array_push($lines, "# $i", ...World::lines('histogram', Histogram::of($values, $time)));
        }
        $tally = new Tally();
        foreach (range(1, 500) as $i) {
            $tally->add((string) ($i % 7), true);
        }
        $tally->addList(3);
        $tally->addList(0);
        array_push($lines, ...World::lines('tally', [$tally->lists(), $tally->figures(false), $tally->frequent(), \count($tally->sample())]));
        foreach ([
            [
                self::field(100, ['G' => 60, 'S' => 40]),
                self::field(100, ['G' => 55, 'S' => 45]),
            ], [self::field(100, ['G' => 60]), self::field(100, ['X' => 60])],
            [self::field(9, ['G' => 9]), self::field(100, ['G' => 9])], [self::field(10, ['G' => 9]), self::field(10, ['G' => 9])], [
                self::field(50, [], 'code', '1', '9'),
                self::field(50, [], 'code', '2', '8'),
            ],
            [self::field(50, [], 'code', '1', '9'), self::field(50, [], 'date', '100', '900')],
        ] as $i => [$a, $b]) {
            $close = Closeness::of($a, $b);
            $lines[] = "close $i: ".(null === $close ? 'unknown' : Snapshot::figure($close));
        }

        Snapshot::same('profiles.histograms', $lines);
    }

    private static function odd(): Table
    {
        return new Table('main', 'odd', TableType::Table, '', [
            new Column('a', 'INTEGER', false), new Column('code', 'TEXT'), new Column('v', 'REAL'), new Column('day', 'DATE'), new Column('note', 'TEXT'),
            new Column('mail', 'TEXT'), new Column('raw', 'BLOB'),
        ], new Key(null, ['a']));
    }

    private static function rows(): Rows
    {
        $pdo = new \PDO('sqlite::memory:', null, null, [\PDO::ATTR_ERRMODE => \PDO::ERRMODE_EXCEPTION]);
        $pdo->exec('CREATE TABLE odd (a INTEGER PRIMARY KEY, code TEXT, v REAL, day DATE, note TEXT, mail TEXT, raw BLOB)');
        $insert = $pdo->prepare('INSERT INTO odd VALUES (?, ?, ?, ?, ?, ?, ?)');
        for ($i = 1; $i <= 400; ++$i) {
            $insert->execute([
                $i, 0 === $i % 10 ? null : 'C-'.$i % 4, 0 === $i % 7 ? null : $i / 3 - 20, \sprintf('202%d-%02d-%02d', $i % 5, 1 + $i % 12, 1 + $i % 28),
                ['', '  ', 'short', 'a longer note', "it's", 'é'][$i % 6], "a$i@post.example", 0 === $i % 2 ? null : 'x',
            ]);
        }

        return new class($pdo) implements Rows {
            public function __construct(private readonly \PDO $pdo)
            {
            }

            public function rows(string $sql, array $parameters = []): iterable
            {
                $statement = $this->pdo->prepare($sql);
                $statement->execute($parameters);
                while (\is_array($row = $statement->fetch(\PDO::FETCH_ASSOC))) {
                    $read = [];
                    foreach ($row as $name => $value) {
                        $read[(string) $name] = \is_scalar($value) ? (string) $value : null;
                    }
                    yield $read;
                }
            }
        };
    }

    /**
     * @param callable(int): string $make
     *
     * @return list<string>
     */
    private static function many(callable $make): array
    {
        return array_map($make, range(0, 59));
    }

    /** @param array<string, int> $frequent */
    private static function field(int $rows, array $frequent, string $likely = '', ?string $least = null, ?string $greatest = null): FieldProfile
    {
        return new FieldProfile(
            $rows, $rows, distinct: \count($frequent), least: $least, greatest: $greatest, frequent: $frequent, frequentOf: array_sum($frequent),
            likely: $likely,
        );
    }
}
