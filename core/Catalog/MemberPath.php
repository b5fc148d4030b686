<?php

declare(strict_types=1);

namespace Fasti\Core\Catalog;

/**
 * Where a member of documents stands: names of members, what lists hold, what stands under the keys of a map.
 *
 * Written `a.b[].c{}`. A name that holds one of those signs, or nothing, is in quotation marks, and a quotation mark within
 * it doubled, so that what is written gives the same steps back: `a."b.c"[]` is a list in the member “b.c” of `a`.
 */
final readonly class MemberPath implements \Stringable
{
    /** What a list holds. */
    public const ITEMS = 0;
    /** What stands under each key of a map. */
    public const VALUES = 1;
    private const SIGNS = '/[.\[\]{}"]/';

    /** @param list<string|self::ITEMS|self::VALUES> $steps names are strings, also those that are digits */
    public function __construct(public array $steps)
    {
    }

    /** The path of a member of the objects at a place. */
    public static function member(string $around, string $name): string
    {
        return ('' === $around ? '' : $around.'.').self::quoted($name);
    }

    public static function items(string $around): string
    {
        return $around.'[]';
    }

    public static function values(string $around): string
    {
        return $around.'{}';
    }

    /** Reads what is written; a sign that cannot stand where it does is part of a name. */
    public static function of(string $path): self
    {
        $steps = [];
        for ($at = 0; $at < \strlen($path); $at += max(1, \strlen($m[0] ?? ''))) {
            preg_match('/\G(?:(\[\])|(\{\})|\.?"((?:[^"]|"")*)"(?=[.\[{]|$)|\.?((?:(?!\[\]|\{\})[^.])+)|.)/s', $path, $m, \PREG_UNMATCHED_AS_NULL, $at);
            $step = match (true) {
                isset($m[1]) => self::ITEMS,
                isset($m[2]) => self::VALUES,
                isset($m[3]) => str_replace('""', '"', $m[3]),
                default => $m[4] ?? null,
            };
            if (null !== $step) {
                $steps[] = $step;
            }
        }

        return new self($steps);
    }

    /** The nearest object around, without the lists that it stands in; null at the top. */
    public function around(): ?self
    {
        $steps = $this->steps;
        while ([] !== $steps && !\is_string(array_pop($steps))) {
            continue;
        }
        while ([] !== $steps && self::ITEMS === end($steps)) {
            array_pop($steps);
        }

        return [] === $steps ? null : new self($steps);
    }

    /** The name of the member, or of the nearest one around what a list or a map holds. */
    public function name(): string
    {
        $names = array_filter($this->steps, is_string(...));

        return [] === $names ? '' : end($names);
    }

    public function __toString(): string
    {
        $path = '';
        foreach ($this->steps as $step) {
            $path = match ($step) {
                self::ITEMS => self::items($path),
                self::VALUES => self::values($path),
                default => self::member($path, $step),
            };
        }

        return $path;
    }

    private static function quoted(string $name): string
    {
        return '' === $name || 1 === preg_match(self::SIGNS, $name) ? Quotes::around($name) : $name;
    }
}
