<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Day;

use Doctrine\DBAL\Connection;
use Doctrine\ORM\EntityManagerInterface;
use Fasti\Account\Account;
use Fasti\Demo\Mart;
use Fasti\Source\Source;
use Fasti\Support\Row;
use Fasti\Tests\App\AppTestCase;
use Fasti\Tests\App\OddSchema;
use Fasti\Tests\Core\Golden\Snapshot;
use Symfony\Bundle\FrameworkBundle\Console\Application;
use Symfony\Component\Console\Tester\CommandTester;
use Symfony\Component\DomCrawler\Crawler;

/**
 * A day at work in one room: pages are looked at, forms handed in and commands called, and all that is answered is held against how it was when it was
 * last read. What differs from day to day (numbers in the database, times) stands as what it is of.
 */
abstract class DayTestCase extends AppTestCase
{
    private const LONGEST = 400;

    protected static string $folder;

    protected Account $oona;
    protected Source $mart;
    /** @var list<string> */
    private array $lines = [];

    public static function setUpBeforeClass(): void
    {
        self::$folder = sys_get_temp_dir().'/fasti-day-'.bin2hex(random_bytes(6));
        mkdir(self::$folder);
        Mart::make(self::file('mart'));
        foreach (['store', 'drifting'] as $name) {
            self::file($name)->exec((string) file_get_contents(__DIR__.'/store.sql'));
        }
    }

    public static function tearDownAfterClass(): void
    {
        array_map(unlink(...), glob(self::$folder.'/*') ?: []);
        rmdir(self::$folder);
    }

    protected function setUp(): void
    {
        self::countAnew();
        parent::setUp();
        $this->oona = $this->signedIn();
        $this->mart = self::sourceOf('mart');
    }

    /** Numbers of rows begin anew for each test, so high that nothing else is taken for one. */
    private static function countAnew(): void
    {
        $server = OddSchema::server();
        $named = self::getContainer()->get(Connection::class);
        $schema = $named instanceof Connection ? $named->getParams()['dbname'] ?? '' : '';
        self::ensureKernelShutdown();
        $tables = $server->prepare(
            'SELECT table_name FROM information_schema.tables WHERE table_schema = ? AND auto_increment IS NOT NULL ORDER BY table_name',
        );
        $tables->execute([$schema]);
        foreach ($tables->fetchAll(\PDO::FETCH_COLUMN) as $i => $table) {
            if (\is_string($table)) {
                $server->exec("ALTER TABLE `$schema`.`$table` AUTO_INCREMENT = ".(700_000_001 + 1_000_000 * $i));
            }
        }
    }

    private static function file(string $name): \PDO
    {
        return new \PDO('sqlite:'.self::$folder."/$name.sqlite", null, null, [\PDO::ATTR_ERRMODE => \PDO::ERRMODE_EXCEPTION]);
    }

    /** A source of one of the files, surveyed. */
    protected static function sourceOf(string $name): Source
    {
        $source = new Source();
        $source->name = $name;
        $source->connection()->engine = 'sqlite';
        $source->connection()->path = self::$folder."/$name.sqlite";
        $entities = self::get(EntityManagerInterface::class);
        $entities->persist($source);
        $entities->flush();
        self::surveyed($source->id());

        return $entities->find(Source::class, $source->id()) ?? throw new \LogicException($name);
    }

    protected function title(string $words): void
    {
        $this->lines[] = '';
        $this->lines[] = "## $words";
    }

    /** Looks at a page, or at what else is given at an address. */
    protected function sees(string $path): Crawler
    {
        $crawler = $this->client->request('GET', $path);
        $this->lines[] = '';
        $this->lines[] = "GET $path";
        $this->answered($crawler);

        return $crawler;
    }

    /**
     * Hands in a form that stands on a page, with these values beside those that it holds.
     *
     * @param array<string, mixed> $fields
     */
    protected function does(string $on, string $to, array $fields = []): void
    {
        $page = $this->client->request('GET', $on);
        self::assertLessThan(400, $this->client->getResponse()->getStatusCode(), $on);
        $tokens = [...$page->filterXPath("//form[contains(@action, '$to')]//input[@name='_token']")->extract(['value']),
            ...$page->filter('[data-token]')->extract(['data-token']), ...$page->filter('input[name="_token"]')->extract(['value'])];
        self::assertNotSame([], $tokens, "$on has no form.");
        $this->client->request('POST', $to, $fields + ['_token' => $tokens[0]]);
        $this->lines[] = '';
        $this->lines[] = "POST $to ".self::json($fields);
        $this->answered($this->client->getCrawler(), PageWords::of($page));
    }

    /**
     * Hands in a form as it is given, its token too.
     *
     * @param array<string, mixed> $fields
     */
    protected function hands(string $to, array $fields, Crawler $page): void
    {
        $this->client->request('POST', $to, $fields);
        array_walk_recursive($fields, static function (mixed &$value, int|string $name): void {
            $value = '_token' === $name ? '…' : $value;
        });
        $this->lines[] = '';
        $this->lines[] = "POST $to ".self::json($fields);
        $this->answered($this->client->getCrawler(), PageWords::of($page));
    }

    /** @param array<mixed> $body */
    protected function sends(string $on, string $to, array $body): void
    {
        $page = $this->client->request('GET', $on);
        $tokens = [...$page->filter('[data-token]')->extract(['data-token']), ...$page->filter('meta[name="texts-token"]')->extract(['content'])];
        self::assertNotSame([], $tokens, "$on has no token.");
        $this->post($to, $body, Row::text(['token' => $tokens[0]], 'token'));
        $this->lines[] = '';
        $this->lines[] = "POST $to ".self::json($body);
        $this->answered($this->client->getCrawler());
    }

    /** @param array<string, mixed> $arguments */
    protected function runs(string $command, array $arguments = [], string $input = ''): string
    {
        $kernel = static::$kernel ?? throw new \LogicException();
        $tester = new CommandTester((new Application($kernel))->find($command));
        $tester->setInputs('' === $input ? [] : explode("\n", $input));
        $status = $tester->execute($arguments, ['capture_stderr_separately' => true]);
        $this->lines[] = '';
        $this->lines[] = "\$ $command ".self::json($arguments);
        array_push($this->lines, "= $status", ...explode("\n", rtrim($tester->getDisplay())));
        if ('' !== $tester->getErrorOutput()) {
            array_push($this->lines, ...array_map(static fn (string $line): string => "! $line", explode("\n", rtrim($tester->getErrorOutput()))));
        }

        return $tester->getDisplay();
    }

    /** What waits is done, as a worker would. */
    protected function works(): void
    {
        while (($job = self::db()->fetchOne("SELECT MIN(id) FROM job WHERE state = 'waiting'")) > 0) {
            self::work(Row::int(['id' => $job], 'id'));
        }
    }

    protected function notes(string ...$lines): void
    {
        array_push($this->lines, ...array_values($lines));
    }

    protected function isAsItWas(string $name): void
    {
        Snapshot::same("day.$name", array_values(array_map(self::settled(...), $this->lines)));
    }

    /** @param list<string> $known words of the page before; where the same page comes again, only what is new in it is noted */
    private function answered(Crawler $crawler, array $known = []): void
    {
        $response = $this->client->getResponse();
        $this->lines[] = '= '.$response->getStatusCode();
        if ($response->isRedirect()) {
            $this->lines[] = '→ '.$response->headers->get('Location');
            $next = $this->client->followRedirect();
            array_push($this->lines, ...$next->filter('.flash')->each(static fn (Crawler $each): string => $each->attr('class').': '.$each->text()));

            return;
        }
        $type = (string) $response->headers->get('Content-Type');
        if (str_contains($type, 'json')) {
            $data = json_decode((string) $response->getContent(), true);
            $flags = \JSON_UNESCAPED_SLASHES | \JSON_UNESCAPED_UNICODE | \JSON_PRESERVE_ZERO_FRACTION;
            $lines = explode("\n", (string) json_encode($data, $flags | \JSON_PRETTY_PRINT));
            // A whole catalog is read elsewhere.
            array_push($this->lines, ...\count($lines) <= 300 ? $lines : array_map(
                static fn (mixed $part): string => (string) json_encode($part, $flags),
                array_merge(...array_map(static fn (mixed $part): array => \is_array($part) ? array_values($part) : [$part], array_values((array) $data))),
            ));
        } elseif (str_contains($type, 'html')) {
            array_push($this->lines, ...array_values(array_diff(PageWords::of($crawler), $known)));
        } elseif (str_contains($type, 'text/') || str_contains($type, 'svg') || str_contains($type, 'sql')) {
            array_push($this->lines, $type, ...explode("\n", (string) $response->getContent()));
        } else {
            $this->lines[] = $type.' '.(200 === $response->getStatusCode() ? 'given' : '');
        }
    }

    private static function settled(string $line): string
    {
        $line = (string) preg_replace_callback('/(?<!\d)7\d\d(\d{6})(?!\d)/', static fn (array $m): string => '~'.(int) $m[1], $line);

        $line = (string) preg_replace(
            [
                '/SQLite 3\.[\d.]+/', '/\b20\d\d-\d\d-\d\d([T ])\d\d:\d\d(:\d\d)?(\.\d+)?(Z|\+00:00)?/',
                '/\b(just now|a minute ago|\d+ minutes ago|\d+ seconds? ago)\b/',
                '/\b\d+([.,]\d+)? ?(ms|s|seconds?)\b/', '~/tmp/fasti-day-[0-9a-f]+~', '~'.preg_quote(\dirname(__DIR__, 3), '~').'~', '/\b[\d,.]+ [KM]B\b/',
                '/"(token|_token|version|mark|rev|stamp|seconds)": "?[^",]+"?/', '/(_token\] = )[^\]]+/', '/\b'.date('Y-m-d').'\b/',
                '/\b'.date('j M Y').'(, \d\d:\d\d UTC)?/', '/\b'.date('j F Y').'\b/',
            ],
            ['SQLite VERSION', 'TIME', 'just now', 'SECONDS', 'FOLDER', 'HOUSE', 'SIZE', '"$1": …', '$1…', 'TODAY', 'TODAY', 'TODAY'],
            $line,
        );

        // Of what is long, the beginning is read; that the rest is the same is enough.
        return mb_strlen($line) <= self::LONGEST ? $line : mb_substr($line, 0, self::LONGEST).'… '.mb_strlen($line).' '.hash('xxh32', $line);
    }

    /** @param array<mixed> $value */
    private static function json(array $value): string
    {
        return (string) json_encode($value, \JSON_UNESCAPED_SLASHES | \JSON_UNESCAPED_UNICODE);
    }
}
