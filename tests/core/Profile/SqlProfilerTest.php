<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Profile;

use Fasti\Core\Catalog\Table;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Engine\Sqlite\SqliteReader;
use Fasti\Core\Profile\ProfileArray;
use Fasti\Core\Profile\SqlProfiler;
use Fasti\Core\Profile\TableProfile;
use Fasti\Core\Survey\Choice;
use Fasti\Core\Survey\Rows;
use Fasti\Core\Survey\SilentProgress;
use Fasti\Core\Survey\SourceError;
use PHPUnit\Framework\TestCase;

/** On SQLite, which needs no server; the other engines have their test in tests/app. */
final class SqlProfilerTest extends TestCase
{
    public function testFiguresAreThoseOfTheData(): void
    {
        $field = self::profile(
            'CREATE TABLE t (id INTEGER PRIMARY KEY, code TEXT, v REAL)',
            "INSERT INTO t SELECT value, CASE WHEN value % 10 = 0 THEN NULL WHEN value % 10 = 1 THEN '  ' ELSE 'C-' || (value % 3) END, value / 2.0 FROM s "
                .'WHERE value <= 300',
        )->fields;

        self::assertSame([300, 270, 30, 4], [$field['code']->rows, $field['code']->values, $field['code']->blank, $field['code']->distinct]);
        self::assertSame(240, $field['code']->filled());
        self::assertSame(['C-0' => 80, 'C-1' => 80, 'C-2' => 80], $field['code']->frequent);
        self::assertSame(['A-9' => 240], $field['code']->shapes);
        self::assertSame('identifier', $field['id']->likely);
        self::assertSame(['0.5', '150', 300], [$field['v']->least, $field['v']->greatest, array_sum(array_column($field['v']->histogram, 'count'))]);
    }

    public function testRowsThatRepeatAreCountedAgainstTheStatedGrain(): void
    {
        $make = ['CREATE TABLE t (a INTEGER, b INTEGER, c TEXT)', 'INSERT INTO t SELECT value % 10, value % 2, value FROM s WHERE value <= 100'];

        self::assertSame(90, self::profile(...$make, grain: ['a', 'b'])->repeated);
        self::assertSame(0, self::profile(...$make, grain: ['c'])->repeated);
        self::assertSame(0, self::profile(...$make)->repeated);
        self::assertStringContainsString('name x, which the table does not have', self::profile(...$make, grain: ['x'])->notes[0]);
    }

    public function testNoValueOfAPersonalFieldIsKeptOrAskedFor(): void
    {
        $make = [
            'CREATE TABLE person (id INTEGER PRIMARY KEY, email TEXT, remark TEXT, nick TEXT)',
            "INSERT INTO person SELECT value, 'secret' || value || '@arrowmere.example', 'call hidden' || value || '@arrowmere.example', 'only once' FROM "
                .'s WHERE value <= 2000',
        ];
        $asked = new \ArrayObject();
        $profile = self::profile(...$make, decisions: ['nick' => 'yes'], asked: $asked);
        $json = (string) json_encode(ProfileArray::of($profile));

        self::assertStringNotContainsString('secret', $json);
        self::assertStringNotContainsString('only once', $json);
        self::assertStringContainsString('@a…', [] === $profile->fields['email']->shapes ? '' : (string) array_key_first($profile->fields['email']->shapes));
        self::assertSame(2000, $profile->fields['email']->distinct);
        self::assertStringNotContainsString('MIN("email")', implode("\n", $asked->getArrayCopy()));
        self::assertStringContainsString('hidden', (string) json_encode(ProfileArray::of(self::profile(...$make, decisions: ['remark' => 'no']))));
    }

    public function testALargeTableIsSampledAndSaysSo(): void
    {
        $table = new Table('main', 't', \Fasti\Core\Catalog\TableType::Table, '', [new \Fasti\Core\Catalog\Column('a', 'INTEGER')], rowEstimate: 9000000);
        $rows = new class implements Rows {
            /** @var list<string> */
            public array $asked = [];

            public function rows(string $sql, array $parameters = []): iterable
            {
                $this->asked[] = $sql;

                return match (true) {
                    'SELECT COUNT(*) AS n FROM "t"' === $sql => [['n' => '9000000']],
                    str_contains($sql, 'COUNT(*) AS n, ') => [['n' => '200000', 'v0' => '200000', 'd0' => '5000', 'l0' => '1', 'g0' => '5000']],
                    default => array_map(static fn (int $i): array => ['c0' => (string) $i], range(1, 1000)),
                };
            }
        };
        $profile = (new SqlProfiler($rows, Dialects::of('sqlite')))->profile($table, [], [], new SilentProgress());

        self::assertSame([9000000, 200000], [$profile->rows, $profile->looked]);
        self::assertStringContainsString('200,000 of 9,000,000 rows were looked at', $profile->how);
        self::assertStringContainsString('random()', implode(' ', $rows->asked));
        self::assertNull($profile->repeated);
    }

    public function testWhatTakesTooLongIsSampledInstead(): void
    {
        $rows = new class implements Rows {
            public function rows(string $sql, array $parameters = []): iterable
            {
                return match (true) {
                    str_contains($sql, 'COUNT(DISTINCT')
                        && !str_contains($sql, 'random()') => throw new SourceError(
                            'The server needed more than 60 seconds.',
                            '',
                            null,
                            SourceError::OVER_TIME,
                        ),
                    str_contains($sql, 'COUNT(DISTINCT') => [['n' => '100', 'v0' => '100', 'd0' => '90', 'l0' => '1', 'g0' => '9']],
                    str_contains($sql, 'COUNT(*) AS n FROM "t"') => [['n' => '500000']],
                    default => array_map(static fn (int $i): array => ['c0' => (string) $i], range(1, 1000)),
                };
            }
        };
        $profile = (new SqlProfiler($rows, Dialects::of('sqlite')))->profile(
            new Table('main', 't', \Fasti\Core\Catalog\TableType::Table, '', [new \Fasti\Core\Catalog\Column('a', 'INTEGER')]),
            [],
            [],
            new SilentProgress(),
        );

        self::assertStringContainsString('took too long, so a sample was counted', $profile->notes[0]);
        self::assertNotSame('', $profile->how);
    }

    public function testTheOpenFormGivesTheSameProfileBack(): void
    {
        $profile = self::profile(
            'CREATE TABLE t (id INTEGER PRIMARY KEY, code TEXT)',
            "INSERT INTO t SELECT value, 'C-' || (value % 3) FROM s WHERE value <= 50",
        );
        /** @var array<mixed> $data */
        $data = json_decode((string) json_encode(ProfileArray::of($profile)), true);

        self::assertEquals($profile->fields, ProfileArray::read($data)->fields);
        self::assertSame($profile->grain, ProfileArray::read($data)->grain);
    }

    /**
     * @param list<string>          $grain
     * @param array<string, string> $decisions
     * @param ?\ArrayObject<int, string> $asked
     */
    private static function profile(string $create, string $fill, array $grain = [], array $decisions = [], ?\ArrayObject $asked = null): TableProfile
    {
        $database = new \PDO('sqlite::memory:', null, null, [\PDO::ATTR_ERRMODE => \PDO::ERRMODE_EXCEPTION, \PDO::ATTR_STRINGIFY_FETCHES => true]);
        $database->exec('CREATE TABLE s (value INTEGER)');
        $database->exec('WITH RECURSIVE n(value) AS (SELECT 1 UNION ALL SELECT value + 1 FROM n WHERE value < 3000) INSERT INTO s SELECT value FROM n');
        $database->exec($create);
        $database->exec($fill);
        $rows = new class($database, $asked) implements Rows {
            /** @param ?\ArrayObject<int, string> $asked */
            public function __construct(private readonly \PDO $database, private readonly ?\ArrayObject $asked)
            {
            }

            public function rows(string $sql, array $parameters = []): iterable
            {
                $this->asked?->append($sql);
                $statement = $this->database->prepare($sql);
                $statement->execute($parameters);
                /** @var list<array<string, string|null>> $rows */
                $rows = $statement->fetchAll(\PDO::FETCH_ASSOC);

                return $rows;
            }
        };
        $name = str_contains($create, 'person') ? 'person' : 't';
        $table = (new SqliteReader($rows))->read(new Choice([], [$name]), new SilentProgress())->tables[0];

        return (new SqlProfiler($rows, Dialects::of('sqlite')))->profile($table, $grain, $decisions, new SilentProgress());
    }
}
