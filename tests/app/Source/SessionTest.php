<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Source;

use Fasti\Core\Survey\SourceError;
use Fasti\Core\Survey\Stopped;
use Fasti\Core\Survey\Target;
use Fasti\Source\Connector\Fault;
use Fasti\Source\Connector\PdoDoor;
use Fasti\Source\Connector\Served;
use Fasti\Source\Connector\Serving;
use Fasti\Source\Connector\Session;
use Fasti\Source\Sources;
use Fasti\Tests\App\AppTestCase;
use PHPUnit\Framework\Attributes\DataProvider;

/** A session with a source, in a process of its own. */
final class SessionTest extends AppTestCase
{
    private string $path;

    protected function setUp(): void
    {
        parent::setUp();
        $this->path = sys_get_temp_dir().'/fasti-session-'.bin2hex(random_bytes(4)).'.sqlite';
        $pdo = new \PDO('sqlite:'.$this->path, null, null, [\PDO::ATTR_ERRMODE => \PDO::ERRMODE_EXCEPTION]);
        $pdo->exec("CREATE TABLE t (a INTEGER, b TEXT, c BLOB, d REAL); INSERT INTO t VALUES (1, 'x', NULL, 0.1)");
        $pdo->exec("WITH RECURSIVE n(i) AS (SELECT 2 UNION ALL SELECT i + 1 FROM n WHERE i < 5000) INSERT INTO t SELECT i, 'n' || i, NULL, NULL FROM n");
        $pdo->exec("UPDATE t SET c = x'ff00fe' WHERE a = 2");
        chmod($this->path, 0o600);
    }

    protected function tearDown(): void
    {
        array_map(unlink(...), glob($this->path.'*') ?: []);
        parent::tearDown();
    }

    public function testRowsComeAsTheEngineHasThemEvenWhatIsNoText(): void
    {
        $rows = iterator_to_array($this->session()->rows('SELECT * FROM t WHERE a < 3 ORDER BY a'), false);

        self::assertSame([['a' => '1', 'b' => 'x', 'c' => null, 'd' => '0.1'], ['a' => '2', 'b' => 'n2', 'c' => "\xff\0\xfe", 'd' => null]], $rows);
        self::assertSame(
            [['n' => '1', 'k' => 'integer']],
            iterator_to_array($this->session()->rows('SELECT COUNT(*) AS n, typeof(:k) AS k FROM t WHERE b = :b', ['b' => 'x', 'k' => 3]), false),
        );
    }

    public function testAQuestionWithinAQuestionLosesNoRow(): void
    {
        $session = $this->session();
        $seen = [];
        foreach ($session->rows('SELECT a FROM t ORDER BY a') as $row) {
            $seen[] = $row['a'];
            if ('3' === $row['a'] || '4000' === $row['a']) {
                self::assertSame([['n' => '5000']], iterator_to_array($session->rows('SELECT COUNT(*) AS n FROM t'), false));
            }
        }

        self::assertSame(array_map(strval(...), range(1, 5000)), $seen);
    }

    public function testWhoeverStopsReadingIsInNobodysWay(): void
    {
        $session = $this->session();
        foreach ($session->rows('SELECT a FROM t ORDER BY a') as $row) {
            break;
        }
        unset($row);

        self::assertSame([['n' => '5000']], iterator_to_array($session->rows('SELECT COUNT(*) AS n FROM t'), false));
    }

    public function testAQuestionThatTakesTooLongIsGivenUpAndTheNextOneIsAnswered(): void
    {
        $session = self::get(Sources::class)->rows(new Target('sqlite', path: $this->path), 1) ?? throw new \LogicException();
        try {
            iterator_to_array($session->rows('WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n) SELECT COUNT(*) AS n FROM n'), false);
            self::fail('It should have been given up.');
        } catch (SourceError $e) {
            self::assertSame(SourceError::OVER_TIME, $e->what);
            self::assertStringContainsString('more than 1 seconds', $e->getMessage());
        }

        self::assertSame([['n' => '5000']], iterator_to_array($session->rows('SELECT COUNT(*) AS n FROM t'), false));
    }

    public function testAFileThatKeepsALogBesideItIsReadWithAndWithoutIt(): void
    {
        $pdo = new \PDO('sqlite:'.$this->path, null, null, [\PDO::ATTR_ERRMODE => \PDO::ERRMODE_EXCEPTION]);
        $pdo->exec('PRAGMA journal_mode = wal');
        $pdo->exec('INSERT INTO t (a) VALUES (5001)');
        $count = fn (): string => implode(
            ' ',
            array_map(static fn (array $row): string => (string) $row['n'], iterator_to_array($this->session()->rows('SELECT COUNT(*) AS n FROM t'), false)),
        );
        self::assertSame('5001', $count());
        // Said outright: SQLite does it by itself only when the last one closes the file, and who read may not be gone yet.
        $pdo->exec('PRAGMA wal_checkpoint(FULL)');
        unset($pdo);
        array_map(unlink(...), glob($this->path.'-*') ?: []);
        self::assertSame('5001', $count(), 'without its log');
        self::assertSame([], glob($this->path.'-*'));
    }

    public function testWhatListensWhileItWaitsMayEndIt(): void
    {
        $listened = 0;
        $session = new Session(
            Served::beside(...),
            ['door' => PdoDoor::class, 'with' => ['sqlite:'.$this->path, '', '', [], []]],
            10,
            20,
            static fn (Fault $fault): SourceError => new SourceError($fault->text, ''),
            static fn (string $what): SourceError => new SourceError('silent', $what),
            static function () use (&$listened): void {
                if (++$listened > 2) {
                    throw new Stopped();
                }
            },
        );
        try {
            $session->exec('CREATE TEMP TABLE x AS WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n) SELECT i FROM n LIMIT 1 OFFSET 90000000000');
            self::fail('It should have been stopped.');
        } catch (\Throwable $e) {
            self::assertInstanceOf(Stopped::class, $e);
            self::assertSame(3, $listened);
        }
    }

    public function testOneThatHoldsWhatWasDoneInItIsNeverOpenedAgain(): void
    {
        $session = new Session(
            Served::beside(...),
            ['door' => PdoDoor::class, 'with' => ['sqlite::memory:', '', '', [], ['CREATE TABLE t (a)']]],
            10,
            20,
            static fn (Fault $fault): SourceError => new SourceError($fault->text, ''),
            static fn (string $what): SourceError => new SourceError('silent', $what, null, $what),
            once: true,
        );
        $session->exec('INSERT INTO t VALUES (1)');
        foreach ($session->rows('WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 9000) SELECT i FROM n') as $row) {
            break;
        }
        unset($row);
        // What nobody read to its end was read on, since a new session would be empty.
        self::assertSame([['n' => '1']], iterator_to_array($session->rows('SELECT COUNT(*) AS n FROM t'), false));
        $session->end();
        $this->expectExceptionObject(new SourceError('silent', SourceError::LOST));
        $session->exec('INSERT INTO t VALUES (2)');
    }

    #[DataProvider('engineFaults')]
    public function testAFaultIsToldByItsKindAndItsWordsAreCutForTheLog(Fault $fault, string $kind, string $masked): void
    {
        self::assertStringContainsString($kind, $fault->kind()[0]);
        self::assertSame($masked, $fault->masked());
    }

    /** @return iterable<string, array{Fault, string, string}> */
    public static function engineFaults(): iterable
    {
        yield 'a double key' => [
            new Fault(
                '23000',
                1062,
                "Duplicate entry 'oona@arrowmere.example' for key 'email'",
            ), 'Rows break a rule of the table (error 23000)', '23000 1062 Duplicate entry “…”',
        ];
        yield 'no number' => [
            new Fault(
                '22P02',
                7,
                "ERROR:  invalid input syntax for type integer: \"oona\"\nLINE 1: SELECT 'oona'",
            ), 'none of the type that was asked for (error 22P02)',
            '22P02 7 ERROR:  invalid input syntax for type integer: “…”',
        ];
        yield 'with detail' => [
            new Fault(
                '23505',
                7,
                'ERROR:  duplicate key DETAIL:  Key (email)=(oona@x.example) already exists.',
            ), 'Rows break a rule', '23505 7 ERROR:  duplicate key',
        ];
        yield 'XPATH' => [new Fault('HY000', 1105, "XPATH syntax error: '~secret'"), '(error 1105)', 'HY000 1105 XPATH syntax error: “…”'];
        yield 'a number' => [
            new Fault('22003', 1690, 'BIGINT value is out of range in 12345678 + 1'),
            'A value could not be computed',
            '22003 1690 BIGINT value is out of range in … + 1',
        ];
        yield 'a key' => [
            new Fault('', 19, 'UNIQUE constraint failed: person.email'),
            'Rows break a rule of the table (error 19)',
            '19 UNIQUE constraint failed: person.email',
        ];
        yield 'not understood' => [
            new Fault('42601', 7, 'syntax error at or near "x"'),
            'did not understand the question',
            '42601 7 syntax error at or near “…”',
        ];
        yield 'only reads' => [
            new Fault('25006', 7, 'cannot execute INSERT in a read-only transaction'),
            'The session only reads',
            '25006 7 cannot execute INSERT in a read-only transaction',
        ];
        yield 'unknown' => [new Fault('XX000', 7, 'internal'), 'answered with an error (XX000)', 'XX000 7 internal'];
    }

    public function testItServesLinesOfJson(): void
    {
        $in = fopen('php://memory', 'w+') ?: throw new \LogicException();
        $out = fopen('php://memory', 'w+') ?: throw new \LogicException();
        foreach ([
            [
                'door' => PdoDoor::class,
                'with' => ['sqlite::memory:', '', '', [], ['CREATE TABLE t (a)']],
            ], ['sql' => "INSERT INTO t VALUES (1); INSERT INTO t VALUES ('?')", 'all' => true],
            ['sql' => "SELECT a, '? :x' AS \"q?\" FROM t"], ['sql' => 'SELECT :x AS x', 'parameters' => ['x' => 'y']], ['sql' => 'nonsense'], 'no question',
        ] as $line) {
            fwrite($in, json_encode($line, \JSON_THROW_ON_ERROR)."\n");
        }
        rewind($in);
        Serving::loop($in, $out);
        rewind($out);
        $said = array_map(static fn (string $line): mixed => json_decode($line, true), array_filter(explode("\n", (string) stream_get_contents($out))));

        $over = ['columns' => [], 'rows' => [], 'over' => true];
        self::assertSame(
            [
                $over,
                $over,
                ['columns' => ['a', 'q?'], 'rows' => [['1', '? :x'], ['?', '? :x']], 'over' => true],
                ['columns' => ['x'], 'rows' => [['y']], 'over' => true],
            ],
            \array_slice($said, 0, 4),
        );
        self::assertIsArray($said[4]);
        self::assertSame(['HY000', 1], [$said[4]['state'], $said[4]['code']]);
        self::assertCount(5, $said);
    }

    public function testNoDoorIsOpenedThatIsNone(): void
    {
        $in = fopen('php://memory', 'w+') ?: throw new \LogicException();
        $out = fopen('php://memory', 'w+') ?: throw new \LogicException();
        fwrite($in, json_encode(['door' => \ArrayObject::class, 'with' => [[]]], \JSON_THROW_ON_ERROR)."\n");
        rewind($in);
        Serving::loop($in, $out);
        rewind($out);

        self::assertStringContainsString('No door.', (string) stream_get_contents($out));
    }

    private function session(): \Fasti\Core\Survey\Rows
    {
        return self::get(Sources::class)->rows(new Target('sqlite', path: $this->path), 20) ?? throw new \LogicException();
    }
}
