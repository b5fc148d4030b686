<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Join;

use Fasti\Tests\App\AppTestCase;
use PHPUnit\Framework\Attributes\DataProvider;
use Symfony\Bundle\FrameworkBundle\Console\Application;
use Symfony\Component\Console\Tester\CommandTester;

/** What is asked on the command line, of a database with rows and of a script without. */
final class JoinCommandTest extends AppTestCase
{
    private const MADE = 'CREATE TABLE station (id integer PRIMARY KEY, name text); CREATE TABLE visit (id integer PRIMARY KEY, station_id integer NOT NULL
        REFERENCES station (id), place integer);
        CREATE TABLE alone (id integer PRIMARY KEY, what text);';

    private string $path = '';

    protected function setUp(): void
    {
        parent::setUp();
        $this->path = sys_get_temp_dir().'/fasti-'.bin2hex(random_bytes(4));
        $database = new \PDO('sqlite:'.$this->path.'.sqlite', null, null, [\PDO::ATTR_ERRMODE => \PDO::ERRMODE_EXCEPTION]);
        $database->exec(self::MADE."WITH RECURSIVE s(n) AS (SELECT 1 UNION ALL SELECT n + 1 FROM s WHERE n < 300) INSERT INTO visit SELECT n, n % 40 + 1,
            n % 40 + 1 FROM s;
            WITH RECURSIVE s(n) AS (SELECT 1 UNION ALL SELECT n + 1 FROM s WHERE n < 40) INSERT INTO station SELECT n, 'x' FROM s;");
        file_put_contents($this->path.'.sql', self::MADE);
    }

    protected function tearDown(): void
    {
        unlink($this->path.'.sqlite');
        unlink($this->path.'.sql');
        parent::tearDown();
    }

    public function testProposalsAsJsonLeaveOutWhatIsDeclaredUnlessItIsIgnored(): void
    {
        $plain = $this->proposals(['--format' => 'json']);
        $all = $this->proposals(['--format' => 'json', '--ignore-declared' => true]);

        self::assertSame(['visit.place'], array_keys($plain));
        self::assertSame(['visit.station_id', 'visit.place'], array_keys($all));
        self::assertGreaterThan(0.9, $all['visit.station_id']);
    }

    public function testWithoutDataNothingIsAsked(): void
    {
        $named = $this->proposals(['--format' => 'json', '--ignore-declared' => true, '--no-data' => true]);

        self::assertGreaterThan(0.5, $named['visit.station_id']);
        $tester = $this->command('fasti:joins', ['target' => 'sqlite:///'.ltrim($this->path, '/').'.sqlite', '--no-data' => true, '--ignore-declared' => true]);
        self::assertStringNotContainsString('values', $tester->getDisplay());
    }

    public function testAScriptIsReadByNamesAndSaysSo(): void
    {
        $tester = $this->command('fasti:joins', ['target' => $this->path.'.sql', '--ignore-declared' => true]);

        self::assertStringContainsString('visit (station_id) → ', $tester->getDisplay());
        self::assertStringContainsString('+ named after station', $tester->getDisplay());
        self::assertMatchesRegularExpression('/\d joins? proposed/', $tester->getDisplay());
        self::assertStringContainsString('There is no data to ask here', $tester->getErrorOutput());
    }

    /** @return iterable<array{array<string, mixed>, int, string}> */
    public static function wrong(): iterable
    {
        yield [['target' => '/nowhere.sql'], 1, 'nowhere.sql'];
        yield [['target' => '/nowhere.sql', '--format' => 'xml'], 2, 'The format is text or json.'];
    }

    /** @param array<string, mixed> $given */
    #[DataProvider('wrong')]
    public function testWhatIsWrongIsSaid(array $given, int $code, string $words): void
    {
        $tester = $this->command('fasti:joins', $given);

        self::assertSame($code, $tester->getStatusCode());
        self::assertStringContainsString($words, $tester->getErrorOutput());
    }

    public function testTheBestRouteIsOneStatement(): void
    {
        $tester = $this->command(
            'fasti:route',
            ['target' => $this->path.'.sql', 'from' => 'station', 'to' => 'visit', '--format' => 'sql', '--dialect' => 'sqlite'],
        );
        $tester->assertCommandIsSuccessful();
        $sql = trim($tester->getDisplay());

        self::assertStringEndsWith('ON "visit"."station_id" = "station"."id";', $sql);
        $count = (new \PDO('sqlite:'.$this->path.'.sqlite'))->query(str_replace(['SELECT *', '"main".'], ['SELECT COUNT(*)', ''], $sql));
        self::assertSame(300, false === $count ? 0 : (int) $count->fetchColumn());
    }

    public function testRoutesAsJsonAndAsText(): void
    {
        $tester = $this->command(
            'fasti:route',
            ['target' => $this->path.'.sql', 'from' => 'visit', 'to' => 'station', '--format' => 'json', '--declared' => true],
        );
        $routes = json_decode($tester->getDisplay(), true, 512, \JSON_THROW_ON_ERROR);
        self::assertIsArray($routes);
        self::assertIsArray($routes['routes']);
        self::assertCount(1, $routes['routes']);
        self::assertIsArray($routes['routes'][0]);
        self::assertSame([false, false], [$routes['routes'][0]['multiplies'], $routes['routes'][0]['drops']]);
        $text = $this->command('fasti:route', ['target' => $this->path.'.sql', 'from' => 'station', 'to' => 'visit'])->getDisplay();
        self::assertStringContainsString('1. station → visit', $text);
        self::assertStringContainsString('rows multiply here', $text);
    }

    public function testWithoutARouteTheNearestAreNamed(): void
    {
        $tester = $this->command('fasti:route', ['target' => $this->path.'.sql', 'from' => 'alone', 'to' => 'station']);

        self::assertSame(1, $tester->getStatusCode());
        self::assertStringContainsString('No chain of at most 6 joins', $tester->getErrorOutput());
        self::assertMatchesRegularExpression('/Nothing is joined to \S*alone/', $tester->getErrorOutput());
        self::assertMatchesRegularExpression('/Nearest to \S*station: \S*visit/', $tester->getErrorOutput());
        $none = $this->command('fasti:route', ['target' => $this->path.'.sql', 'from' => 'nothing', 'to' => 'station']);
        self::assertSame(2, $none->getStatusCode());
        self::assertStringContainsString('There is no table “nothing”', $none->getErrorOutput());
    }

    /**
     * @param array<string, mixed> $options
     *
     * @return array<string, float> `table.field` → confidence
     */
    private function proposals(array $options): array
    {
        $tester = $this->command('fasti:joins', ['target' => 'sqlite:///'.ltrim($this->path, '/').'.sqlite'] + $options);
        $tester->assertCommandIsSuccessful();
        $said = json_decode($tester->getDisplay(), true, 512, \JSON_THROW_ON_ERROR);
        $found = [];
        foreach (\is_array($said) && \is_array($said['proposals'] ?? null) ? $said['proposals'] : [] as $one) {
            self::assertIsArray($one);
            self::assertSame(['from', 'to', 'confidence', 'evidence', 'where'], array_keys($one));
            self::assertIsArray($one['from']);
            self::assertIsArray($one['from']['columns']);
            self::assertIsString($one['from']['table']);
            self::assertIsFloat($one['confidence']);
            $found[$one['from']['table'].'.'.implode('+', array_filter($one['from']['columns'], is_string(...)))] ??= $one['confidence'];
        }

        return $found;
    }

    /** @param array<string, mixed> $given */
    private function command(string $name, array $given): CommandTester
    {
        $tester = new CommandTester((new Application(static::$kernel ?? static::bootKernel()))->find($name));
        $tester->execute($given, ['capture_stderr_separately' => true]);

        return $tester;
    }
}
