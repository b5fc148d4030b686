<?php

declare(strict_types=1);

namespace Fasti\Core\Catalog;

/**
 * Where a table stands: its schema and its name, as values. `"a"."b.c"` and `"a.b"."c"` are two places.
 *
 * In words, on command lines and in addresses a part that holds a dot or a quotation mark is quoted, and a quotation mark
 * within it doubled, as in standard SQL: `a."b.c"`.
 */
final readonly class Place implements \Stringable
{
    public function __construct(public string $schema, public string $name)
    {
    }

    /** For the keys of arrays: equal for equal places only. */
    public function key(): string
    {
        return $this->schema."\0".$this->name;
    }

    public static function ofKey(string $key): self
    {
        [$schema, $name] = explode("\0", $key, 2) + [1 => ''];

        return new self($schema, $name);
    }

    /** `main.station`, `"a.b".c`; the name alone where there is no schema. */
    public function __toString(): string
    {
        return ('' === $this->schema ? '' : self::quoted($this->schema).'.').self::quoted($this->name);
    }

    /**
     * Reads `name`, `schema.name` or either with parts in quotation marks.
     *
     * @return self|null null where the text is no place; without a schema, its schema is ''
     */
    public static function parse(string $text): ?self
    {
        if (1 !== preg_match('/^(?:("(?:[^"]|"")*"|[^".]+)\.)?("(?:[^"]|"")*"|[^".]+)$/u', $text, $m)) {
            return null;
        }
        $plain = static fn (string $part): string => str_starts_with($part, '"') ? str_replace('""', '"', substr($part, 1, -1)) : $part;

        return new self($plain($m[1]), $plain($m[2]));
    }

    private static function quoted(string $part): string
    {
        return '' === $part || 1 === preg_match('/[."]/', $part) ? Quotes::around($part) : $part;
    }
}
