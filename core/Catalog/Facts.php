<?php

declare(strict_types=1);

namespace Fasti\Core\Catalog;

/** The facts that a class of the catalog declares, see Fact. */
final class Facts
{
    /** @var array<class-string, array<string, Fact>> */
    private static array $known = [];

    /**
     * @param class-string $class
     *
     * @return array<string, Fact> by the name of the member
     */
    public static function of(string $class): array
    {
        if (!isset(self::$known[$class])) {
            self::$known[$class] = [];
            foreach ((new \ReflectionClass($class))->getConstructor()?->getParameters() ?? [] as $parameter) {
                $attribute = $parameter->getAttributes(Fact::class)[0] ?? null;
                if (null !== $attribute) {
                    self::$known[$class][$parameter->getName()] = $attribute->newInstance();
                }
            }
        }

        return self::$known[$class];
    }

    /**
     * What changed, in sentences.
     *
     * @template T of object
     *
     * @param T    $was
     * @param T    $is
     * @param bool $view  both are views, or of one
     * @param bool $alike both were read in the same manner, so that what only one says has come or gone
     *
     * @return list<string>
     */
    public static function changes(object $was, object $is, bool $view = false, bool $alike = true): array
    {
        $words = [];
        foreach (self::of($is::class) as $name => $fact) {
            $before = self::value($was, $name);
            $after = self::value($is, $name);
            $told = null === $before || null === $after ? $fact->silenceTells || ($alike && !$view) : true;
            if ($before !== $after && '' !== $fact->changed && $told && ($fact->ofViews || !$view)) {
                $words[] = $fact->change($before, $after);
            }
        }

        return $words;
    }

    /** @return array<string, string> label → value, of those that show by themselves */
    public static function shown(object $of): array
    {
        $shown = [];
        foreach (self::of($of::class) as $name => $fact) {
            $value = self::value($of, $name);
            if ('' !== $fact->label && !\in_array($value, [null, '', false], true)) {
                $shown[$fact->label] = true === $value ? 'yes' : (string) $value;
            }
        }

        return $shown;
    }

    private static function value(object $of, string $name): string|int|float|bool|null
    {
        $value = $of->{$name};

        return null === $value || \is_scalar($value) ? $value : throw new \LogicException(\sprintf('%s is no plain fact.', $name));
    }
}
