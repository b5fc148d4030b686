<?php

declare(strict_types=1);

namespace Fasti\Tests\App;

use Fasti\Core\Survey\Target;

/** The other engines that tests read: a private PostgreSQL server, which bin/postgres starts, and SQLite files. */
final class Engines
{
    private static ?int $port = null;

    public static function postgreSql(string $database = 'postgres', string $account = 'fasti'): Target
    {
        self::$port ??= (int) exec(escapeshellarg(\dirname(__DIR__, 2).'/bin/postgres'));

        return new Target('postgresql', '127.0.0.1', self::$port, $database, $account);
    }

    public static function pdo(Target $target): \PDO
    {
        return new \PDO(
            \sprintf('pgsql:host=127.0.0.1;port=%d;dbname=%s', $target->port, $target->database),
            $target->account,
            '',
            [\PDO::ATTR_ERRMODE => \PDO::ERRMODE_EXCEPTION],
        );
    }

    /** An empty database of that name; one that was there goes. */
    public static function fresh(string $engine, string $name): \PDO
    {
        if ('mariadb' === $engine) {
            $pdo = OddSchema::server();
            $pdo->exec("DROP DATABASE IF EXISTS $name; CREATE DATABASE $name CHARACTER SET utf8mb4 COLLATE utf8mb4_general_ci; USE $name");
        } elseif ('postgresql' === $engine) {
            self::pdo(self::postgreSql())->exec("DROP DATABASE IF EXISTS $name WITH (FORCE)");
            self::pdo(self::postgreSql())->exec("CREATE DATABASE $name");
            $pdo = self::pdo(self::postgreSql($name));
        } else {
            $pdo = new \PDO('sqlite::memory:', null, null, [\PDO::ATTR_ERRMODE => \PDO::ERRMODE_EXCEPTION]);
        }

        return $pdo;
    }

    /** A database made from a script of tests/schemas. */
    public static function made(string $script): Target
    {
        $name = 'fasti_test_'.bin2hex(random_bytes(4));
        self::pdo(self::postgreSql())->exec("CREATE DATABASE $name");
        $target = self::postgreSql($name);
        self::pdo($target)->exec((string) file_get_contents($script));

        return $target;
    }

    public static function drop(Target $target): void
    {
        $server = self::pdo(self::postgreSql());
        $server->exec("DROP DATABASE IF EXISTS $target->database WITH (FORCE)");
    }

    /** What the engine's own tool writes of the structure. */
    public static function dump(string $command): string
    {
        $output = [];
        exec($command.' 2>&1', $output, $code);
        if (0 !== $code) {
            throw new \RuntimeException(implode("\n", $output));
        }

        return implode("\n", $output)."\n";
    }

    public static function sqlite(string $script): Target
    {
        $path = sys_get_temp_dir().'/fasti-'.bin2hex(random_bytes(4)).'.sqlite';
        (new \PDO('sqlite:'.$path, null, null, [\PDO::ATTR_ERRMODE => \PDO::ERRMODE_EXCEPTION]))->exec((string) file_get_contents($script));

        return new Target('sqlite', path: $path);
    }
}
