<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Golden;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Script\ScriptReader;
use Fasti\Core\Survey\Choice;
use Fasti\Core\Survey\Progress;
use Fasti\Core\Survey\SilentProgress;

/** The scripts of tests/scripts, and what servers said of the databases that they make. */
final class Traits
{
    public const ENGINES = ['mariadb', 'postgresql', 'sqlite'];
    public const SCHEMAS = ['mariadb' => 'fasti_trait', 'postgresql' => 'public', 'sqlite' => 'main'];

    /** What a catalog does not hold, so that no script can be made of it. */
    public const NOT_HELD = [
        'mariadb: a sequence' => 'a table that is a sequence', 'mariadb: an aggregate function' => 'that a function is an aggregate',
        'mariadb: versioned with its own columns' => 'the period of the system', 'mariadb: a foreign key to a table that is not there' => 'what is not there',
        'postgresql: a collation of its own' => 'collations', "postgresql: operators and casts of one's own" => 'operators',
        'postgresql: a domain over a domain' => 'the inner domain', 'postgresql: extensions' => 'extensions and classes of operators',
        'postgresql: a composite type and a range of its own' => 'such types',
        "postgresql: functions that return rows and types of one's own" => 'such types', 'postgresql: aggregates' => 'aggregates, which are noted',
        'postgresql: constraints that come, go and change names' => 'the same key twice: the server makes one of two that are made together',
        'sqlite: an integer key numbers itself' => 'INTEGER PRIMARY KEY DESC, a slip of the engine that it keeps',
    ];

    /** @return iterable<string, array{string, string}> name → engine and script, from the files of tests/scripts */
    public static function all(): iterable
    {
        foreach (self::ENGINES as $engine) {
            foreach (glob(\dirname(__DIR__, 2)."/scripts/$engine/*.sql") ?: [] as $file) {
                foreach (preg_split('/^-- @ /m', (string) file_get_contents($file), -1, \PREG_SPLIT_NO_EMPTY) ?: [] as $case) {
                    [$name, $sql] = explode("\n", $case, 2);
                    yield "$engine: $name" => [$engine, $sql];
                }
            }
        }
    }

    /** @return iterable<string, array{string, string}> name → engine and script, of which what a server said is recorded */
    public static function recorded(): iterable
    {
        foreach (self::all() as $name => $trait) {
            if (null !== Golden::of('scripts.'.$trait[0])->case($name)) {
                yield $name => $trait;
            }
        }
    }

    /** As a survey of the server found it when it was recorded. */
    public static function live(string $engine, string $name): Catalog
    {
        $case = Golden::of("scripts.$engine")->case($name) ?? throw new \LogicException("$name is not recorded.");

        return self::survey($engine, new Replayed($case['answers']));
    }

    public static function survey(string $engine, Replayed|Recording $rows, Progress $progress = new SilentProgress()): Catalog
    {
        $reader = Dialects::of($engine)->reader($rows, '') ?? throw new \LogicException();

        return $reader->read(new Choice('mariadb' === $engine ? ['fasti_trait', 'fasti_trait_b'] : []), $progress);
    }

    public static function script(string $sql, string $dialect, string $schema = ''): Catalog
    {
        $path = sys_get_temp_dir().'/fasti-trait-'.bin2hex(random_bytes(4)).'.sql';
        file_put_contents($path, $sql);
        try {
            return (new ScriptReader($path, Dialects::named($dialect)?->grammar(), $schema))->read(new Choice(), new SilentProgress());
        } finally {
            unlink($path);
        }
    }
}
