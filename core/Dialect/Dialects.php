<?php

declare(strict_types=1);

namespace Fasti\Core\Dialect;

use Fasti\Core\Catalog\Catalog;

/** The engines that Fasti knows. Each has a folder here, whose class NAMEDialect plugs it in. */
final class Dialects
{
    /** The one list: adding an engine is a folder and its name here. */
    private const FOLDERS = ['MariaDb', 'MySql', 'PostgreSql', 'Sqlite', 'Standard', 'Oracle', 'SqlServer', 'Documents'];
    private const FALLBACK = 'Standard';
    /** The engine for which is written where nobody says which. */
    public const USUAL = 'postgresql';

    /** @var array<string, Dialect> by name */
    private static array $all = [];

    /** @return array<string, Dialect> by name, in the order of the list */
    public static function all(): array
    {
        if ([] === self::$all) {
            foreach (self::FOLDERS as $folder) {
                $dialect = self::made($folder);
                self::$all[$dialect->name()] = $dialect;
            }
        }

        return self::$all;
    }

    /** The dialect of an engine; the standard for one that is not known, as of a catalog from elsewhere. */
    public static function of(string $engine): Dialect
    {
        return self::named($engine) ?? self::all()[self::made(self::FALLBACK)->name()];
    }

    /** That of a catalog: what its types mean depends on who enforces them. */
    public static function ofCatalog(Catalog $catalog): Dialect
    {
        return self::of($catalog->engine);
    }

    public static function named(string $name): ?Dialect
    {
        $name = strtolower($name);
        foreach (self::all() as $known => $dialect) {
            if ($known === $name || \in_array($name, $dialect->aliases(), true)) {
                return $dialect;
            }
        }

        return null;
    }

    /** The engine whose connection URLs begin like that. */
    public static function ofScheme(string $scheme): ?Dialect
    {
        foreach (self::all() as $dialect) {
            if (isset($dialect->schemes()[strtolower($scheme)])) {
                return $dialect;
            }
        }

        return null;
    }

    /** @return array<string, Grammar> those in which scripts may be written, by the name of the dialect */
    public static function grammars(): array
    {
        return array_filter(array_map(static fn (Dialect $dialect): ?Grammar => $dialect->grammar(), self::all()));
    }

    /** The dialect of a script, by what only scripts of one dialect hold. */
    public static function detected(string $script): DialectDetection
    {
        return DialectDetection::of($script, self::grammars(), self::made(self::FALLBACK)->name());
    }

    private static function made(string $folder): Dialect
    {
        $class = __NAMESPACE__.'\\'.$folder.'\\'.$folder.'Dialect';
        if (!is_a($class, Dialect::class, true)) {
            throw new \LogicException(\sprintf('There is no dialect %s.', $class));
        }

        return new $class();
    }
}
