<?php

declare(strict_types=1);

namespace Fasti\Bench;

use Fasti\Core\Survey\Rows;
use Fasti\Core\Survey\Target;
use Fasti\Source\Sources;
use Fasti\Support\Row;

/** How the bench reaches databases: as one who may make them, and as Fasti reads them. */
final class Session
{
    private const ACCOUNT = 'fasti_bench_reader';
    private const SECRET = 'reads';

    public static Sources $sources;

    public static function server(): \PDO
    {
        $server = new \PDO(
            'mysql:unix_socket='.Row::text(['s' => $_SERVER['DATABASE_SOCKET'] ?? ''], 's').';charset=utf8mb4',
            'root',
            '',
            [\PDO::ATTR_ERRMODE => \PDO::ERRMODE_EXCEPTION],
        );
        $server->exec("CREATE USER IF NOT EXISTS '".self::ACCOUNT."'@'127.0.0.1' IDENTIFIED BY '".self::SECRET."'");
        $server->exec("GRANT SELECT, SHOW VIEW, TRIGGER ON *.* TO '".self::ACCOUNT."'@'127.0.0.1'");

        return $server;
    }

    public static function target(string $database): Target
    {
        return new Target('mariadb', '127.0.0.1', Row::int(['p' => $_SERVER['DATABASE_PORT'] ?? 33460], 'p'), $database, self::ACCOUNT, self::SECRET);
    }

    public static function rows(Target $target, int $seconds = 60): Rows
    {
        return self::$sources->rows($target, $seconds) ?? throw new \LogicException('It has no session.');
    }
}
