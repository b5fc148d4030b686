<?php

declare(strict_types=1);

namespace Fasti\Core\Catalog;

/** Where a field stands: its table and its name, as values. */
final readonly class FieldPlace implements \Stringable
{
    public function __construct(public string $schema, public string $table, public string $column)
    {
    }

    public function place(): Place
    {
        return new Place($this->schema, $this->table);
    }

    /** For the keys of arrays: equal for equal fields only. */
    public function key(): string
    {
        return $this->schema."\0".$this->table."\0".$this->column;
    }

    public static function ofKey(string $key): self
    {
        [$schema, $table, $column] = explode("\0", $key, 3) + [1 => '', 2 => ''];

        return new self($schema, $table, $column);
    }

    /** `main.station.code` */
    public function __toString(): string
    {
        return new Place($this->schema, $this->table).'.'.new Place('', $this->column);
    }

    /**
     * Reads `table.field` or `schema.table.field`, with parts in quotation marks where they hold a dot.
     *
     * @return self|null null where the text is no field; without a schema, its schema is ''
     */
    public static function parse(string $text): ?self
    {
        $part = '("(?:[^"]|"")*"|[^".]+)';
        if (1 !== preg_match("/^(?:$part\\.)?$part\\.$part$/u", $text, $m)) {
            return null;
        }
        $plain = static fn (string $part): string => str_starts_with($part, '"') ? str_replace('""', '"', substr($part, 1, -1)) : $part;

        return new self($plain($m[1]), $plain($m[2]), $plain($m[3]));
    }
}
