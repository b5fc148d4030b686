<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Scripts;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\OpenForm;
use Fasti\Core\Catalog\Trigger;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Script\ScriptReader;
use Fasti\Core\Survey\Choice;
use Fasti\Core\Survey\SilentProgress;
use Fasti\Support\Row;
use Fasti\Tests\App\Engines;
use Fasti\Tests\App\OddSchema;
use Fasti\Tests\App\Sql\PlainRows;

/**
 * Runs a script on a real server by the engine's own client, surveys what came into being, surveys the script, and says
 * every property in which the two differ.
 */
final class Harness
{
    public const ENGINES = ['mariadb', 'postgresql', 'sqlite'];
    private const SCHEMAS = ['mariadb' => 'fasti_trait', 'postgresql' => 'public', 'sqlite' => 'main'];

    private const FILE = '/fasti-trait.sqlite';

    /** What the server had after the last script. */
    private ?Catalog $made = null;

    /** @return iterable<string, array{string, string}> name → engine and script, from the files of tests/scripts */
    public static function traits(): iterable
    {
        foreach (self::ENGINES as $engine) {
            foreach (glob(__DIR__."/../../scripts/$engine/*.sql") ?: [] as $file) {
                foreach (preg_split('/^-- @ /m', (string) file_get_contents($file), -1, \PREG_SPLIT_NO_EMPTY) ?: [] as $case) {
                    [$name, $sql] = explode("\n", $case, 2);
                    yield "$engine: $name" => [$engine, $sql];
                }
            }
        }
    }

    /** @return list<string> */
    public function differences(string $engine, string $sql, string $dialect = ''): array
    {
        return self::compared($this->live($engine, $sql), $this->script($sql, '' === $dialect ? $engine : $dialect, self::SCHEMAS[$engine]));
    }

    /**
     * What the engine's own tool writes of what was made last, read and held against it.
     *
     * @return list<string>
     */
    public function dumpDifferences(string $engine): array
    {
        return self::compared($this->made ?? throw new \LogicException(), $this->script($this->dump($engine), $engine, self::SCHEMAS[$engine]));
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
        $pdo = match ($engine) {
            'mariadb' => OddSchema::server(),
            'postgresql' => Engines::pdo(Engines::postgreSql('fasti_trait')),
            default => new \PDO('sqlite:'.sys_get_temp_dir().self::FILE, null, null, [\PDO::ATTR_ERRMODE => \PDO::ERRMODE_EXCEPTION]),
        };
        if ('mariadb' === $engine) {
            $pdo->exec('USE fasti_trait');
        }

        return $pdo;
    }

    public function survey(string $engine): Catalog
    {
        $pdo = match ($engine) {
            'mariadb' => OddSchema::server(),
            'postgresql' => Engines::pdo(Engines::postgreSql('fasti_trait')),
            default => new \PDO('sqlite:'.sys_get_temp_dir().self::FILE, null, null, [\PDO::ATTR_ERRMODE => \PDO::ERRMODE_EXCEPTION]),
        };
        if ('postgresql' === $engine) {
            $pdo->exec("SET search_path = ''");
        }
        $schemas = 'mariadb' === $engine ? ['fasti_trait', 'fasti_trait_b'] : [];
        $reader = Dialects::of($engine)->reader(new PlainRows($pdo), '') ?? throw new \LogicException();

        return $this->made = $reader->read(new Choice($schemas), new SilentProgress());
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
        $pdo = match ($engine) {
            'mariadb' => OddSchema::server(),
            'postgresql' => Engines::pdo(Engines::postgreSql('fasti_trait')),
            default => new \PDO('sqlite:'.sys_get_temp_dir().self::FILE, null, null, [\PDO::ATTR_ERRMODE => \PDO::ERRMODE_EXCEPTION]),
        };
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

    public function script(string $sql, string $dialect, string $schema = ''): Catalog
    {
        $path = sys_get_temp_dir().'/fasti-trait-'.bin2hex(random_bytes(4)).'.sql';
        file_put_contents($path, $sql);
        try {
            return (new ScriptReader($path, Dialects::named($dialect)?->grammar(), $schema))->read(new Choice(), new SilentProgress());
        } finally {
            unlink($path);
        }
    }

    public function dump(string $engine): string
    {
        return Engines::dump(match ($engine) {
            'mariadb' => self::mariaDb('mariadb-dump').' --no-data --routines --databases fasti_trait',
            'postgresql' => self::psql('pg_dump -s'),
            default => 'sqlite3 '.escapeshellarg(sys_get_temp_dir().self::FILE).' .dump',
        });
    }

    /** @return list<string> in which a script differs from what was made last */
    public function madeDifferences(string $engine, string $sql): array
    {
        return self::compared($this->made ?? throw new \LogicException(), $this->script($sql, $engine, self::SCHEMAS[$engine]));
    }

    /** @return list<string> */
    public static function compared(Catalog $live, Catalog $script): array
    {
        $a = self::plain($live);
        $b = self::plain($script);
        foreach ($a as $name => &$table) {
            if (\is_array($table) && \is_array($b[$name] ?? null) && null === ($b[$name]['collation'] ?? null)) {
                // A script that says no collation leaves it to the server.
                $table['collation'] = null;
            }
        }

        return [...self::diff($a, $b, ''), ...array_values(array_filter($script->notes, static fn (string $note): bool => str_contains($note, ', line ')))];
    }

    /** @return array<string, mixed> */
    private static function plain(Catalog $catalog): array
    {
        $plain = [];
        foreach ($catalog->tables as $table) {
            $bare = array_map(
                static fn (Trigger $trigger): Trigger => new Trigger($trigger->name, $trigger->timing, $trigger->event, $trigger->body),
                $table->triggers,
            );
            $form = OpenForm::of($table->with(rowEstimate: null, sizeBytes: null, triggers: $bare));
            if ($table->kind->isView()) {
                $form['definition'] = '';
                unset($form['storage'], $form['collation']);
                $form['columns'] = array_map(static fn ($c): array => ['name' => $c->name, 'type' => $c->type, 'comment' => $c->comment], $table->columns);
            }
            $plain[$table->schema.'.'.$table->name] = $form;
        }
        ksort($plain, \SORT_STRING);
        foreach ($catalog->routines as $i => $routine) {
            $plain["routine $i"] = array_diff_key(OpenForm::of($routine), ['statement' => true]);
        }

        return $plain;
    }

    /** @return list<string> */
    private static function diff(mixed $a, mixed $b, string $path): array
    {
        if (!\is_array($a) || !\is_array($b)) {
            return $a === $b
                ? []
                : [$path.': live '.json_encode($a, \JSON_UNESCAPED_SLASHES | \JSON_UNESCAPED_UNICODE)
                    .', script '.json_encode($b, \JSON_UNESCAPED_SLASHES | \JSON_UNESCAPED_UNICODE)];
        }
        [$a, $b] = [self::named($a), self::named($b)];
        $found = [];
        if (array_keys($a) !== array_keys($b) && [] === array_diff_key($a, $b) && [] === array_diff_key($b, $a)) {
            $found[] = $path.': order live '.implode(',', array_keys($a)).' script '.implode(',', array_keys($b));
        }
        foreach ($a + $b as $key => $_) {
            array_push($found, ...self::diff($a[$key] ?? null, $b[$key] ?? null, $path.'/'.$key));
        }

        return $found;
    }

    /**
     * @param array<mixed> $list
     *
     * @return array<mixed>
     */
    private static function named(array $list): array
    {
        $byName = [];
        foreach ($list as $key => $value) {
            $name = \is_int($key) && \is_array($value) && \is_string($value['name'] ?? null) ? $value['name'] : $key;
            $byName[isset($byName[$name]) ? $name.'#'.$key : $name] = $value;
        }

        return $byName;
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
        $path = sys_get_temp_dir().self::FILE;
        if (is_file($path)) {
            unlink($path);
        }
        self::client('sqlite3 -bail '.escapeshellarg($path), $sql);
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
