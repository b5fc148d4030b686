<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Profile;

use Fasti\Core\Survey\Choice;
use Fasti\Core\Survey\SilentProgress;
use Fasti\Core\Survey\Target;
use Fasti\Core\Value\Allowed;
use Fasti\Profile\Profiling;
use Fasti\Source\Sources;
use Fasti\Tests\App\AppTestCase;
use Fasti\Tests\App\Engines;
use PHPUnit\Framework\Attributes\DataProvider;

/** What is allowed is held against the data by each engine, and each comes to the same as the values themselves would. */
final class AllowedInDataTest extends AppTestCase
{
    /**
     * Field → what is allowed, and how many of the 200 rows break it. `wide` has so many values that the engine is asked; the others are counted one by one.
     */
    private const ALLOWED = [
        'code' => ['matches K[0-9]{3}', 2], 'flag' => ["one of G, S, O'Hara", 20], 'amount' => ['0 to 150', 51], 'day' => ['2020-01-01 to 2020-06-30', 18],
        'word' => ['at most 4 characters', 10], 'caps' => ['capital letters', 100],
    ];

    /** @return iterable<string, array{string}> */
    public static function engines(): iterable
    {
        yield 'MariaDB' => ['mariadb'];
        yield 'PostgreSQL' => ['postgresql'];
        yield 'SQLite' => ['sqlite'];
    }

    #[DataProvider('engines')]
    public function testEachEngineFindsWhatBreaks(string $engine): void
    {
        [$target, $drop] = self::made($engine);
        try {
            $sources = self::get(Sources::class);
            $table = $sources->reader($target)->read(new Choice([], ['readings']), new SilentProgress())->tables[0];
            $allowed = array_map(static fn (array $one): Allowed => Allowed::parse($one[0], static fn (): ?array => null), self::ALLOWED);
            $profile = (new Profiling($sources, $target))->table($table, [], [], new SilentProgress(), $allowed);
            foreach (self::ALLOWED as $field => [$text, $broken]) {
                $of = $profile->fields[$field];
                self::assertSame($broken, $of->broken, "$field: $text");
                self::assertNotSame([], $of->breaking, $field);
                foreach (array_keys($of->breaking) as $value) {
                    self::assertFalse($allowed[$field]->fits((string) $value), "$field: $value");
                }
            }
            self::assertNull($profile->fields['id']->broken, 'Nothing is said of it.');
        } finally {
            $drop();
        }
    }

    /** @return array{Target, \Closure(): void} */
    private static function made(string $engine): array
    {
        $sql = 'CREATE TABLE readings (id INTEGER PRIMARY KEY, code VARCHAR(10), flag VARCHAR(8), amount DECIMAL(8,2), day DATE, word VARCHAR(20), caps '
            .'VARCHAR(20));';
        for ($i = 0; $i < 200; ++$i) {
            $sql .= \sprintf(
                "INSERT INTO readings VALUES (%d, '%s', %s, %d.25, '%s', '%s', '%s');", $i, match (true) {
                    13 === $i => 'k013',
                    14 === $i => 'K0145',
                    default => \sprintf('K%03d', $i),
                },
                match (true) {
                    0 === $i % 10 => "'x'",
                    0 === $i % 3 => 'NULL',
                    0 === $i % 7 => "'O''Hara'",
                    default => "'G'",
                }, $i + 1,
                (new \DateTimeImmutable('2020-01-01'))->modify("+$i day")->format('Y-m-d'),
                0 === $i % 20 ? 'größe'.$i : 'w'.$i % 1000, 0 === $i % 2 ? 'ABÄ' : 'abÄ',
            );
        }
        if ('postgresql' === $engine) {
            file_put_contents($path = sys_get_temp_dir().'/fasti-allowed-'.getmypid().'.sql', $sql);
            $target = Engines::made($path);
            unlink($path);

            return [$target, static fn () => Engines::drop($target)];
        }
        if ('sqlite' === $engine) {
            file_put_contents($path = sys_get_temp_dir().'/fasti-allowed-lite-'.getmypid().'.sql', $sql);
            $target = Engines::sqlite($path);
            unlink($path);

            return [$target, static function () use ($target): void { unlink($target->path); }];
        }
        $server = \Fasti\Tests\App\OddSchema::server();
        $name = 'fasti_odd_allowed';
        $account = 'fasti_allowed';
        foreach (["DROP DATABASE IF EXISTS $name", "CREATE DATABASE $name CHARACTER SET utf8mb4", "USE $name", ...array_filter(explode(";\n",
            str_replace(';INSERT', ";\nINSERT", $sql))),
            "CREATE OR REPLACE USER $account@'%' IDENTIFIED BY 'a'", "GRANT SELECT ON $name.* TO $account@'%'"] as $statement) {
            $server->exec(rtrim($statement, ';'));
        }

        return [new Target('mariadb', '127.0.0.1', self::port(), $name, $account, 'a'), static function () use ($server, $name, $account): void {
            $server->exec("DROP DATABASE $name");
            $server->exec("DROP USER $account@'%'");
        }];
    }
}
