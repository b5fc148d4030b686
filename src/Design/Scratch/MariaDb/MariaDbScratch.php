<?php

declare(strict_types=1);

namespace Fasti\Design\Scratch\MariaDb;

use Fasti\Core\Cage\Cage;
use Fasti\Core\Cage\CageError;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Survey\SourceError;
use Fasti\Design\Scratch\Scratch;
use Fasti\Design\Scratch\ScratchServer;
use Fasti\Design\Scratch\Server;
use Fasti\Design\Scratch\Template;
use Fasti\Source\Connector\Fault;
use Fasti\Source\Connector\Session;
use Fasti\Work\CurrentJob;

/** A mariadbd without a port. Scripts run as an account that has no right of the server: no FILE, no SUPER, no plugins. */
final readonly class MariaDbScratch implements ScratchServer
{
    private const NAME = 'scratch';
    private const OTHERS = ['mysql', 'sys', 'information_schema', 'performance_schema'];
    /** The same when the data is made and when it is used. */
    private const FILES = '--innodb-log-file-size=4M --innodb-data-file-path=ibdata1:4M:autoextend --innodb-undo-tablespaces=0';
    private const START = 'mariadbd --no-defaults --datadir=/work/data --socket=/work/socket --pid-file=/work/pid --tmpdir=/work'
        .' --skip-networking --skip-log-bin '.self::FILES
        .' --innodb-buffer-pool-size=64M --innodb-flush-log-at-trx-commit=0 --innodb-use-native-aio=0 --innodb-flush-method=nosync'
        .' --innodb-temp-data-file-path=ibtmp1:4M:autoextend --performance-schema=0 --skip-name-resolve'
        .' --secure-file-priv=/nothing --local-infile=0 --skip-symbolic-links'
        .' --event-scheduler=DISABLED --max-connections=8 --character-set-server=utf8mb4'
        .' --collation-server=utf8mb4_unicode_ci --default-time-zone=+00:00 --max-statement-time=60';

    public function __construct(private Template $template, private CurrentJob $job)
    {
    }

    public function engine(): string
    {
        return 'mariadb';
    }

    public function with(\Closure $try, array $schemas = []): mixed
    {
        try {
            $program = Cage::program('mariadbd');
            $make = 'mariadb-install-db --no-defaults --force --datadir=/work/data --auth-root-authentication-method=normal --skip-test-db'
                .' --skip-name-resolve '.self::FILES;
            $template = $this->template->of('mariadb', self::cage([]), $program, $make);
            $server = new Server(self::cage([$template => '/template']), self::START, 'MariaDB', $this->job);
        } catch (CageError $e) {
            throw Server::without('MariaDB', $e);
        }
        try {
            $plain = static fn (Fault $fault): SourceError => new SourceError(
                trim($fault->text),
                '',
                null,
                \in_array($fault->code, [2002, 2006, 2013], true) ? SourceError::LOST : '',
            );
            $dialect = Dialects::of('mariadb');
            $secret = bin2hex(random_bytes(16));
            $at = static fn (string $folder): string => "mysql:unix_socket=$folder/socket;charset=utf8mb4";
            $own = $server->session(static fn (string $folder): array => [$at($folder), 'root', ''], [], $plain);
            $own->exec('CREATE DATABASE '.self::NAME);
            $own->exec('CREATE USER '.self::NAME."@localhost IDENTIFIED BY '$secret'");
            foreach (array_unique([self::NAME, ...$schemas]) as $schema) {
                if (!\in_array(strtolower($schema), self::OTHERS, true)) {
                    // The name of a database in GRANT is a pattern.
                    $own->exec(\sprintf('GRANT ALL ON %s.* TO %s@localhost', $dialect->quoted(addcslashes($schema, '_%\\')), self::NAME));
                }
            }
            $own->exec("SET PASSWORD FOR root@localhost = PASSWORD('".bin2hex(random_bytes(16))."')");
            $own->end();
            $open = static fn (\Closure $explain): Session => $server->session(
                static fn (string $folder): array => [$at($folder), self::NAME, $secret],
                ['USE '.self::NAME],
                $explain,
            );
            $scratch = null;
            $scratch = new Scratch($open, $dialect, self::NAME, static function (bool $loose) use (&$scratch): void {
                $scratch?->exec('SET foreign_key_checks = '.($loose ? '0' : '1'));
            });

            return $try($scratch);
        } finally {
            $server->stop();
        }
    }

    /** @param array<string, string> $reads */
    private static function cage(array $reads): Cage
    {
        return new Cage($reads, disk: 1024, memory: 4096, processes: 512, seconds: 600);
    }
}
