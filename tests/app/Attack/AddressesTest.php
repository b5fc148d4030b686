<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Attack;

use Fasti\Core\Survey\SourceError;
use Fasti\Core\Survey\Target;
use Fasti\Source\OwnDatabase;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** Fasti's own database is reached by no name, and no socket of the machine by any that an administrator has not listed. */
final class AddressesTest extends TestCase
{
    #[DataProvider('disguises')]
    public function testTheOwnDatabaseIsRefusedInWhateverDisguise(string $host): void
    {
        $this->expectException(SourceError::class);
        $this->expectExceptionMessage("Fasti's own database");
        self::own()->addresses(new Target('mariadb', $host, 33460, 'fasti', 'somebody', ''));
    }

    #[DataProvider('disguises')]
    public function testItsAccountIsRefusedToo(string $host): void
    {
        $this->expectExceptionMessage("Fasti's own database");
        self::own()->addresses(new Target('mariadb', $host, 33460, '', ' FASTI ', ''));
    }

    /** @return iterable<array{string}> */
    public static function disguises(): iterable
    {
        foreach (['127.0.0.1', 'localhost', 'LOCALHOST', '127.1', '0x7f000001', '0x7f.1', '2130706433', '017700000001', '127.0.0.53',
            '0.0.0.0', '0', '::1', '[::1]', '::', '::ffff:127.0.0.1', '0:0:0:0:0:0:0:1',
            ' 127.0.0.1 ', 'localhost.'] as $host) {
            yield $host => [$host];
        }
    }

    public function testAnotherDatabaseOfThatServerIsFine(): void
    {
        self::assertSame(['127.0.0.1'], self::own()->addresses(new Target('mariadb', '127.1', 33460, 'fieldwork', 'demo', '')));
        self::assertSame(['127.0.0.1'], self::own()->addresses(new Target('mariadb', '127.0.0.1', 3306, 'fasti', 'fasti', '')));
    }

    #[DataProvider('sockets')]
    public function testASocketIsNoHost(string $host): void
    {
        $this->expectException(SourceError::class);
        self::own()->addresses(new Target('postgresql', $host, 5432, 'x', 'x', ''));
    }

    /** @return iterable<array{string}> */
    public static function sockets(): iterable
    {
        foreach (['/tmp', '/var/run/postgresql', '@abstract', "a\0b", 'a;unix_socket=/tmp/x', 'a b', '../tmp', 'a/b', "x\nhost=y", '\\\\pipe'] as $host) {
            yield addcslashes($host, "\0..\37") => [$host];
        }
    }

    public function testOneThatIsListedIsUsed(): void
    {
        $folder = (string) realpath(sys_get_temp_dir());
        $own = new OwnDatabase('127.0.0.1', 33460, 'fasti', 'fasti', "/somewhere, $folder");

        self::assertSame([$folder], $own->addresses(new Target('postgresql', sys_get_temp_dir().'/.', 5432, 'x', 'x', '')));
        $this->expectExceptionMessage('only where an administrator listed it');
        $own->addresses(new Target('postgresql', '/', 5432, 'x', 'x', ''));
    }

    public function testAnUnknownNameIsSaid(): void
    {
        $this->expectExceptionMessage('No host is known by the name “no-such-host.invalid”');
        self::own()->addresses(new Target('mariadb', 'no-such-host.invalid', 3306, '', '', ''));
    }

    private static function own(): OwnDatabase
    {
        return new OwnDatabase('127.0.0.1', 33460, 'fasti', 'fasti');
    }
}
