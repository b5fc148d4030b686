<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Cage;

use Fasti\Core\Cage\Cage;
use Fasti\Core\Cage\CageError;
use Fasti\Core\Cage\Child;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** What a program in a cage cannot do. */
final class CageTest extends TestCase
{
    public function testHereCagesCanBeMade(): void
    {
        self::assertNull(Cage::missing());
    }

    #[DataProvider('places')]
    public function testOfTheMachineNothingIsSeenButItsPrograms(string $place): void
    {
        self::assertSame('no', self::in("ls $place >/dev/null 2>&1 && echo yes || echo no"));
    }

    /** @return iterable<string, array{string}> */
    public static function places(): iterable
    {
        yield 'the folder of the application' => [\dirname(__DIR__, 3)];
        yield 'passwords' => ['/etc/shadow'];
        yield 'processes' => ['/proc/self/status'];
        yield 'the folder of root' => ['/root'];
        yield 'temporary files' => ['/tmp'];
        yield 'sockets' => ['/run'];
        yield 'devices of the kernel' => ['/sys/kernel'];
    }

    #[DataProvider('writings')]
    public function testNothingCanBeWrittenButInItsOwnPlace(string $to): void
    {
        self::assertSame('no', self::in("(echo x > $to) 2>/dev/null && echo yes || echo no"));
        self::assertSame('yes', self::in('(echo x > /work/x) 2>/dev/null && echo yes || echo no'));
    }

    /** @return iterable<string, array{string}> */
    public static function writings(): iterable
    {
        yield 'the root' => ['/x'];
        yield 'programs' => ['/usr/bin/x'];
        yield 'the empty place' => ['/nothing/x'];
        yield 'devices' => ['/dev/x'];
        yield 'accounts' => ['/etc/passwd'];
    }

    public function testItHasNoRights(): void
    {
        $account = posix_getpwnam(Cage::ACCOUNT);
        $expected = 0 === posix_geteuid() ? (string) ($account['uid'] ?? '?') : '65534';

        self::assertSame($expected, self::in('id -u'));
        self::assertSame('no', self::in('mount -t tmpfs x /work 2>/dev/null && echo yes || echo no'));
        self::assertSame('no', self::in('chown 0 /work 2>/dev/null && echo yes || echo no'));
    }

    public function testItReadsWhatItIsGivenAndCannotChangeIt(): void
    {
        $file = (string) tempnam(sys_get_temp_dir(), 'cage');
        file_put_contents($file, 'given');
        chmod($file, 0o644);
        $cage = new Cage([$file => '/given', '?'.$file.'-not-there' => '/not-there']);

        self::assertSame(
            "given\nno\nno\n",
            $cage->run([self::shell(), '-c', 'cat /given; echo; for f in /given /not-there; do (echo x > $f) 2>/dev/null && echo yes || echo no; done']),
        );
        self::assertSame('given', file_get_contents($file));
        unlink($file);
    }

    public function testAFileOfItsOwnIsReadableWhereItRunsAsTheApplicationItself(): void
    {
        $file = (string) tempnam(sys_get_temp_dir(), 'cage');
        file_put_contents($file, 'private');
        chmod($file, 0o600);

        self::assertSame('private', (new Cage([$file => '/given'], asNobody: false))->run(['/usr/bin/cat', '/given']));
        self::assertSame(
            "no\n",
            (new Cage([$file => '/given'], asNobody: false))->run([self::shell(), '-c', '(echo x > /usr/x) 2>/dev/null && echo yes || echo no']),
        );
        unlink($file);
    }

    public function testItGetsNoneOfTheFilesLocksAndConnectionsThatAreOpenHere(): void
    {
        $file = fopen(__FILE__, 'r');
        $server = stream_socket_server('tcp://127.0.0.1:0');

        self::assertSame('', self::in('for n in $(seq 3 60); do (: <&$n) 2>/dev/null && echo $n; done; true'));
        self::assertNotFalse($file);
        self::assertNotFalse($server);
    }

    public function testThereIsNoNetwork(): void
    {
        $server = stream_socket_server('tcp://127.0.0.1:0') ?: self::fail('No server.');
        $port = substr((string) strrchr((string) stream_socket_get_name($server, false), ':'), 1);

        self::assertSame('no', self::in("(exec 3<>/dev/tcp/127.0.0.1/$port) 2>/dev/null && echo yes || echo no"));
        fclose($server);
    }

    public function testWhatItWritesHasAnEnd(): void
    {
        $written = (int) (new Cage(disk: 4))->run([
            self::shell(),
            '-c',
            'for i in 1 2 3 4; do head -c 3000000 /dev/zero > /work/$i 2>/dev/null; done; cat /work/* | wc -c',
        ]);

        self::assertGreaterThan(3000000, $written);
        self::assertLessThanOrEqual(4 * 1048576, $written);
    }

    public function testWhatItTakesOfMemoryHasAnEnd(): void
    {
        $this->expectException(CageError::class);
        (new Cage(memory: 64))->run([self::shell(), '-c', 'x=$(head -c 200000000 /dev/zero | tr "\0" x); echo ${#x}']);
    }

    public function testWhatTakesTooLongIsEnded(): void
    {
        $began = microtime(true);
        try {
            (new Cage(seconds: 1))->run(['/usr/bin/sleep', '60']);
            self::fail('It should have been ended.');
        } catch (CageError $e) {
            self::assertStringContainsString('sleep needed more than 1 seconds', $e->getMessage());
        }
        self::assertLessThan(30, microtime(true) - $began);
    }

    public function testOfAFolderNothingIsSeenButWhatIsListed(): void
    {
        $cage = new Cage(only: ['/usr/share/zoneinfo' => ['/usr/share/zoneinfo/zone.tab']]);

        self::assertSame('zone.tab', trim($cage->run(['/usr/bin/ls', '/usr/share/zoneinfo'])));
    }

    public function testWhatAProgramSaysOfItsFailureIsSaid(): void
    {
        $this->expectExceptionMessage('bash ended with 3: broken');
        self::in('echo broken >&2; exit 3');
    }

    public function testAProgramThatIsNotHereIsNamed(): void
    {
        $this->expectExceptionMessage('no-such-program is not installed here.');
        Cage::program('no-such-program');
    }

    public function testMuchGoesInAndOut(): void
    {
        $text = random_bytes(3_000_000);

        self::assertSame($text, (new Cage())->run(['/usr/bin/cat'], $text));
    }

    public function testAllOfItDiesWithWhoeverStartedIt(): void
    {
        $code = 'require '.var_export(
            \dirname(__DIR__, 3).'/vendor/autoload.php',
            true,
        ).'; $c = (new Fasti\Core\Cage\Cage())->start(["/bin/bash", "-c", "echo ready; exec /usr/bin/sleep 86399"]);'
            .' while (null === $c->line(60)) { } echo "up\n"; sleep(600);';
        $process = proc_open([\PHP_BINARY, '-r', $code], [1 => ['pipe', 'w']], $pipes) ?: self::fail('No process.');
        self::assertSame("up\n", fgets($pipes[1]));
        for ($i = 0; $i < 1200 && [] === self::sleepers(); ++$i) {
            usleep(50_000);
        }
        self::assertNotSame([], self::sleepers());
        proc_terminate($process, \SIGKILL);
        for ($i = 0; $i < 1200 && [] !== self::sleepers(); ++$i) {
            usleep(50_000);
        }

        self::assertSame([], self::sleepers());
    }

    public function testWhatOutlivedItsOwnerInItsFirstMomentsIsFound(): void
    {
        // As bubblewrap stands before it has bound its life: without a parent of ours, and without the signal.
        $command = array_filter((new Cage())->command(['/usr/bin/sleep', '86398']), static fn (string $word): bool => '--die-with-parent' !== $word);
        $line = implode(' ', array_map(escapeshellarg(...), $command));
        exec('bash -c '.escapeshellarg("setsid $line 3</dev/null </dev/null >/dev/null 2>&1 &"));
        for ($i = 0; $i < 200 && [] === self::sleepers('86398'); ++$i) {
            usleep(20_000);
        }
        self::assertNotSame([], self::sleepers('86398'));

        // Another run on this machine may be quicker to find it.
        Cage::sweep();
        for ($i = 0; $i < 200 && [] !== self::sleepers('86398'); ++$i) {
            usleep(20_000);
        }
        self::assertSame([], self::sleepers('86398'));
    }

    public function testLinesComeAsTheyAreSaidAndNobodyWaitsForeverForThem(): void
    {
        $child = new Child(['/usr/bin/bash', '-c', 'echo one; echo two; read x; echo "got $x"; sleep 60'], 'bash');

        self::assertSame(['one', 'two', null], [$child->line(5), $child->line(5), $child->line(0.05)]);
        $child->write("this\n");
        self::assertSame('got this', $child->line(5));
        self::assertTrue($child->runs());
        $child->stop();
        self::assertFalse($child->runs());
        self::assertNull($child->line(5));
    }

    private static function in(string $script): string
    {
        return trim((new Cage())->run([self::shell(), '-c', $script]));
    }

    private static function shell(): string
    {
        return '/usr/bin/bash';
    }

    /** @return list<string> */
    private static function sleepers(string $seconds = '86399'): array
    {
        return array_values(array_filter(
            glob('/proc/[0-9]*/cmdline') ?: [],
            static fn (string $file): bool => str_starts_with((string) @file_get_contents($file), "/usr/bin/sleep\0$seconds\0"),
        ));
    }
}
