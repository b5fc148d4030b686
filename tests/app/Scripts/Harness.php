<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Scripts;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\OpenForm;
use Fasti\Support\Row;
use Fasti\Tests\App\Engines;
use Fasti\Tests\App\OddSchema;
use Fasti\Tests\App\Sql\PlainRows;
use Fasti\Tests\Core\Golden\Compared;
use Fasti\Tests\Core\Golden\Golden;
use Fasti\Tests\Core\Golden\Recording;
use Fasti\Tests\Core\Golden\Replayed;
use Fasti\Tests\Core\Golden\Traits;

/**
 * Runs a script on a real server by the engine's own client, surveys what came into being, surveys the script, and says
 * every property in which the two differ.
 */
final class Harness
{
    /** What the server had after the last script. */
    private ?Catalog $made = null;
    private ?Recording $said = null;
    private string $dump = '';

    /** @return list<string> */
    public function differences(string $engine, string $sql, string $dialect = ''): array
    {
        return Compared::catalogs($this->live($engine, $sql), Traits::script($sql, '' === $dialect ? $engine : $dialect, Traits::SCHEMAS[$engine]));
    }

    /**
     * What the engine's own tool writes of what was made last, read and held against it.
     *
     * @return list<string>
     */
    public function dumpDifferences(string $engine): array
    {
        return Compared::catalogs($this->made ?? throw new \LogicException(), Traits::script($this->dump($engine), $engine, Traits::SCHEMAS[$engine]));
    }

    /** @return list<string> */
    public function dumped(string $engine, string $sql): array
    {
        $this->live($engine, $sql);

        return $this->dumpDifferences($engine);
    }

    public function live(string $engine, string $sql): Catalog
    {
        match ($engine) {
            'mariadb' => self::onMariaDb($sql),
            'postgresql' => self::onPostgreSql($sql),
            default => self::onSqlite($sql),
        };

        return $this->survey($engine);
    }

    /** A session of its own with what was made last, which may change it. */
    public function open(string $engine): \PDO
    {
        $pdo = self::session($engine);
        if ('mariadb' === $engine) {
            $pdo->exec('USE fasti_trait');
        }

        return $pdo;
    }

    public function survey(string $engine): Catalog
    {
        $pdo = self::session($engine);
        if ('postgresql' === $engine) {
            $pdo->exec("SET search_path = ''");
        }
        $this->said = new Recording(new PlainRows($pdo), 'mariadb' === $engine ? ['fasti_trait', 'fasti_trait_b'] : []);

        return $this->made = Traits::survey($engine, $this->said);
    }

    /**
     * Hands statements to the server one by one, and keeps those that it carries out.
     *
     * @param list<string> $statements
     *
     * @return string the script of them
     */
    public function accepted(string $engine, array $statements): string
    {
        $this->live($engine, '');
        $pdo = self::session($engine);
        if ('mariadb' === $engine) {
            $pdo->exec('USE fasti_trait');
        }
        $kept = [];
        foreach ($statements as $statement) {
            try {
                $pdo->exec($statement);
                $kept[] = $statement;
            } catch (\PDOException) {
                continue;
            }
        }
        $this->survey($engine);

        return implode(";\n", $kept).";\n";
    }

    /** Nothing is left of what the server had. */
    public function isEmpty(): bool
    {
        return [] === ($this->made->tables ?? []);
    }

    /** Records what the server said of what was made last, and what its own tool wrote, where that is asked. */
    public function record(string $file, string $case, string $sql): void
    {
        if (Golden::records() && null !== $this->said) {
            $catalog = Traits::survey(explode(':', $case)[0], new Replayed($this->said->answers));
            Golden::of($file)->keep($case, $sql, $this->said->answers, $this->dump, ['catalog' => OpenForm::of($catalog)]);
        }
    }

    public function dump(string $engine): string
    {
        return $this->dump = Engines::dump(match ($engine) {
            'mariadb' => self::mariaDb('mariadb-dump').' --no-data --routines --databases fasti_trait',
            'postgresql' => self::psql('pg_dump -s'),
            default => 'sqlite3 '.escapeshellarg(self::file()).' .dump',
        });
    }

    /** @return list<string> in which a script differs from what was made last */
    public function madeDifferences(string $engine, string $sql): array
    {
        return Compared::catalogs($this->made ?? throw new \LogicException(), Traits::script($sql, $engine, Traits::SCHEMAS[$engine]));
    }

    private static function onMariaDb(string $sql): void
    {
        self::client(
            self::mariaDb('mariadb'),
            'DROP DATABASE IF EXISTS fasti_trait; DROP DATABASE IF EXISTS fasti_trait_b; CREATE DATABASE fasti_trait CHARACTER SET utf8mb4 COLLATE '
                .'utf8mb4_general_ci;',
        );
        self::client(self::mariaDb('mariadb').' --comments --default-character-set=utf8mb4 fasti_trait', $sql);
    }

    private static function onPostgreSql(string $sql): void
    {
        Engines::postgreSql();
        $pdo = Engines::pdo(Engines::postgreSql());
        $known = $pdo->query("SELECT 1 FROM pg_database WHERE datname = 'fasti_trait'");
        if (false === $known || false === $known->fetchColumn()) {
            $pdo->exec('CREATE DATABASE fasti_trait');
        }
        $target = Engines::postgreSql('fasti_trait');
        $own = Engines::pdo($target);
        $own->exec("SET client_min_messages = error; DO \$\$ DECLARE r record; BEGIN
            FOR r IN SELECT extname FROM pg_extension WHERE extname <> 'plpgsql' LOOP EXECUTE format('DROP EXTENSION %I CASCADE', r.extname); END LOOP;
            FOR r IN SELECT nspname FROM pg_namespace WHERE nspname NOT LIKE 'pg\\_%'
                AND nspname <> 'information_schema' LOOP EXECUTE format('DROP SCHEMA %I CASCADE', r.nspname); END LOOP;
            CREATE SCHEMA public; END \$\$");
        self::client(self::psql('psql -q -X -v ON_ERROR_STOP=1'), $sql);
    }

    private static function onSqlite(string $sql): void
    {
        $path = self::file();
        if (is_file($path)) {
            unlink($path);
        }
        self::client('sqlite3 -bail '.escapeshellarg($path), $sql);
    }

    private static function session(string $engine): \PDO
    {
        return match ($engine) {
            'mariadb' => OddSchema::server(),
            'postgresql' => Engines::pdo(Engines::postgreSql('fasti_trait')),
            default => new \PDO('sqlite:'.self::file(), null, null, [\PDO::ATTR_ERRMODE => \PDO::ERRMODE_EXCEPTION]),
        };
    }

    /** One for each copy of the house, which may be tested side by side. */
    private static function file(): string
    {
        return sys_get_temp_dir().'/fasti-trait-'.substr(hash('xxh64', __DIR__), 0, 8).'.sqlite';
    }

    private static function mariaDb(string $program): string
    {
        return $program.' --no-defaults --socket='.escapeshellarg(Row::text(['s' => $_SERVER['DATABASE_SOCKET'] ?? ''], 's')).' -uroot';
    }

    private static function psql(string $program): string
    {
        $target = Engines::postgreSql('fasti_trait');

        return \sprintf('PGDATABASE=%s PGOPTIONS=--client-min-messages=error %s -h 127.0.0.1 -p %d -U fasti', $target->database, $program, $target->port);
    }

    private static function client(string $command, string $sql): void
    {
        $process = proc_open($command, [['pipe', 'r'], ['file', '/dev/null', 'w'], ['pipe', 'w']], $pipes);
        if (!\is_resource($process)) {
            throw new \RuntimeException('The client could not be started.');
        }
        fwrite($pipes[0], $sql);
        fclose($pipes[0]);
        $errors = (string) stream_get_contents($pipes[2]);
        if (0 !== proc_close($process) || '' !== trim($errors)) {
            throw new \RuntimeException('The server refuses the script: '.(1 === preg_match('/^.*error.*$/im', $errors, $m) ? $m[0] : trim($errors)));
        }
    }
}
