<?php

declare(strict_types=1);

namespace Fasti\Core\Dialect;

use Fasti\Core\Catalog\Catalog;

/** The engines that Fasti knows. Each has a folder in core/Engine, whose class NAMEDialect plugs it in. */
final class Dialects
{
    private const FOLDER = __DIR__.'/../Engine/';
    /** The standard, for what is of no engine in particular. */
    private const FALLBACK = 'sql';

    /** @var array<string, Dialect> by name */
    private static array $all = [];

    /** @return array<string, Dialect> by name, in the order in which they are listed */
    public static function all(): array
    {
        if ([] === self::$all) {
            $found = array_map(self::made(...), array_map(basename(...), glob(self::FOLDER.'*', \GLOB_ONLYDIR) ?: []));
            usort($found, static fn (Dialect $a, Dialect $b): int => [$a->rank(), $a->label()] <=> [$b->rank(), $b->label()]);
            self::$all = array_combine(array_map(static fn (Dialect $dialect): string => $dialect->name(), $found), $found);
        }

        return self::$all;
    }

    /** @return array<string, Dialect> those that scripts of structure are written for */
    public static function written(): array
    {
        return array_filter(self::all(), static fn (Dialect $dialect): bool => $dialect->writes());
    }

    /** The one for which is written where nobody says which. */
    public static function usual(): Dialect
    {
        foreach (self::all() as $dialect) {
            if ($dialect->isUsual()) {
                return $dialect;
            }
        }

        return self::all()[self::FALLBACK];
    }

    /** The dialect of an engine; the standard for one that is not known, as of a catalog from elsewhere. */
    public static function of(string $engine): Dialect
    {
        return self::named($engine) ?? self::all()[self::FALLBACK];
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
        return DialectDetection::of($script, self::all(), self::FALLBACK);
    }

    private static function made(string $folder): Dialect
    {
        $class = 'Fasti\\Core\\Engine\\'.$folder.'\\'.$folder.'Dialect';
        if (!is_a($class, Dialect::class, true)) {
            throw new \LogicException(\sprintf('There is no dialect %s.', $class));
        }

        return new $class();
    }
}
