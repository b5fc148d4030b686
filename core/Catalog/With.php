<?php

declare(strict_types=1);

namespace Fasti\Core\Catalog;

/** A copy that differs in what is named, and in nothing else: `$table->with(columns: $fewer)`. */
trait With
{
    public function with(mixed ...$changed): static
    {
        $all = get_object_vars($this);
        $unknown = array_diff_key($changed, $all);
        if ([] !== $unknown) {
            throw new \InvalidArgumentException(\sprintf('%s has no %s.', static::class, implode(', ', array_keys($unknown))));
        }

        /** @var \ReflectionClass<static>|null $class it is asked for so often that making it anew shows */
        static $class;
        $class ??= new \ReflectionClass($this);

        return $class->newInstanceArgs(array_merge($all, $changed));
    }
}
