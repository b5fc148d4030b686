<?php

declare(strict_types=1);

namespace Fasti\Core\Catalog;

/**
 * Takes the objects of a catalog to their open form and back: arrays that encode to the JSON of docs/catalog.schema.json.
 *
 * The members are those of the constructors, found by reflection, so that a new one travels without being listed anywhere.
 * Reading is forgiving: a member that is missing or of another type falls back to "nothing known", and an object that its
 * own constructor refuses is left out of its list.
 *
 * @phpstan-type Member array{name: string, type: string, null: bool, of: ?string, whenSet: bool, moment: bool, given: bool, default: mixed}
 */
final class OpenForm
{
    /** @var array<class-string, list<Member>> */
    private static array $members = [];

    /** @return array<string, mixed> */
    public static function of(object $object): array
    {
        return self::written($object, false);
    }

    /**
     * A short hash of all structure of a table: equal when, and only when, nothing about it has changed.
     */
    public static function fingerprint(Table $table): string
    {
        return hash('xxh128', json_encode(self::written($table, true), \JSON_THROW_ON_ERROR | \JSON_INVALID_UTF8_SUBSTITUTE | \JSON_UNESCAPED_UNICODE));
    }

    /**
     * @template T of object
     *
     * @param class-string<T> $class
     * @param array<mixed>    $data
     *
     * @return T
     *
     * @throws \InvalidArgumentException where the constructor refuses what it is given
     */
    public static function read(string $class, array $data): object
    {
        $given = [];
        foreach (self::members($class) as $member) {
            $value = self::value($member, $data[$member['name']] ?? null);
            if (null !== $value || $member['null']) {
                $given[$member['name']] = $value;
            } elseif (!$member['given']) {
                $given[$member['name']] = self::nothing($member['type']);
            }
        }

        return new $class(...$given);
    }

    /** @return array<string, mixed> */
    private static function written(object $object, bool $structure): array
    {
        $data = [];
        foreach (self::members($object::class) as $member) {
            if ($structure && $member['moment']) {
                continue;
            }
            $value = $object->{$member['name']};
            if ($member['whenSet'] && ($value === $member['default'] || null === $value || [] === $value)) {
                continue;
            }
            $data[$member['name']] = match (true) {
                $value instanceof \BackedEnum => $value->value,
                $value instanceof ClosedSet => $value->name(),
                \is_object($value) => self::written($value, $structure),
                \is_array($value) && null !== $member['of'] && class_exists($member['of']) => array_map(
                    static fn (mixed $each): mixed => \is_object($each) ? self::written($each, $structure) : $each,
                    $value,
                ),
                default => $value,
            };
        }

        return $data;
    }

    /** @param Member $member */
    private static function value(array $member, mixed $value): mixed
    {
        return match (true) {
            null === $value => null,
            'string' === $member['type'] => \is_string($value) ? $value : null,
            'int' === $member['type'] => \is_int($value) ? $value : null,
            'float' === $member['type'] => \is_int($value) || \is_float($value) ? (float) $value : null,
            'bool' === $member['type'] => \is_bool($value) ? $value : null,
            'array' === $member['type'] => \is_array($value) ? self::listed($member['of'], $value) : null,
            is_subclass_of($member['type'], \BackedEnum::class) => \is_string($value) ? $member['type']::tryFrom($value) : null,
            is_subclass_of($member['type'], ClosedSet::class) => \is_string($value) ? $member['type']::known()[$value] ?? null : null,
            class_exists($member['type']) => \is_array($value) ? self::maybe($member['type'], $value) : null,
            default => null,
        };
    }

    /**
     * @param array<mixed> $values
     *
     * @return array<mixed>
     */
    private static function listed(?string $of, array $values): array
    {
        if ('int' === $of) {
            return array_filter($values, is_int(...));
        }
        if (null === $of || !class_exists($of)) {
            return array_values(array_filter($values, is_string(...)));
        }
        $read = [];
        foreach ($values as $value) {
            $object = \is_array($value) ? self::maybe($of, $value) : null;
            if (null !== $object) {
                $read[] = $object;
            }
        }

        return $read;
    }

    /**
     * @param class-string $class
     * @param array<mixed> $data
     */
    private static function maybe(string $class, array $data): ?object
    {
        try {
            return self::read($class, $data);
        } catch (\InvalidArgumentException) {
            return null;
        }
    }

    private static function nothing(string $type): mixed
    {
        return match (true) {
            'string' === $type => '',
            'int' === $type => 0,
            'float' === $type => 0.0,
            'bool' === $type => false,
            'array' === $type => [],
            is_subclass_of($type, \BackedEnum::class) => $type::cases()[0],
            is_subclass_of($type, ClosedSet::class) => array_values($type::known())[0],
            class_exists($type) => self::read($type, []),
            default => null,
        };
    }

    /**
     * @param class-string $class
     *
     * @return list<Member>
     */
    private static function members(string $class): array
    {
        if (isset(self::$members[$class])) {
            return self::$members[$class];
        }
        $members = [];
        foreach ((new \ReflectionClass($class))->getConstructor()?->getParameters() ?? [] as $parameter) {
            $type = $parameter->getType();
            if (!$type instanceof \ReflectionNamedType) {
                throw new \LogicException(\sprintf('%s::$%s has no single type.', $class, $parameter->getName()));
            }
            $of = $parameter->getAttributes(ListOf::class)[0] ?? null;
            $members[] = [
                'name' => $parameter->getName(),
                'type' => $type->getName(),
                'null' => $type->allowsNull(),
                'of' => $of?->newInstance()->what,
                'whenSet' => [] !== $parameter->getAttributes(WhenSet::class),
                'moment' => [] !== $parameter->getAttributes(OfTheMoment::class),
                'given' => $parameter->isDefaultValueAvailable(),
                'default' => $parameter->isDefaultValueAvailable() ? $parameter->getDefaultValue() : null,
            ];
        }

        return self::$members[$class] = $members;
    }
}
