<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Golden;

use Fasti\Bench\Joins\Filled;
use Fasti\Bench\Joins\Made;
use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\ClosedSet;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Profile\SqlProfiler;
use Fasti\Core\Profile\TableProfile;
use Fasti\Core\Survey\SilentProgress;

/** Catalogs that ship with Fasti, of some size, with rows for some of them; and how any of what is made of them is written down, line by line. */
final class World
{
    /** @var array<string, Catalog> */
    private static array $read = [];

    public static function demo(): Catalog
    {
        return self::$read['demo'] ??= self::script('demo/fieldwork.sql', 'fieldwork');
    }

    public static function mart(): Catalog
    {
        return self::$read['mart'] ??= self::script('demo/mart.sql', 'mart', 'sqlite');
    }

    public static function playhouse(): Catalog
    {
        return self::$read['playhouse'] ??= self::script('bench/texts/playhouse.sql', 'playhouse');
    }

    /** One of the made schemas, which SQLite holds. */
    public static function made(string $name, int $style = 0): Catalog
    {
        return self::$read["$name $style"] ??= Made::of($name, $style);
    }

    /** Rows for one of them. */
    public static function filled(string $name, int $style = 0): Filled
    {
        return new Filled(self::made($name, $style), 7);
    }

    /** @return array<int, TableProfile> of each table with rows, by its number in the catalog */
    public static function profiles(string $name): array
    {
        $profiler = new SqlProfiler(self::filled($name), Dialects::of('sqlite'));
        $found = [];
        foreach (self::made($name)->tables as $i => $table) {
            if (!$table->kind->isView()) {
                $found[$i] = $profiler->profile($table, [], [], new SilentProgress());
            }
        }

        return $found;
    }

    /**
     * Any values, one a line: objects by their public members, figures to four digits.
     *
     * @return list<string>
     */
    public static function lines(string $name, mixed $value): array
    {
        if ($value instanceof ClosedSet) {
            $value = $value->name();
        } elseif ($value instanceof \BackedEnum) {
            $value = $value->value;
        } elseif ($value instanceof \UnitEnum) {
            $value = $value->name;
        } elseif ($value instanceof \Stringable) {
            $value = (string) $value;
        }
        if (\is_object($value)) {
            $value = get_object_vars($value);
        }
        if (!\is_array($value)) {
            return [$name.': '.match (true) {
                \is_float($value) => Snapshot::figure($value, 4),
                \is_string($value) => addcslashes($value, "\0..\37\\"),
                default => json_encode($value),
            }];
        }
        $found = [];
        foreach ($value as $key => $each) {
            if (null !== $each && [] !== $each && '' !== $each) {
                array_push($found, ...self::lines("$name.$key", $each));
            }
        }

        return $found;
    }

    /**
     * Very many lines in one, where only that something has changed is to show, and not what.
     *
     * @param list<string> $lines
     */
    public static function digest(string $name, array $lines): string
    {
        return \sprintf('%s: %d lines %s', $name, \count($lines), substr(hash('xxh128', implode("\n", $lines)), 0, 12));
    }

    private static function script(string $path, string $schema, string $dialect = 'mariadb'): Catalog
    {
        return Traits::script((string) file_get_contents(\dirname(__DIR__, 3).'/'.$path), $dialect, $schema);
    }
}
