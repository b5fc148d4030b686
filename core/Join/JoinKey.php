<?php

declare(strict_types=1);

namespace Fasti\Core\Join;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Catalog\Table;

/** Fields that tell the rows of a table apart, to which other fields may lead. */
final readonly class JoinKey
{
    public const PRIMARY = 'primary';
    public const UNIQUE = 'unique';
    /** Nothing declares it: it is called like a key, in a table that has none. */
    public const LIKELY = 'likely';

    /** @param non-empty-list<string> $columns */
    public function __construct(public Table $table, public array $columns, public string $standing)
    {
    }

    /**
     * Unique indexes count where they have no condition and consist of plain columns.
     *
     * @return list<self> the primary key first
     */
    public static function of(Table $table): array
    {
        $keys = [];
        $add = static function (array $columns, string $standing) use ($table, &$keys): void {
            $columns = array_values(array_filter($columns, is_string(...)));
            $sorted = $columns;
            sort($sorted);
            $known = implode("\0", $sorted);
            if ([] !== $columns && !isset($keys[$known])) {
                $keys[$known] = new self($table, $columns, $standing);
            }
        };
        if (null !== $table->primaryKey) {
            $add($table->primaryKey->columns, self::PRIMARY);
        }
        foreach ($table->uniqueKeys as $key) {
            // Where there is no primary key, what is unique is the key.
            $add($key->columns, [] === $keys ? self::PRIMARY : self::UNIQUE);
        }
        foreach ($table->indexes as $index) {
            $columns = array_map(static fn ($part): string => $part->column, $index->parts);
            $plain = [] === array_filter($index->parts, static fn ($part): bool => null === $table->column($part->column) || null !== $part->length);
            if ($index->unique && null === $index->where && $plain) {
                $add($columns, [] === $keys ? self::PRIMARY : self::UNIQUE);
            }
        }
        if ([] === $keys && !$table->kind->isView()) {
            $likely = self::likely($table);
            if (null !== $likely) {
                $add([$likely], self::LIKELY);
            }
        }

        return array_values($keys);
    }

    public function single(): bool
    {
        return 1 === \count($this->columns);
    }

    /** The field that is called like a key: `id`, `oid`, `<table>_id`, or the first one when it ends like a key. */
    private static function likely(Table $table): ?string
    {
        $first = null;
        foreach ($table->columns as $i => $column) {
            $words = NameWords::of($column->name);
            $last = $words[\count($words) - 1] ?? '';
            $rest = \array_slice($words, 0, -1);
            if (\in_array(strtolower($column->name), ['id', 'oid', 'uuid', 'guid'], true)) {
                return $column->name;
            }
            if (NameWords::isKeyEnding($last) && implode('', $rest) === implode('', NameWords::singular(NameWords::of($table->name)))) {
                return $column->name;
            }
            $first ??= 0 === $i && NameWords::isKeyEnding($last) && !NameWords::isPlain($column->name) && $table->columns[0] instanceof Column
                ? $column->name : null;
        }

        return $first;
    }

    public function key(): Key
    {
        return new Key(null, $this->columns);
    }

    public function id(): string
    {
        return $this->table->place()->key()."\0".implode("\0", $this->columns);
    }
}
