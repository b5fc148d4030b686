<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Attack;

use Fasti\Account\Role;
use Fasti\Core\Survey\SourceError;
use Fasti\Core\Survey\Target;
use Fasti\Source\Sources;
use Fasti\Tests\App\AppTestCase;
use PHPUnit\Framework\Attributes\DataProvider;

/** A source that accepts and says nothing costs its limit, and no more. */
final class MuteSourceTest extends AppTestCase
{
    /** What a slow machine needs beyond a limit. */
    /** Not a figure of speed: without a limit it would wait for minutes. */
    private const SLOW = 60;

    /** @var resource|null */
    private mixed $server = null;

    protected function tearDown(): void
    {
        if (null !== $this->server) {
            proc_terminate($this->server, \SIGKILL);
            proc_close($this->server);
        }
        parent::tearDown();
    }

    #[DataProvider('servers')]
    public function testItIsGivenUpWithinItsLimit(string $engine, string $how): void
    {
        $port = $this->started($how);
        $began = microtime(true);
        try {
            self::get(Sources::class)->rows(new Target($engine, '127.0.0.1', $port, 'x', 'x', 'x'), 30, 2);
            self::fail('It should have been given up.');
        } catch (SourceError $e) {
            self::assertStringContainsString("127.0.0.1:$port did not answer within 2 seconds", $e->getMessage());
        }
        $took = microtime(true) - $began;
        self::assertGreaterThan(1.0, $took);
        self::assertLessThan(2 + self::SLOW, $took);
    }

    /** @return iterable<string, array{string, string}> */
    public static function servers(): iterable
    {
        foreach (['mariadb', 'mysql', 'postgresql'] as $engine) {
            yield "$engine, mute at once" => [$engine, 'at once'];
        }
        yield 'mute after the greeting' => ['mariadb', 'greeting'];
        yield 'MariaDB, mute after it let us in' => ['mariadb', 'let in'];
        yield 'PostgreSQL, mute after it let us in' => ['postgresql', 'let in, PostgreSQL'];
    }

    public function testWhoeverTestsAConnectionIsToldSoon(): void
    {
        $this->signedIn(Role::ADMINISTRATOR);
        $token = (string) $this->client->request('GET', '/sources/new')->filter('[x-data=connection]')->attr('data-token');
        $port = $this->started('greeting');
        $began = microtime(true);
        $this->client->request('POST', '/sources/test', [
            '_token' => $token, 'engine' => 'mariadb', 'host' => '127.0.0.1', 'port' => $port, 'account' => 'x', 'secret' => 'x', 'database' => '',
        ]);

        self::assertLessThan(2 + self::SLOW, microtime(true) - $began);
        self::assertStringContainsString('did not answer within', $this->content());
    }

    private function started(string $how): int
    {
        $process = proc_open([\PHP_BINARY, __DIR__.'/mute.php', $how], [1 => ['pipe', 'w']], $pipes);
        $this->server = \is_resource($process) ? $process : throw new \LogicException();

        return (int) fgets($pipes[1]);
    }
}
