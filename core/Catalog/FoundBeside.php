<?php

declare(strict_types=1);

namespace Fasti\Core\Catalog;

/** The members of a ClosedSet are the classes in the folder of the one that they extend: a further one is found by being there. */
trait FoundBeside
{
    /** @var array<string, self> */
    private static array $known = [];

    /** Where it stands where they are offered: the smaller first, and among equals by name. */
    abstract public function rank(): int;

    /** @return non-empty-array<string, self> */
    public static function known(): array
    {
        if ([] === self::$known) {
            $set = new \ReflectionClass(self::class);
            $found = [];
            foreach (glob(\dirname((string) $set->getFileName()).'/*.php') ?: [] as $file) {
                $class = $set->getNamespaceName().'\\'.basename($file, '.php');
                if (is_subclass_of($class, self::class) && !(new \ReflectionClass($class))->isAbstract()) {
                    $found[] = new $class();
                }
            }
            usort($found, static fn (self $a, self $b): int => [$a->rank(), $a->name()] <=> [$b->rank(), $b->name()]);
            self::$known = array_combine(array_map(static fn (self $one): string => $one->name(), $found), $found);
        }

        return [] === self::$known ? throw new \LogicException(\sprintf('There is nothing beside %s.', self::class)) : self::$known;
    }

    public static function named(string $name): ?self
    {
        return self::known()[$name] ?? null;
    }
}
